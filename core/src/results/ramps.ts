import { interpolateLab, piecewise } from 'd3-interpolate';

/** From 0 to 1 to a colour, perceptually even. */
export type Ramp = (share: number) => string;

const ramp = (...stops: string[]): Ramp => piecewise(interpolateLab, stops);

/** Hours of sun: indigo night to pale gold, lightness rising evenly. */
const sun = ramp('#1f2350', '#46508c', '#7d7ba0', '#b7a07f', '#e3c26c', '#fbf1c6');

/** The ramps of results by name. */
export const RAMPS = {
  sun,
  /** Time in shade: the same the other way round. */
  shade: ((share) => sun(1 - share)) as Ramp,
  /** Sky light: slate to chalk. */
  sky: ramp('#26343f', '#4d6170', '#7d939c', '#afbdbb', '#d8ddd3', '#f6f5ea'),
  /** Energy: ink, ember, straw. */
  heat: ramp('#22181c', '#5a2328', '#9c3d26', '#d07630', '#ecb45f', '#fbecb4'),
  /** What was lost and what was won: indigo, paper, marigold. */
  change: ramp('#2a3070', '#7b80ad', '#f3eee1', '#e2b052', '#9a5a08'),
  /** How much is taken where: nothing is paper, most is ember going dark. */
  taken: ramp('#f3eee1', '#e9c08a', '#c96f35', '#8a2f22', '#4a1a22'),
} as const;

export type RampName = keyof typeof RAMPS;

/** How values are coloured. */
export interface Scale {
  min: number;
  max: number;
  ramp: RampName;
  /** In so many equal steps; evenly where there are none. */
  steps?: number | null;
}

/** The tone of a value on a scale, as a share of the ramp. */
export function shareOn({ min, max, steps }: Scale, value: number): number {
  const share = Math.max(0, Math.min(1, (value - min) / Math.max(1e-9, max - min)));
  if (!steps || steps < 2) return share;
  return Math.min(steps - 1, Math.floor(share * steps)) / (steps - 1);
}

/** The colour of a value on a scale, as `#rrggbb` or `rgb(r, g, b)`. */
export function colourOn(scale: Scale, value: number): string {
  return RAMPS[scale.ramp](shareOn(scale, value));
}

/** A round number at or above the greatest value: the top of a scale. */
export function niceTop(max: number): number {
  if (max <= 0) return 1;
  const power = 10 ** Math.floor(Math.log10(max));
  for (const m of [1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10]) if (m * power >= max - 1e-9) return m * power;
  return 10 * power;
}
