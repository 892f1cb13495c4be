import { escapeXml, roundLength } from '../civil';
import { bounds, type Point2, type Polygon } from '../geometry';
import { type Project, standingBodies } from '../project';
import { shownMeasure, shownValues, type StudyResult } from '../study';
import { standsOnGround } from '../form';
import { colourOn, RAMPS, type Scale } from './ramps';
import { resultCells } from './result-cells';

const INK = '#3a362e';
const SOFT = '#8a8577';
/** Room round the drawing for title, legend, scale bar and north, millimetres. */
const MARGIN_MM = 16;
const LEGEND_MM = 22;
/** Between planes that stand one beside the other, metres; and the width after which a new row begins. */
const GAP_M = 1.5;
const ROW_M = 120;
const STEPS = 40;

/** Where each target is drawn: what lies on the ground or level in plan, planes one beside the other below it. */
function laid({ targets }: StudyResult): Point2[] {
  const plan = targets.filter(({ kind }) => kind === 'ground').flatMap(({ outline }) => outline);
  const box = plan.length ? bounds(plan) : { minX: 0, minY: 0, maxX: 0, maxY: 0 };
  let [x, top, height] = [box.minX, box.minY - GAP_M, 0];
  return targets.map(({ kind, outline }): Point2 => {
    if (kind === 'ground') return [0, 0];
    const own = bounds(outline);
    const [w, h] = [own.maxX - own.minX, own.maxY - own.minY];
    if (x > box.minX && x + w > box.minX + ROW_M) [x, top, height] = [box.minX, top - height - GAP_M, 0];
    const shift: Point2 = [x - own.minX, top - own.maxY];
    x += w + GAP_M;
    height = Math.max(height, h);
    return shift;
  });
}

/**
 * The map of a result in true scale, 1:`scale`, millimetres: cells by colour with their value as `data-value`, outlines
 * of targets, what stands on the ground in plan, north, a scale bar and a legend.
 */
