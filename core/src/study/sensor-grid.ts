import { InputError } from '../errors';
import { innerPoint, standsOnGround } from '../form';
import {
  areaWithHoles,
  bounds,
  centroid,
  clipBox,
  contains,
  containsWithHoles,
  type Point2,
  type Point3,
  type Polygon,
  type Ring,
  subtractPolygons,
} from '../geometry';
import type { Ground, MassShape } from '../project';
import type { Piece } from '../scene';
import type { FlatTarget } from './flat-target';
import { visitCells } from './grid-cells';
import { coverTest } from './inside-solid';
import { targetAreaM2, targetSurface } from './target-surface';

/** What a sensor is covered by, so that it is not measured: nothing, a building on its ground, a solid or the ground round it. */
export const FREE = 0;
export const BUILT_OVER = 1;
export const INSIDE = 2;

/**
 * Sensors on targets, in the order in which they are worked: a coarse picture first, then finer ones. They are the same in
 * every option; what an option covers is flagged.
 */
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
  /** FREE, BUILT_OVER or INSIDE. What is not free has no values. */
  covered: Uint8Array;
  /** Sensors of the first, coarse picture; those of the second are up to `medium`. */
  coarse: number;
  medium: number;
  /** Area of each target that a building stands on and that is therefore not measured, m². */
  builtOverM2: number[];
  /** Area of each target that lies inside the ground or a solid and is therefore not measured, m². */
  insideM2: number[];
}

/** How many sensors of a grid are measured. */
export function freeSensors({ covered }: Pick<SensorGrid, 'covered'>): number {
  return covered.reduce((sum, by) => sum + Number(by === FREE), 0);
}

interface LaidCell {
  at: Point3;
  normal: Point3;
  area: number;
  target: number;
  column: number;
  row: number;
  covered: number;
}

/** Cells that a grid may touch: a thin target has many that hold next to nothing of it. */
const MAX_CELLS = 400_000;

function tooManyCells({ name, spacingM }: FlatTarget): InputError {
  return new InputError(
    'too-many-rays',
    `The grid of “${name}” touches over ${MAX_CELLS.toLocaleString('en')} cells, though it is not large: it is too thin or too jagged for a spacing of ${spacingM} m. Widen the spacing, or draw it plainer.`,
  );
}

/** How many cells a target has, nearly; cheap, to refuse absurd grids before they are laid. */
export function cellCount(target: FlatTarget): number {
  if (target.sensorAt) return 1;
  return Math.max(1, targetAreaM2(target) / target.spacingM ** 2);
}

/** Side of the cells of a target: all of it where it has one sensor. */
export function cellSize({ outline, sensorAt, spacingM }: FlatTarget): number {
  if (!sensorAt) return spacingM;
  const { minX, minY, maxX, maxY } = bounds(outline);
  return Math.max(maxX - minX, maxY - minY);
}

/** Corners of one cell of a target, before it is clipped. */
export function cellBox(target: FlatTarget, column: number, row: number): [number, number, number, number] {
  const { minX, minY } = bounds(target.outline);
  const s = cellSize(target);
  return [minX + column * s, minY + row * s, minX + (column + 1) * s, minY + (row + 1) * s];
}

/** The column and the row of the cell that a point of a target lies in. */
export function cellAt(target: FlatTarget, [x, y]: Point2): { column: number; row: number } {
  const { minX, minY } = bounds(target.outline);
  const s = cellSize(target);
  return { column: Math.floor((x - minX) / s), row: Math.floor((y - minY) / s) };
}

/** What of a cell lies within the target. */
export function cellShape(target: FlatTarget, column: number, row: number): Polygon[] {
  const box = cellBox(target, column, row);
  const part = clipBox(target.outline, ...box);
  const holes = target.kind === 'plane' ? target.holes.map((hole) => clipBox(hole, ...box)) : [];
  return cutOut(
    part,
    holes.filter((hole) => hole.length >= 3),
  );
}

/**
 * Lays a square grid from the lower left corner of each target's bounding box. A sensor stands at the middle of its cell,
 * or, where that lies outside the outline, at the centre of the part within. Cells of the ground under a building are flagged,
 * and so is what lies inside the ground or one of the solids. Throws InputError `too-many-rays` when a thin outline
 * touches more cells than can be laid.
 */
