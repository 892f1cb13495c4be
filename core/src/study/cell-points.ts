import type { Point3 } from '../geometry';
import type { Ground } from '../project';
import type { Piece } from '../scene';
import type { FlatTarget } from './flat-target';
import { GLASS_OFF_M, partOfPoint, partsError, POINT_PARTS, pointsFor, spreadPoints } from './glass-points';
import { coverTest } from './inside-solid';
import type { StudyValues } from './kinds';
import { blankPoints, cellAt, INSIDE, type SensorGrid } from './sensor-grid';
import { targetSurface } from './target-surface';

/** Points that the values of sensors over glass are means of, in the order of the sensors. */
export interface CellPoints {
  /** The points as sensors. */
  grid: SensorGrid;
  /** Of each sensor, the point after its last. */
  ends: Uint32Array;
  /** Of each point, which eighth of its pane's it is among; `POINT_PARTS` for one that stands for a cell that none fell into. */
  part: Uint8Array;
}

/** Points of a pane: fewer where there are many. */
const POINTS = { together: 16_384, least: 16, most: 512 };

/** Keys of what each eighth of the points adds to the first measure. */
export const PART_KEYS = Array.from({ length: POINT_PARTS }, (_, b) => `p${b + 1}`);

/**
 * Points of panes in a low-discrepancy order, each in the cell of the grid that it falls into. Those that lie inside the
 * ground or one of the solids are flagged: nothing reaches them.
 */
export function cellPoints(
  panes: readonly FlatTarget[],
  grid: SensorGrid,
  ground: Ground,
  solids: readonly Piece[],
): CellPoints {
  const isCovered = coverTest(ground, solids);
  const perPane = pointsFor(POINTS, panes.length);
  const sensorAt = new Map<string, number>();
  for (let s = 0; s < grid.count; s++)
    sensorAt.set(`${grid.target[s]} ${grid.cells[s * 2]} ${grid.cells[s * 2 + 1]}`, s);
  const own: { at: Point3; part: number; number: number }[][] = Array.from({ length: grid.count }, () => []);
  panes.forEach((pane, t) => {
    const surface = targetSurface(pane, ground);
    spreadPoints(pane, perPane).forEach((p, i) => {
      const { column, row } = pane.sensorAt ? { column: 0, row: 0 } : cellAt(pane, p);
      const s = sensorAt.get(`${t} ${column} ${row}`);
      if (s !== undefined)
        own[s]!.push({ at: surface.at(p, GLASS_OFF_M), part: partOfPoint(i, perPane), number: i });
    });
  });
  own.forEach((points, s) => {
    if (points.length === 0)
      points.push({
        at: [grid.positions[s * 3]!, grid.positions[s * 3 + 1]!, grid.positions[s * 3 + 2]!],
        part: POINT_PARTS,
        number: 0,
      });
  });
  const count = own.reduce((sum, points) => sum + points.length, 0);
  const found: CellPoints = {
    grid: blankPoints(count, panes.length),
    ends: new Uint32Array(grid.count),
    part: new Uint8Array(count),
  };
  let k = 0;
  own.forEach((points, s) => {
    for (const { at, part, number } of points) {
      found.grid.cells[k * 2] = number;
      found.grid.positions.set(at, k * 3);
      found.grid.normals.set(grid.normals.subarray(s * 3, s * 3 + 3), k * 3);
      found.grid.areas[k] = grid.areas[s]! / points.length;
      found.grid.target[k] = grid.target[s]!;
      if (isCovered(at)) found.grid.covered[k] = INSIDE;
      found.part[k++] = part;
    }
    found.ends[s] = k;
  });
  return found;
}

/** The points of the sensors from `from` up to `to`. */
export function pointRange({ ends }: CellPoints, from: number, to: number): { from: number; to: number } {
  return { from: from > 0 ? ends[from - 1]! : 0, to: to > 0 ? ends[to - 1]! : 0 };
}

/** Points of a cell from which on its eighths tell its error; of fewer what they differ by one by one does. */
const ENOUGH = 2 * POINT_PARTS;

/**
 * Values of sensors as means of those of their points, with what each eighth adds to the measure named first, and the error
 * of that (NaN of a single point).
 */
export function meanOfPoints(
  values: StudyValues,
  { ends, part }: CellPoints,
  from: number,
  to: number,
  first: string,
): StudyValues {
  const begin = from > 0 ? ends[from - 1]! : 0;
  const means = Object.fromEntries(
    [...Object.keys(values), 'error', ...PART_KEYS].map((key) => [key, new Float32Array(to - from)]),
  );
  const parts = new Float64Array(POINT_PARTS);
  for (let s = from; s < to; s++) {
    const [a, b] = [(s > 0 ? ends[s - 1]! : 0) - begin, ends[s]! - begin];
    const count = b - a;
    for (const [key, all] of Object.entries(values)) {
      let sum = 0;
      for (let k = a; k < b; k++) sum += all[k]!;
      means[key]![s - from] = sum / count;
    }
    const main = values[first]!;
    parts.fill(0);
    for (let k = a; k < b; k++) {
      const own = part[begin + k]!;
      if (own < POINT_PARTS) parts[own]! += main[k]! / count;
      else for (let i = 0; i < POINT_PARTS; i++) parts[i]! += main[k]! / count / POINT_PARTS;
    }
    PART_KEYS.forEach((key, i) => (means[key]![s - from] = parts[i]!));
    means.error![s - from] = count >= ENOUGH ? partsError(parts) : errorOfFew(main, a, b);
  }
  return means;
}

/** Twice the standard error of the mean of some values. */
function errorOfFew(values: Float32Array, from: number, to: number): number {
  const count = to - from;
  if (count < 2) return NaN;
  let sum = 0;
  for (let k = from; k < to; k++) sum += values[k]!;
  let squares = 0;
  for (let k = from; k < to; k++) squares += (values[k]! - sum / count) ** 2;
  return 2 * Math.sqrt(squares / (count - 1) / count);
}
