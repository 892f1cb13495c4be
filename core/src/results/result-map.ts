import { bounds, type Point2, type Polygon } from '../geometry';
import { standsOnGround } from '../form';
import { type Project, standingBodies } from '../project';
import type { FlatTarget, StudyResult } from '../study';
import { resultCells } from './result-cells';

/** Between planes that stand one beside the other, metres; and the width after which a new row begins on a map to scale. */
const GAP_M = 1.5;
const ROW_M = 120;

/** A result laid out flat, in millimetres on paper from the upper left corner of what is measured. */
export interface ResultMap {
  widthMm: number;
  heightMm: number;
  /** Each measured cell: its sensor and its outline as path data. */
  cells: { sensor: number; path: string }[];
  /** Outlines of targets, and of what stands on the ground, as path data. */
  outlines: string;
  footprints: string;
  /** Whether any of it is seen in plan. */
  hasPlan: boolean;
}

/** Where each target is drawn: what lies on the ground or level in plan, planes one beside the other below it. */
function laid(targets: readonly FlatTarget[], rowM: number): Point2[] {
  const plan = targets.filter(({ kind }) => kind === 'ground').flatMap(({ outline }) => outline);
  const box = plan.length ? bounds(plan) : { minX: 0, minY: 0, maxX: 0, maxY: 0 };
  let [x, top, height] = [box.minX, box.minY - GAP_M, 0];
  return targets.map(({ kind, outline }): Point2 => {
    if (kind === 'ground') return [0, 0];
    const own = bounds(outline);
    const [w, h] = [own.maxX - own.minX, own.maxY - own.minY];
    if (x > box.minX && x + w > box.minX + rowM) [x, top, height] = [box.minX, top - height - GAP_M, 0];
    const shift: Point2 = [x - own.minX, top - own.maxY];
    x += w + GAP_M;
    height = Math.max(height, h);
    return shift;
  });
}

/** The outlines of targets where they are drawn. */
function laidOutlines(targets: readonly FlatTarget[], shifts: readonly Point2[]): Polygon[] {
  return targets.flatMap((target, t) =>
    moved([{ outer: target.outline, holes: target.kind === 'plane' ? target.holes : [] }], shifts[t]!),
  );
}

const moved = (polygons: readonly Polygon[], [dx, dy]: Point2): Polygon[] =>
  polygons.map(({ outer, holes }) => ({
    outer: outer.map(([x, y]): Point2 => [x + dx, y + dy]),
    holes: holes.map((hole) => hole.map(([x, y]): Point2 => [x + dx, y + dy])),
  }));

/** The width of rows, metres, with which all of it is drawn the largest in a box. */
function fittingRow(targets: readonly FlatTarget[], [widthMm, heightMm]: readonly [number, number]): number {
  const widths = targets.map(({ outline }) => bounds(outline)).map(({ minX, maxX }) => maxX - minX);
  const widest = Math.max(1e-6, ...widths);
  const sizeWith = (rowM: number) => {
    const { minX, minY, maxX, maxY } = bounds(
      laidOutlines(targets, laid(targets, rowM)).flatMap(({ outer }) => outer),
    );
    return Math.max((maxX - minX) / widthMm, (maxY - minY) / heightMm);
  };
  return ROW_STEPS.map((step) => step * widest).reduce((best, rowM) =>
    sizeWith(rowM) < sizeWith(best) ? rowM : best,
  );
}

/** Rows that are tried, in widths of the widest plane. */
const ROW_STEPS = [1, 1.5, 2, 3, 4, 6, 8, 12, 16, 24];

/**
 * Lays a result out flat: what lies on the ground or level in plan, planes one beside the other.
 * @param mmPerM millimetres that a metre takes, or the box in millimetres that it is to fit into
 */
export function resultMap(
  project: Project,
  result: StudyResult,
  mmPerM: number | { fitMm: readonly [width: number, height: number] },
): ResultMap {
  const { targets } = result;
  const shifts = laid(targets, typeof mmPerM === 'number' ? ROW_M : fittingRow(targets, mmPerM.fitMm));
  const hasPlan = targets.some(({ kind }) => kind === 'ground');
  const outlines = laidOutlines(targets, shifts);
  const box = bounds(outlines.flatMap(({ outer }) => outer));
  const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
  const mm =
    typeof mmPerM === 'number'
      ? mmPerM
      : Math.min(mmPerM.fitMm[0] / Math.max(width, 1e-6), mmPerM.fitMm[1] / Math.max(height, 1e-6));
  const place = ([x, y]: Point2) => `${((x - box.minX) * mm).toFixed(3)} ${((box.maxY - y) * mm).toFixed(3)}`;
  const path = (polygons: readonly Polygon[]) =>
    polygons
      .flatMap(({ outer, holes }) => [outer, ...holes])
      .map((ring) => `M${ring.map(place).join('L')}Z`)
      .join('');
  return {
    widthMm: width * mm,
    heightMm: height * mm,
    cells: resultCells(result, project.site.ground).map(({ sensor, targetIndex, flat }) => ({
      sensor,
      path: path(moved(flat, shifts[targetIndex]!)),
    })),
    outlines: path(outlines),
    footprints: hasPlan
      ? path(
          standingBodies(project, result.summary.option)
            .filter((body) => standsOnGround(body, project.site.ground))
            .map(({ footprint }) => footprint),
        )
      : '',
    hasPlan,
  };
}
