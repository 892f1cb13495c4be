import { csvText, MASK_ALTITUDES, MASK_AZIMUTHS, type Option, type ShadingMask } from '@dial-shade/core';
import { contours } from 'd3';
import { useRef } from 'react';
import { Section } from '../app/fields';
import { ChartButtons } from '../climate/chart-buttons';
import { SkyChart } from '../sun/sky-chart';
import { useGlass } from './glass-store';
import { useAside } from '../workers/use-aside';

/** Lines of the mask: of no shade, half and full. */
const LINES = [
  { share: 0.02, dash: '1 2.5', name: 'none' },
  { share: 0.5, dash: '4 2', name: 'half' },
  { share: 0.98, dash: '', name: 'full' },
] as const;

/** The sky before the window: where the sun may stand for its devices to shade it, and what else hides of it. */
export function MaskSection({ option }: { option: Option }) {
  const chosen = useGlass((state) => state.chosen);
  const mask = useAside(
    chosen === null ? null : (worker) => worker.maskOfWindow(option.id, chosen),
    [option.id, chosen],
    150,
  );
  const svg = useRef<SVGSVGElement>(null);
  if (chosen === null || !mask) return null;
  return (
    <Section title="Its sky" name="shading-mask">
      <SkyChart
        projection="stereographic"
        light={null}
        svg={svg}
        label="Sky before the window: what its devices shade of it, and sun paths"
        over={(at) => <MaskLayer mask={mask} at={at} />}
      />
      <p className="visually-quiet mb-1">
        With the sun there, the devices shade the glass wholly within the full line, half of it along the
        dashed, and none of it beyond the dotted. Brown: what everything else hides. Grey lies behind the
        wall.
      </p>
      <ChartButtons svg={svg} name="shading-mask" csv={() => maskCsv(mask)} />
    </Section>
  );
}

function MaskLayer({
  mask: { devices, others },
  at,
}: {
  mask: ShadingMask;
  at: (altitudeDeg: number, azimuthDeg: number) => [number, number];
}) {
  const [da, dh] = [360 / MASK_AZIMUTHS, 90 / MASK_ALTITUDES];
  const cell = (i: number) => {
    const [a, h] = [Math.floor(i / MASK_ALTITUDES) * da, (i % MASK_ALTITUDES) * dh];
    const corners = [at(h, a), at(h, a + da), at(h + dh, a + da), at(h + dh, a)];
    return `M${corners.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join('L')}Z`;
  };
  const cells = (wanted: (i: number) => boolean) =>
    Array.from(devices, (_, i) => (wanted(i) ? cell(i) : '')).join('');
  // In four steps, so that the drawing stays small.
  const step = (i: number) => Math.ceil(Math.min(1, Math.max(0, devices[i]!)) * 4 - 0.08);
  return (
    <g>
      <path d={cells((i) => Number.isNaN(devices[i]!))} fill="var(--rule)" opacity={0.6} />
      {[1, 2, 3, 4].map((n) => (
        <path key={n} d={cells((i) => step(i) === n)} fill="var(--shade)" opacity={0.16 * n} />
      ))}
      <path d={cells((i) => others[i]! >= 0.5)} fill="#9a6a3a" opacity={0.5} />
      {LINES.map(({ share, dash, name }) => (
        <path
          key={name}
          d={lineOf(devices, share, at)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.1}
          strokeDasharray={dash}
          data-line={name}
        />
      ))}
    </g>
  );
}

/** Where the share in shade is so much, as a path; cells behind the glass have none. */
function lineOf(
  values: Float32Array,
  share: number,
  at: (altitudeDeg: number, azimuthDeg: number) => [number, number],
): string {
  // Rows of altitude, columns of azimuth begun in the north once more, so that lines close there.
  const wide = MASK_AZIMUTHS + 1;
  const grid = Array.from({ length: wide * MASK_ALTITUDES }, (_, i) => {
    const value = values[((i % wide) % MASK_AZIMUTHS) * MASK_ALTITUDES + Math.floor(i / wide)]!;
    return Number.isNaN(value) ? 0 : value;
  });
  const isBehind = (x: number, y: number) => {
    const a = Math.min(MASK_AZIMUTHS - 1, Math.max(0, Math.floor(x)));
    const h = Math.min(MASK_ALTITUDES - 1, Math.max(0, Math.floor(y)));
    return Number.isNaN(values[a * MASK_ALTITUDES + h]!);
  };
  const [found] = contours().size([wide, MASK_ALTITUDES]).smooth(true).thresholds([share])(grid);
  return found!.coordinates
    .flat()
    .map((ring) => {
      let path = '';
      let isOn = false;
      for (const [x, y] of ring as [number, number][]) {
        // Edges of the chart and of the sky behind the glass are no lines of the device.
        const isEdge = x <= 0.5 || x >= wide - 0.5 || y <= 0.5 || y >= MASK_ALTITUDES - 0.5;
        if (isEdge || isBehind(x, y) || isBehind(x - 1, y) || isBehind(x + 1, y)) {
          isOn = false;
          continue;
        }
        const [px, py] = at((y * 90) / MASK_ALTITUDES, (x * 360) / MASK_AZIMUTHS);
        path += `${isOn ? 'L' : 'M'}${px.toFixed(1)} ${py.toFixed(1)}`;
        isOn = true;
      }
      return path;
    })
    .join('');
}

function maskCsv({ devices, others }: ShadingMask): string {
  const share = (value: number) => (Number.isNaN(value) ? '' : Number(value.toFixed(4)));
  return csvText([
    ['azimuth_deg', 'altitude_deg', 'shaded_by_devices', 'shaded_by_others'],
    ...Array.from(devices, (value, i) => [
      ((Math.floor(i / MASK_ALTITUDES) + 0.5) * 360) / MASK_AZIMUTHS,
      (((i % MASK_ALTITUDES) + 0.5) * 90) / MASK_ALTITUDES,
      share(value),
      share(others[i]!),
    ]),
  ]);
}
