import { escapeXml } from '../civil';
import type { Project } from '../project';
import { type Measure, measuresIn, shareAtLeast, STUDY_KINDS, type StudyResult } from '../study';
import { colourOn, niceTop, type Scale } from './ramps';
import { resultMap } from './result-map';
import { legendSvg, resultTitle } from './result-svg';

const INK = '#3a362e';
const SOFT = '#8a8577';
const MARGIN_MM = 10;
/** Width and height of the box that each map fits into, so that a year is seen at once, and what stands about it. */
const MAP_MM = [50, 26] as const;
const GAP_MM = 8;
const CAPTION_MM = 7;
const CAPTION_WIDTH_MM = 26;
const TITLE_MM = 8;
const LEGEND_MM = 18;
/** Maps side by side. */
const COLUMNS = { month: 4, hour: 6 } as const;
/** Tones of even colour: cells of the same tone are one path. */
const TONES = 60;

export type Series = NonNullable<Measure['series']>;

/** The series that a result has: values for each month, for each hour of the day. */
export function seriesIn({ summary, values }: StudyResult): Series[] {
  return [...new Set(measuresIn(summary.kind, values).flatMap(({ series }) => series ?? []))];
}

/** Mean of each of a series over what is measured, weighted with area. */
export function seriesMeans(
  { summary, values, grid }: StudyResult,
  series: Series,
): { measure: Measure; mean: number }[] {
  const { measuredM2 } = shareAtLeast(values[STUDY_KINDS[summary.kind].measures[0].key]!, grid.areas, 0);
  return measuresIn(summary.kind, values)
    .filter((measure) => measure.series === series)
    .map((measure) => {
      const sum = values[measure.key]!.reduce(
        (all, value, i) => (Number.isNaN(value) ? all : all + value * grid.areas[i]!),
        0,
      );
      return { measure, mean: measuredM2 > 0 ? sum / measuredM2 : 0 };
    });
}

/** The one scale of all maps of a series. */
export function seriesScale(result: StudyResult, series: Series): Scale {
  const most = seriesMeans(result, series).reduce(
    (max, { measure }) => result.values[measure.key]!.reduce((m, value) => (value > m ? value : m), max),
    0,
  );
  return { min: 0, max: niceTop(most), ramp: STUDY_KINDS[result.summary.kind].ramp };
}

/** A series as small maps side by side on one scale, each with its mean: millimetres. */
export function seriesSvg(project: Project, result: StudyResult, series: Series): string {
  const look = seriesScale(result, series);
  const means = seriesMeans(result, series);
  const map = resultMap(project, result, { fitMm: MAP_MM });
  const columns = COLUMNS[series];
  const rows = Math.ceil(means.length / columns);
  const [w, h] = [Math.max(map.widthMm, CAPTION_WIDTH_MM) + GAP_MM, map.heightMm + CAPTION_MM + GAP_MM / 2];
  const width = Math.max(120, 2 * MARGIN_MM + columns * w - GAP_MM);
  const height = 2 * MARGIN_MM + TITLE_MM + rows * h + LEGEND_MM;
  const { unit, digits } = means[0]!.measure;
  const maps = means.map(({ measure, mean }, i) => {
    const at = [MARGIN_MM + (i % columns) * w, MARGIN_MM + TITLE_MM + Math.floor(i / columns) * h];
    const values = result.values[measure.key]!;
    const tones = new Map<string, string>();
    for (const { sensor, path } of map.cells) {
      if (Number.isNaN(values[sensor]!)) continue;
      const colour = colourOn({ ...look, steps: TONES }, values[sensor]!);
      tones.set(colour, (tones.get(colour) ?? '') + path);
    }
    return [
      `<g id="${measure.key}" transform="translate(${at.map((v) => v.toFixed(3)).join(' ')})" data-mean="${mean.toFixed(4)}">`,
      `<text y="3" font-size="3.2" fill="${INK}"><tspan font-weight="bold">${escapeXml(measure.label)}</tspan> ${mean.toFixed(digits)}</text>`,
      `<g transform="translate(0 ${CAPTION_MM - 2})"><g fill-rule="evenodd" shape-rendering="crispEdges">`,
      ...[...tones].map(([colour, path]) => `<path d="${path}" fill="${colour}"/>`),
      `</g><path d="${map.outlines}" fill="none" stroke="${SOFT}" stroke-width="0.18"/></g></g>`,
    ].join('');
  });
  const title = `${resultTitle(project, result)} – by ${series === 'month' ? 'month' : 'hour of the day'}`;
  return `${[
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width.toFixed(3)}mm" height="${height.toFixed(3)}mm" viewBox="0 0 ${width.toFixed(3)} ${height.toFixed(3)}" font-family="sans-serif">`,
    `<title>${escapeXml(title)}</title>`,
    `<g id="title"><text x="${MARGIN_MM}" y="${MARGIN_MM}" font-size="3.8" fill="${INK}">${escapeXml(title)}</text></g>`,
    ...maps,
    legendSvg(
      look,
      {
        label: `${STUDY_KINDS[result.summary.kind].measures[0].label}, and its mean beside each name`,
        unit,
        digits,
      },
      [MARGIN_MM, height - LEGEND_MM, Math.min(100, width - 2 * MARGIN_MM)],
    ),
    '</svg>',
  ].join('\n')}\n`;
}
