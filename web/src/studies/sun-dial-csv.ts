import { csvText, IN_SUN } from '@dial-shade/core';
import type { ProbeYear } from './use-probe-year';

/** What stands in the sky of a point as comma-separated text: for each bearing and height, the name of what is met first. */
export function sunDialCsv({ sky, owners }: Pick<ProbeYear, 'sky' | 'owners'>): string {
  const { azimuths, altitudes, state } = sky;
  return csvText([
    ['azimuth_deg', 'altitude_deg', 'met_first'],
    ...Array.from(state, (owner, i) => [
      ((Math.floor(i / altitudes) + 0.5) * 360) / azimuths,
      (((i % altitudes) + 0.5) * 90) / altitudes,
      owner === IN_SUN ? '' : owners[owner]!,
    ]),
  ]);
}