export function layGrid(
  targets: readonly FlatTarget[],
  ground: Ground,
  masses: readonly MassShape[],
  solids: readonly Piece[] = [],
): SensorGrid {
  const covers = masses
    .filter((mass) => standsOnGround(mass, ground))
    .map(({ footprint }) => ({ footprint, box: bounds(footprint.outer) }));
  const isBuiltOver = (p: Point2) =>
    covers.some(
      ({ footprint, box }) =>
        p[0] >= box.minX && p[0] <= box.maxX && p[1] >= box.minY && p[1] <= box.maxY && within(footprint, p),
    );
  const laid: LaidCell[] = [];
  const builtOverM2 = targets.map(() => 0);
  const insideM2 = targets.map(() => 0);
  const isCovered = coverTest(ground, solids);
  let visited = 0;
  targets.forEach((target, t) => {
    const surface = targetSurface(target, ground);
    const { outline, holes, normal } = surface;
    const onGround = target.kind === 'ground' && target.levelM === undefined;
    visitCells(outline, holes, cellSize(target), ({ column, row, middle, areaM2, part }) => {
      if (++visited > MAX_CELLS) throw tooManyCells(target);
      const p = target.sensorAt ?? (containsWithHoles(part, middle) ? middle : middleOf(part));
      const area = target.kind === 'plane' ? areaM2 : areaM2 / normal(p)[2];
      const at = surface.at(p, target.offsetM);
      let covered = FREE;
      if (onGround && isBuiltOver(p)) {
        covered = BUILT_OVER;
        builtOverM2[t]! += area;
      } else if (isCovered(at)) {
        covered = INSIDE;
        insideM2[t]! += area;
      }
      laid.push({ at, normal: normal(p), area, target: t, column, row, covered });
    });
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
    covered: Uint8Array.from(ordered, ({ covered }) => covered),
    coarse: levels[0]!.length,
    medium: levels[0]!.length + levels[1]!.length,
    builtOverM2,
    insideM2,
  };
  ordered.forEach((cell, i) => {
    grid.positions.set(cell.at, i * 3);
    grid.normals.set(cell.normal, i * 3);
    grid.areas[i] = cell.area;
    grid.target[i] = cell.target;
    grid.cells.set([cell.column, cell.row], i * 2);
  });
  return grid;
}

/** A grid of so many points of panes, all to be filled in. */
export function blankPoints(count: number, panes: number): SensorGrid {
  return {
    count,
    positions: new Float64Array(count * 3),
    normals: new Float64Array(count * 3),
    areas: new Float64Array(count),
    target: new Uint16Array(count),
    cells: new Int32Array(count * 2),
    covered: new Uint8Array(count).fill(FREE),
    coarse: count,
    medium: count,
    builtOverM2: new Array<number>(panes).fill(0),
    insideM2: new Array<number>(panes).fill(0),
  };
}

/** Some sensors of a grid. */
export function gridOf(grid: SensorGrid, sensors: readonly number[]): SensorGrid {
  const three = (of: Float64Array) =>
    Float64Array.from(
      { length: sensors.length * 3 },
      (_, i) => of[sensors[Math.floor(i / 3)]! * 3 + (i % 3)]!,
    );
  return {
    ...grid,
    count: sensors.length,
    positions: three(grid.positions),
    normals: three(grid.normals),
    areas: Float64Array.from(sensors, (s) => grid.areas[s]!),
    target: Uint16Array.from(sensors, (s) => grid.target[s]!),
    covered: Uint8Array.from(sensors, (s) => grid.covered[s]!),
  };
}

/** A point in the largest part of what a cell holds: the centre where that lies within. */
function middleOf({ outer, holes }: Polygon): Point2 {
  const parts = cutOut(outer, holes);
  // What is thinner than the grid of the clipper has an area and no part; it is measured at the middle of its box.
  if (parts.length === 0) return centroid(outer);
  return innerPoint(parts.reduce((best, part) => (areaWithHoles(part) > areaWithHoles(best) ? part : best)));
}

function cutOut(outer: Ring, holes: readonly Ring[]): Polygon[] {
  if (holes.length === 0) return [{ outer, holes: [] }];
  return subtractPolygons(
    [{ outer, holes: [] }],
    holes.map((hole) => ({ outer: hole, holes: [] })),
  );
}

function within(footprint: MassShape['footprint'], p: Point2): boolean {
  return contains(footprint.outer, p) && !footprint.holes.some((hole) => contains(hole, p));
}
