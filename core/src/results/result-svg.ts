import { escapeXml, roundLength } from '../civil';
import type { Project } from '../project';
import { shownMeasure, shownValues, type StudyResult } from '../study';
import { colourOn, RAMPS, type Scale } from './ramps';
import { resultMap } from './result-map';

const INK = '#3a362e';
const SOFT = '#8a8577';
/** Room round the drawing for title, legend, scale bar and north, millimetres. */
const MARGIN_MM = 16;
const LEGEND_MM = 22;
const STEPS = 40;

/** The name of a drawing of a result. */
export function resultTitle(project: Project, { summary }: StudyResult): string {
  const option = project.options.find(({ id }) => id === summary.option);
  return `${project.name} – ${summary.study}${option ? `, ${option.letter} ${option.name}` : ''}`;
}

/** The tones of a scale with its ends and its middle, and what it is of. Lengths in millimetres. */
export function legendSvg(
  look: Scale,
  { label, unit, digits }: { label: string; unit: string; digits: number },
  [left, top, width]: readonly [number, number, number],
): string {
  const step = width / STEPS;
  const tones = Array.from({ length: STEPS }, (_, i) => {
    const value = look.min + ((i + 0.5) / STEPS) * (look.max - look.min);
    return `<rect x="${(left + i * step).toFixed(3)}" y="${top.toFixed(3)}" width="${(step + 0.05).toFixed(3)}" height="4" fill="${look.steps ? colourOn(look, value) : RAMPS[look.ramp]((i + 0.5) / STEPS)}"/>`;
  });
  const ticks = [0, 0.5, 1].map((share) => {
    const value = (look.min + share * (look.max - look.min)).toFixed(digits);
    return `<text x="${(left + share * width).toFixed(3)}" y="${(top + 8).toFixed(3)}" font-size="2.8" text-anchor="middle" fill="${INK}">${value}</text>`;
  });
  return `<g id="legend">${tones.join('')}${ticks.join('')}<text x="${left}" y="${(top - 1.5).toFixed(3)}" font-size="3" fill="${INK}">${escapeXml(`${label}, ${unit}`)}</text></g>`;
}

/**
 * The map of a result in true scale, 1:`scale`, millimetres: cells by colour with their value as `data-value`, outlines
 * of targets, what stands on the ground in plan, north, a scale bar and a legend.
 */
export function resultSvg(project: Project, result: StudyResult, look: Scale, scale = 200): string {
  const values = shownValues(result);
  const measure = shownMeasure(result);
  const mm = 1000 / scale;
  const map = resultMap(project, result, mm);
  const width = Math.max(90, map.widthMm + 2 * MARGIN_MM);
  const height = map.heightMm + 2 * MARGIN_MM + LEGEND_MM;
  const cells = map.cells
    .filter(({ sensor }) => !Number.isNaN(values[sensor]!))
    .map(({ sensor, path }) => {
      const value = values[sensor]!;
      return `<path d="${path}" fill="${colourOn(look, value)}" data-value="${value.toFixed(4)}"/>`;
    });
  const barM = roundLength((width / mm) * 0.2);
  const barX = width - MARGIN_MM;
  const title = `${resultTitle(project, result)} – 1:${scale}`;
  return `${[
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width.toFixed(3)}mm" height="${height.toFixed(3)}mm" viewBox="0 0 ${width.toFixed(3)} ${height.toFixed(3)}" font-family="sans-serif">`,
    `<title>${escapeXml(title)}</title><desc>${escapeXml(measure.definition)}</desc>`,
    `<clipPath id="frame"><rect x="-3" y="-3" width="${(width - 2 * MARGIN_MM + 6).toFixed(3)}" height="${(map.heightMm + 6).toFixed(3)}"/></clipPath>`,
    `<g transform="translate(${MARGIN_MM} ${MARGIN_MM})">`,
    `<g id="footprints" clip-path="url(#frame)"><path d="${map.footprints}" fill="#d9d2c2" fill-rule="evenodd" stroke="${INK}" stroke-width="0.2"/></g>`,
    `<g id="cells" fill-rule="evenodd" shape-rendering="crispEdges">${cells.join('')}</g>`,
    `<g id="targets"><path d="${map.outlines}" fill="none" stroke="${SOFT}" stroke-width="0.18"/></g>`,
    '</g>',
    legendSvg(look, measure, [MARGIN_MM, height - LEGEND_MM + 4, Math.min(80, width - 2 * MARGIN_MM)]),
    `<g id="scale"><path d="M${(barX - barM * mm).toFixed(3)} ${(height - 8).toFixed(3)}H${barX.toFixed(3)}" stroke="${INK}" stroke-width="0.6"/><text x="${barX.toFixed(3)}" y="${(height - 9.5).toFixed(3)}" font-size="3" text-anchor="end" fill="${INK}">${barM} m</text></g>`,
    map.hasPlan
      ? `<g id="north"><g transform="translate(${(width - 10).toFixed(3)} 9) rotate(${project.site.north.trueNorthDeg.toFixed(3)})"><path d="M0 -5L2 4L0 2.4L-2 4Z" fill="${INK}"/></g></g>`
      : '',
    `<g id="title"><text x="${MARGIN_MM}" y="8" font-size="3.6" fill="${INK}">${escapeXml(title)}</text></g>`,
    '</svg>',
  ]
    .filter(Boolean)
    .join('\n')}\n`;
}
