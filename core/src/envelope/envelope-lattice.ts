import { contours } from 'd3-contour';
import {
  bounds,
  contains,
  intersectPolygons,
  type Point2,
  type Polygon,
  subtractPolygons,
} from '../geometry';
import type { Envelope } from '../project';
import type { EnvelopeSolver } from './envelope-field';

/** Heights at the nodes of a lattice over all of what may be built on, and a little beyond. */
export interface EnvelopeLattice {
  columns: number;
  rows: number;
  x0: number;
  y0: number;
  stepM: number;
  /** Highest level at each node, whether or not it may be built on; infinite where nothing limits it. Rows go north. */
  levelM: Float64Array;
  groundM: Float64Array;
  /** Which reason decides; −1 where none does. */
  decidedBy: Int16Array;
  /** What may be built on. */
  open: Polygon[];
}

/** Nodes of a coarse square that is not looked into: where its middle is as its corners have it, so nearly. */
const SMOOTH_M = 0.02;
const SQUARE = 4;

/**
 * The heights of an envelope at the nodes of a lattice. Squares of four by four whose corners have one reason and whose
 * middle lies within 2 cm of them are filled between their corners; everything else is exact.
 */
export function envelopeLattice(
  solver: EnvelopeSolver,
  envelope: Pick<Envelope, 'noBuild'>,
  stepM: number,
): EnvelopeLattice {
  const { minX, minY, maxX, maxY } = bounds(solver.outline);
  const [x0, y0] = [minX - stepM, minY - stepM];
  const nodes = (span: number) => Math.ceil(span / stepM / SQUARE + 1e-9) * SQUARE + SQUARE + 1;
  const [columns, rows] = [nodes(maxX - minX), nodes(maxY - minY)];
  const count = columns * rows;
  const [levelM, groundM] = [new Float64Array(count).fill(NaN), new Float64Array(count)];
  const decidedBy = new Int16Array(count).fill(-1);
  const place = (i: number): Point2 => [x0 + (i % columns) * stepM, y0 + Math.floor(i / columns) * stepM];
  const solve = (i: number) => {
    if (!Number.isNaN(levelM[i]!)) return;
    const found = solver.at(place(i));
    levelM[i] = found.levelM;
    decidedBy[i] = found.decidedBy;
  };
  const across = (columns - 1) / SQUARE;
  const smooth = new Uint8Array(across * ((rows - 1) / SQUARE));
  const cornersOf = (square: number) => {
    const first = Math.floor(square / across) * SQUARE * columns + (square % across) * SQUARE;
    return [first, first + SQUARE, first + SQUARE * columns, first + SQUARE * (columns + 1)] as const;
  };
  for (let square = 0; square < smooth.length; square++) {
    const corners = cornersOf(square);
    const middle = corners[0] + (SQUARE / 2) * (columns + 1);
    for (const i of [...corners, middle]) solve(i);
    const mean = corners.reduce((sum, i) => sum + levelM[i]!, 0) / 4;
    const isOne = corners.every((i) => decidedBy[i] === decidedBy[middle]);
    if (isOne && Math.abs(mean - levelM[middle]!) < SMOOTH_M) smooth[square] = 1;
  }
  // An edge that a rough square shares is exact, so first all of those.
  const nodesOf = function* (square: number) {
    const [first] = cornersOf(square);
    for (let dy = 0; dy <= SQUARE; dy++)
      for (let dx = 0; dx <= SQUARE; dx++)
        yield { i: first + dy * columns + dx, s: dx / SQUARE, t: dy / SQUARE };
  };
  for (let square = 0; square < smooth.length; square++)
    if (!smooth[square]) for (const { i } of nodesOf(square)) solve(i);
  for (let square = 0; square < smooth.length; square++) {
    if (!smooth[square]) continue;
    const corners = cornersOf(square);
    const [a, b, c, d] = corners.map((i) => levelM[i]!) as [number, number, number, number];
    for (const { i, s, t } of nodesOf(square)) {
      if (!Number.isNaN(levelM[i]!)) continue;
      levelM[i] = (a * (1 - s) + b * s) * (1 - t) + (c * (1 - s) + d * s) * t;
      decidedBy[i] = decidedBy[corners[0]]!;
    }
  }
  for (let i = 0; i < count; i++) groundM[i] = solver.groundAt(place(i));
  const outline = { outer: solver.outline, holes: [] };
  const strips = envelope.noBuild.map((outer) => ({ outer, holes: [] }));
  const open = strips.length > 0 ? subtractPolygons([outline], strips) : [outline];
  return { columns, rows, x0, y0, stepM, levelM, groundM, decidedBy, open };
}

