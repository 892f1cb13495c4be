import { SkyChart } from '../sun/sky-chart';
import type { ProbeYear } from './use-probe-year';

/** The sky of a probe: what stands in it, in the colour of who takes its sun, and the paths of the sun. */
export function SunDial({ light }: { light: ProbeYear }) {
  return (
    <SkyChart
      projection="equidistant"
      light={light}
      label="Sun dial: the sky of the probe with obstructions and sun paths"
    />
  );
}
