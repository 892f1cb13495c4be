import { shareAtLeast, type SunHoursResult } from '@dial-shade/core';
import type { ResultStyle } from '../board/result-cells';
import { sunRamp } from '../theme/palette';
import type { Mark } from './marks';

export const HISTOGRAM = { width: 212, bars: 44, ramp: 10 } as const;
const BINS = 24;
/** Steps of the ramp as it is drawn. */
const STEPS = 48;

export const spanOf = ({ minH, maxH }: Pick<ResultStyle, 'minH' | 'maxH'>): number =>
  Math.max(1e-9, maxH - minH);

/** How much area has each value, over the ramp and its figures. */
export function histogramMarks(
  { grid, values }: SunHoursResult,
  look: Pick<ResultStyle, 'minH' | 'maxH'>,
  soft: string,
): Mark[] {
  const { width, bars, ramp } = HISTOGRAM;
  const span = spanOf(look);
  const area = new Array<number>(BINS).fill(0);
  values.hours.forEach((h, i) => {
    if (Number.isNaN(h)) return;
    const bin = Math.max(0, Math.min(BINS - 1, Math.floor(((h - look.minH) / span) * BINS)));
    area[bin]! += grid.areas[i]!;
  });
  const most = Math.max(...area, 1e-9);
  return [
    ...area.map((one, i): Mark => ({
      kind: 'rect',
      x: (i * width) / BINS + 0.5,
      y: bars - (one / most) * (bars - 4),
      width: width / BINS - 1,
      height: (one / most) * (bars - 4),
      fill: sunRamp((i + 0.5) / BINS),
      stroke: soft,
      strokeWidth: 0.4,
      title: `${one.toFixed(1)} m²`,
    })),
    ...Array.from({ length: STEPS }, (_, i): Mark => ({
      kind: 'rect',
      x: (i * width) / STEPS,
      y: bars + 2,
      width: width / STEPS + 0.5,
      height: ramp,
      fill: sunRamp((i + 0.5) / STEPS),
    })),
    ...[0, 0.25, 0.5, 0.75, 1].map((t): Mark => ({
      kind: 'text',
      x: t * width,
      y: bars + ramp + 14,
      text: (look.minH + t * span).toFixed(span > 40 ? 0 : 1),
      size: 10,
      fill: soft,
      anchor: t === 0 ? 'start' : t === 1 ? 'end' : 'middle',
    })),
  ];
}

/** How much of what is measured has at least the hours asked for: the share, and of what. */
export function answerInWords(
  { grid, values, targets }: SunHoursResult,
  atLeastH: number,
): { share: number; percent: string; rest: string } {
  const { share } = shareAtLeast(values.hours, grid.areas, atLeastH);
  const where = targets.length === 1 ? `“${targets[0]!.name}”` : `${targets.length} targets`;
  const partly = values.hours.some(Number.isNaN) ? 'what is measured of ' : '';
  return {
    share,
    percent: `${(share * 100).toFixed(share > 0.995 || share < 0.005 ? 1 : 0)} %`,
    rest: `of ${partly}${where} has at least ${Number(atLeastH.toFixed(2))} h`,
  };
}
