import { bounds, centroid, clipBox, contains, type Point2, type Ring, signedArea } from '../geometry/ring';
import type { Ground, Mass, MassShape, Target } from '../project/schema';
import { groundLevel, groundNormal } from '../scene/ground';
import { massLevels } from '../form/levels';

/** Sensors on targets, in the order in which they are worked: a coarse picture first, then finer ones. */
export interface SensorGrid {
  count: number;
  /** 3 numbers a sensor: where rays begin, off the surface by the target's offset. */
  positions: Float64Array;
  /** 3 numbers a sensor: unit normal of the surface, the side that it faces. */
  normals: Float64Array;
  /** Area of the sensor's cell within the target, m², measured on the surface. */
  areas: Float64Array;
  /** Index of the target. */
  target: Uint16Array;
  /** 2 numbers a sensor: column and row of its cell. */
  cells: Int32Array;
  /** Sensors of the first, coarse picture; those of the second are up to `medium`. */
  coarse: number;
  medium: number;
  /** Area of each target that a building stands on and that is therefore not measured, m². */
  builtOverM2: number[];
}

/** Cells thinner than this share of a full one are dropped. */
const LEAST_SHARE = 1e-6;

/** How many cells a target's bounding box has; cheap, to refuse absurd grids before they are laid. */
export function cellCount(target: Pick<Target, 'outline' | 'spacingM'>): number {
  const { minX, minY, maxX, maxY } = bounds(target.outline);
  const box = ((maxX - minX) / target.spacingM) * ((maxY - minY) / target.spacingM);
  return Math.max(1, (Math.abs(signedArea(target.outline)) / ((maxX - minX) * (maxY - minY) || 1)) * box);
}

/** One cell of a target as drawn: the part of its square that lies within the outline. */
export function cellOutline(target: Target, column: number, row: number): Point2[] {
  const { minX, minY } = bounds(target.outline);
  const s = target.spacingM;
  return clipBox(
    target.outline,
    minX + column * s,
    minY + row * s,
    minX + (column + 1) * s,
    minY + (row + 1) * s,
  );
}

/**
 * Lays a square grid from the lower left corner of each target's bounding box. A sensor stands at the middle of its cell,
 * or, where that lies outside the outline, at the centre of the part within. Cells under a building are left out.
 */
export function layGrid(
  targets: readonly Target[],
  ground: Ground,
  masses: readonly MassShape[],
): SensorGrid {
  const covers = masses.filter((mass) => standsOn(mass, ground)).map((mass) => mass.footprint);
  const laid: { p: Point2; area: number; target: number; column: number; row: number; offset: number }[] = [];
  const builtOverM2 = targets.map(() => 0);
  const normalOf = (target: Target, p: Point2) =>
    target.levelM === undefined ? groundNormal(ground, p) : ([0, 0, 1] as const);
  targets.forEach((target, t) => {
    const { minX, minY, maxX, maxY } = bounds(target.outline);
    const s = target.spacingM;
    const columns = Math.ceil((maxX - minX) / s - 1e-9);
    const rows = Math.ceil((maxY - minY) / s - 1e-9);
    for (let row = 0; row < rows; row++) {
      const strip = clipBox(target.outline, minX, minY + row * s, maxX, minY + (row + 1) * s);
      for (let column = 0; column < columns; column++) {
        const part = clipBox(
          strip,
          minX + column * s,
          minY + row * s,
          minX + (column + 1) * s,
          minY + (row + 1) * s,
        );
        const plan = part.length < 3 ? 0 : Math.abs(signedArea(part));
        if (plan < LEAST_SHARE * s * s) continue;
        const middle: Point2 = [minX + (column + 0.5) * s, minY + (row + 0.5) * s];
        const p = contains(target.outline, middle) ? middle : centroid(part);
        const area = plan / normalOf(target, p)[2];
        if (target.levelM === undefined && covers.some((footprint) => within(footprint, p)))
          builtOverM2[t]! += area;
        else laid.push({ p, area, target: t, column, row, offset: target.offsetM });
      }
    }
  });
  const level = (cell: { column: number; row: number }) =>
    (cell.column & 3) === 1 && (cell.row & 3) === 1
      ? 0
      : (cell.column & 1) === 1 && (cell.row & 1) === 1
        ? 1
        : 2;
  const levels = [0, 1, 2].map((wanted) => laid.filter((cell) => level(cell) === wanted));
  const ordered = levels.flat();
  const grid: SensorGrid = {
    count: ordered.length,
    positions: new Float64Array(ordered.length * 3),
    normals: new Float64Array(ordered.length * 3),
    areas: new Float64Array(ordered.length),
    target: new Uint16Array(ordered.length),
    cells: new Int32Array(ordered.length * 2),
    coarse: levels[0]!.length,
    medium: levels[0]!.length + levels[1]!.length,
    builtOverM2,
  };
  ordered.forEach((cell, i) => {
    const [x, y] = cell.p;
    const target = targets[cell.target]!;
    const z = target.levelM ?? groundLevel(ground, cell.p);
    const normal = normalOf(target, cell.p);
    grid.positions.set(
      [x + normal[0] * cell.offset, y + normal[1] * cell.offset, z + normal[2] * cell.offset],
      i * 3,
    );
    grid.normals.set(normal, i * 3);
    grid.areas[i] = cell.area;
    grid.target[i] = cell.target;
    grid.cells.set([cell.column, cell.row], i * 2);
  });
  return grid;
}

function standsOn(mass: MassShape, ground: Ground): boolean {
  const { bottomM } = massLevels(mass, ground);
  return mass.footprint.outer.some((corner) => bottomM <= groundLevel(ground, corner) + 0.05);
}

function within(footprint: Mass['footprint'], p: Point2): boolean {
  return contains(footprint.outer as Ring, p) && !footprint.holes.some((hole) => contains(hole, p));
}