export function resultSvg(project: Project, result: StudyResult, look: Scale, scale = 200): string {
  const values = shownValues(result);
  const { label, unit, digits, definition } = shownMeasure(result);
  const shifts = laid(result);
  const hasPlan = result.targets.some(({ kind }) => kind === 'ground');
  const moved = (polygons: readonly Polygon[], [dx, dy]: Point2) =>
    polygons.map(({ outer, holes }) => ({
      outer: outer.map(([x, y]): Point2 => [x + dx, y + dy]),
      holes: holes.map((hole) => hole.map(([x, y]): Point2 => [x + dx, y + dy])),
    }));
  const outlines = result.targets.flatMap((target, t) =>
    moved([{ outer: target.outline, holes: target.kind === 'plane' ? target.holes : [] }], shifts[t]!),
  );
  const box = bounds(outlines.flatMap(({ outer }) => outer));
  const mm = 1000 / scale;
  const width = Math.max(90, (box.maxX - box.minX) * mm + 2 * MARGIN_MM);
  const height = (box.maxY - box.minY) * mm + 2 * MARGIN_MM + LEGEND_MM;
  const x = (value: number) => ((value - box.minX) * mm + MARGIN_MM).toFixed(3);
  const y = (value: number) => ((box.maxY - value) * mm + MARGIN_MM).toFixed(3);
  const path = (polygons: readonly Polygon[]) =>
    polygons
      .flatMap(({ outer, holes }) => [outer, ...holes])
      .map((ring) => `M${ring.map((p) => `${x(p[0])} ${y(p[1])}`).join('L')}Z`)
      .join('');
  const cells = resultCells(result, project.site.ground)
    .filter(({ sensor }) => !Number.isNaN(values[sensor]!))
    .map(({ sensor, targetIndex, flat }) => {
      const value = values[sensor]!;
      const d = path(moved(flat, shifts[targetIndex]!));
      return `<path d="${d}" fill="${colourOn(look, value)}" data-value="${value.toFixed(4)}"/>`;
    });
  const footprints = hasPlan
    ? standingBodies(project, result.summary.option)
        .filter((body) => standsOnGround(body, project.site.ground))
        .map(({ footprint }) => footprint)
    : [];
  const legendTop = height - LEGEND_MM + 4;
  const legendWidth = Math.min(80, width - 2 * MARGIN_MM);
  const step = legendWidth / STEPS;
  const tones = Array.from({ length: STEPS }, (_, i) => {
    const value = look.min + ((i + 0.5) / STEPS) * (look.max - look.min);
    return `<rect x="${(MARGIN_MM + i * step).toFixed(3)}" y="${legendTop.toFixed(3)}" width="${(step + 0.05).toFixed(3)}" height="4" fill="${look.steps ? colourOn(look, value) : RAMPS[look.ramp]((i + 0.5) / STEPS)}"/>`;
  });
  const ticks = [0, 0.5, 1].map((share) => {
    const at = MARGIN_MM + share * legendWidth;
    const value = (look.min + share * (look.max - look.min)).toFixed(digits);
    return `<text x="${at.toFixed(3)}" y="${(legendTop + 8).toFixed(3)}" font-size="2.8" text-anchor="middle" fill="${INK}">${value}</text>`;
  });
  const barM = roundLength((width / mm) * 0.2);
  const barX = width - MARGIN_MM;
  const option = project.options.find(({ id }) => id === result.summary.option);
  const title = `${project.name} – ${result.summary.study}${option ? `, ${option.letter} ${option.name}` : ''} – 1:${scale}`;
  return `${[
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width.toFixed(3)}mm" height="${height.toFixed(3)}mm" viewBox="0 0 ${width.toFixed(3)} ${height.toFixed(3)}" font-family="sans-serif">`,
    `<title>${escapeXml(title)}</title><desc>${escapeXml(definition)}</desc>`,
    `<clipPath id="frame"><rect x="${MARGIN_MM - 3}" y="${MARGIN_MM - 3}" width="${(width - 2 * MARGIN_MM + 6).toFixed(3)}" height="${(height - 2 * MARGIN_MM - LEGEND_MM + 6).toFixed(3)}"/></clipPath>`,
    `<g id="footprints" clip-path="url(#frame)"><path d="${path(footprints)}" fill="#d9d2c2" fill-rule="evenodd" stroke="${INK}" stroke-width="0.2"/></g>`,
    `<g id="cells" fill-rule="evenodd" shape-rendering="crispEdges">${cells.join('')}</g>`,
    `<g id="targets"><path d="${path(outlines)}" fill="none" stroke="${SOFT}" stroke-width="0.18"/></g>`,
    `<g id="legend">${tones.join('')}${ticks.join('')}<text x="${MARGIN_MM}" y="${(legendTop - 1.5).toFixed(3)}" font-size="3" fill="${INK}">${escapeXml(`${label}, ${unit}`)}</text></g>`,
    `<g id="scale"><path d="M${(barX - barM * mm).toFixed(3)} ${(height - 8).toFixed(3)}H${barX.toFixed(3)}" stroke="${INK}" stroke-width="0.6"/><text x="${barX.toFixed(3)}" y="${(height - 9.5).toFixed(3)}" font-size="3" text-anchor="end" fill="${INK}">${barM} m</text></g>`,
    hasPlan
      ? `<g id="north"><g transform="translate(${(width - 10).toFixed(3)} 9) rotate(${project.site.north.trueNorthDeg.toFixed(3)})"><path d="M0 -5L2 4L0 2.4L-2 4Z" fill="${INK}"/></g></g>`
      : '',
    `<g id="title"><text x="${MARGIN_MM}" y="8" font-size="3.6" fill="${INK}">${escapeXml(title)}</text></g>`,
    '</svg>',
  ]
    .filter(Boolean)
    .join('\n')}\n`;
}