/** The place of a node. */
export function nodePlace({ columns, x0, y0, stepM }: EnvelopeLattice, i: number): Point2 {
  return [x0 + (i % columns) * stepM, y0 + Math.floor(i / columns) * stepM];
}

/** The level at a place: between the nodes about it; `least` takes the least of them instead. */
export function levelOn(lattice: EnvelopeLattice, [x, y]: Point2, least = false): number {
  const { columns, rows, x0, y0, stepM, levelM } = lattice;
  const u = Math.max(0, Math.min(columns - 1.000001, (x - x0) / stepM));
  const v = Math.max(0, Math.min(rows - 1.000001, (y - y0) / stepM));
  const [column, row] = [Math.floor(u), Math.floor(v)];
  const i = row * columns + column;
  const [a, b, c, d] = [levelM[i]!, levelM[i + 1]!, levelM[i + columns]!, levelM[i + columns + 1]!];
  if (least) return Math.min(a, b, c, d);
  const [s, t] = [u - column, v - row];
  // Beside a place without limit, only what is limited is known.
  if (!Number.isFinite(a + b + c + d)) return Math.min(a, b, c, d);
  return (a * (1 - s) + b * s) * (1 - t) + (c * (1 - s) + d * s) * t;
}

/** So much higher than a level is enough to be over it wherever a contour runs. */
const OVER_M = 4;

/** Where it may be built up to a level or higher, within what may be built on. */
export function openAbove(lattice: EnvelopeLattice, levelM: number): Polygon[] {
  return intersectPolygons(superlevel(lattice, levelM), lattice.open);
}

/** The regions of the lattice over a level, not cut to what may be built on. */
export function superlevel(lattice: EnvelopeLattice, levelM: number): Polygon[] {
  const { columns, rows, x0, y0, stepM } = lattice;
  const [found] = contours().size([columns, rows]).thresholds([levelM])(
    // What is far over the level is as good as endless: a contour beside it runs by what is limited.
    Array.from(lattice.levelM, (z) => Math.min(z, levelM + OVER_M)),
  );
  const ring = (points: number[][]): Point2[] =>
    points.slice(0, -1).map(([x, y]): Point2 => [x0 + (x! - 0.5) * stepM, y0 + (y! - 0.5) * stepM]);
  return found!.coordinates.map(([outer, ...holes]) => ({ outer: ring(outer!), holes: holes.map(ring) }));
}

/** A line of one height on the surface. */
export interface ContourLine {
  levelM: number;
  points: Point2[];
}

/** Levels that contours are drawn at, at most. */
const MAX_LEVELS = 80;

/**
 * Lines of equal level on the surface, cut to what may be built on.
 * @param over heights over the `datum` of the frame, or over the `ground` at each place
 */
export function contourLines(
  lattice: EnvelopeLattice,
  everyM: number,
  over: 'datum' | 'ground' = 'datum',
): ContourLine[] {
  const heights =
    over === 'datum'
      ? lattice.levelM
      : lattice.levelM.map((level, i) => Math.max(0, level - lattice.groundM[i]!));
  const isIn = (p: Point2) =>
    lattice.open.some(({ outer, holes }) => contains(outer, p) && !holes.some((hole) => contains(hole, p)));
  let [least, most] = [Infinity, -Infinity];
  heights.forEach((z, i) => {
    if (!Number.isFinite(z) || !isIn(nodePlace(lattice, i))) return;
    least = Math.min(least, z);
    most = Math.max(most, z);
  });
  if (least >= most) return [];
  const step = Math.max(everyM, (most - least) / MAX_LEVELS);
  const lines: ContourLine[] = [];
  const measured = { ...lattice, levelM: heights };
  for (let level = Math.ceil(least / step + 1e-9) * step; level < most; level += step)
    for (const { outer, holes } of superlevel(measured, level))
      for (const ring of [outer, ...holes])
        lines.push(...inside(ring, isIn).map((points) => ({ levelM: level, points })));
  return lines;
}

/** The stretches of a closed line that lie inside. */
function inside(ring: readonly Point2[], isIn: (p: Point2) => boolean): Point2[][] {
  const parts: Point2[][] = [];
  let part: Point2[] = [];
  const close = () => {
    if (part.length > 1) parts.push(part);
    part = [];
  };
  for (let i = 0; i <= ring.length; i++) {
    const p = ring[i % ring.length]!;
    if (isIn(p)) part.push(p);
    else close();
  }
  close();
  return parts;
}
