import {
  colourOn,
  type Scale,
  shareAtLeast,
  shownMeasure,
  shownValues,
  type StudyResult,
} from '@dial-shade/core';
import type { ResultStyle } from '../board/result-cells';
import type { Mark } from './marks';

export const HISTOGRAM = { width: 212, bars: 44, ramp: 10 } as const;
const BINS = 24;
/** Steps of the ramp as it is drawn. */
const STEPS = 48;

export const spanOf = ({ min, max }: Pick<ResultStyle, 'min' | 'max'>): number => Math.max(1e-9, max - min);

/** How much area has each value, over the ramp and its figures. */
export function histogramMarks(result: StudyResult, look: Scale, soft: string): Mark[] {
  const { width, bars, ramp } = HISTOGRAM;
  const span = spanOf(look);
  const colourOf = (share: number) => colourOn(look, look.min + share * (look.max - look.min));
  const area = new Array<number>(BINS).fill(0);
  const { grid } = result;
  shownValues(result).forEach((value, i) => {
    if (Number.isNaN(value)) return;
    const bin = Math.max(0, Math.min(BINS - 1, Math.floor(((value - look.min) / span) * BINS)));
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
      fill: colourOf((i + 0.5) / BINS),
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
      fill: colourOf((i + 0.5) / STEPS),
    })),
    ...[0, 0.25, 0.5, 0.75, 1].map((t): Mark => ({
      kind: 'text',
      x: t * width,
      y: bars + ramp + 14,
      text: (look.min + t * span).toFixed(span > 40 ? 0 : 1),
      size: 10,
      fill: soft,
      anchor: t === 0 ? 'start' : t === 1 ? 'end' : 'middle',
    })),
  ];
}

/** How much of what is measured has at least what is asked for: the share, and of what. */
export function answerInWords(
  result: StudyResult,
  atLeast: number,
): { share: number; percent: string; rest: string } {
  const { grid, targets } = result;
  const main = shownValues(result);
  const { unit, digits } = shownMeasure(result);
  const where = targets.length === 1 ? `“${targets[0]!.name}”` : `${targets.length} targets`;
  const partly = main.some((value, i) => Number.isNaN(value) && grid.covered[i] === 0)
    ? 'what is measured of '
    : '';
  if (Number.isNaN(atLeast))
    return {
      share: NaN,
      percent: `${meanOf(main, grid.areas).toFixed(digits).replace('-', '−')} ${unit}`,
      rest: `on average over ${partly}${where}`,
    };
  const { share } = shareAtLeast(main, grid.areas, atLeast);
  return {
    share,
    percent: `${(share * 100).toFixed(share > 0.995 || share < 0.005 ? 1 : 0)} %`,
    rest: `of ${partly}${where} has at least ${Number(atLeast.toFixed(2))} ${unit}`,
  };
}

/** Mean weighted with area, of what has a value. */
function meanOf(values: Float32Array, areas: Float64Array): number {
  let [sum, area] = [0, 0];
  values.forEach((value, i) => {
    if (Number.isNaN(value)) return;
    sum += value * areas[i]!;
    area += areas[i]!;
  });
  return area > 0 ? sum / area : 0;
}

/** What the legend is of. */
export function legendTitle(result: Pick<StudyResult, 'summary' | 'shown'>): string {
  const { label, unit } = shownMeasure(result);
  return `${label}, ${unit}`;
}
