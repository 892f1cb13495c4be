import { firstBlock, type TriangleTree } from '../trace';
import { type Plane, Planes } from './planes';
import type { Surroundings } from './surroundings';

/** Powers of two of the sides of cells, metres: 6 cm to a kilometre. */
const [LEAST, MOST] = [-4, 10];
/** Powers by which cells get smaller where the middle of one is not where its light is. */
const FINER = 2;
/** How many sides of a cell lie between it and what sees it: cells under 8 m away are at most 2 m wide. */
const SIDES_AWAY = 4;
/** What is too small for any cell is taken where it is, to this. */
const EXACT_M = 1 / 64;
/** How far before its surface the light of a cell is taken, and how near to a surface its place must be, metres. */
const OFF_M = 0.01;
const ON_M = 0.01;
/** Where in a cell it may be taken, as shares of its sides: where a surface is first. */
const PLACES = [
  [0.5, 0.5],
  [0.25, 0.25],
  [0.75, 0.75],
  [0.75, 0.25],
  [0.25, 0.75],
] as const;
/** Parts of a cell, each way, from which it is looked whether its place is reached. */
const PARTS = 4;
/** Numbers of rows go up to half of this either way. */
const ROWS = 2 ** 26;

/**
 * Squares of the planes of a scene, each with a place where its light is taken for all of it: wide far from what sees
 * them, narrow near by, and narrower where their place lies off the surface or something stands between. Which square
 * a place belongs to depends on nothing but the place and how far away it is seen from.
 */
export class LightCells {
  readonly planes = new Planes();
  /** 3 numbers a cell: a little before its surface; and its normal. */
  readonly positions: number[] = [];
  readonly normals: number[] = [];
  /** What each throws light back as. */
  readonly reflects: number[] = [];
  /** Of each, from which of its parts it was looked (the upper 16 bits), and from the middle of which its place is reached. */
  private readonly looked: number[] = [];
  /** By plane and power: cells by row and column; −1 for one that has no place on a surface. */
  private readonly known = new Map<number, Map<number, number>>();

  private readonly layers: Surroundings['layers'];
  /** Everything that has surfaces. */
  private readonly trees: readonly TriangleTree[];

  constructor({ layers, transmissions }: Surroundings) {
    this.layers = layers;
    this.trees = [...layers, ...transmissions].map(({ tree }) => tree);
  }

  get count(): number {
    return this.reflects.length;
  }

  /** The cell of a place of a plane. @param isEndless whether all of the plane is surface: ground; @param away how far, metres */
  cellAt(plane: number, x: number, y: number, z: number, away: number, isEndless: boolean): number {
    const of = this.planes.all[plane]!;
    const { u, v } = of;
    const [a, b] = [u[0] * x + u[1] * y + u[2] * z, v[0] * x + v[1] * y + v[2] * z];
    const first = Math.ceil(Math.log2(away / SIDES_AWAY));
    for (let power = Math.max(LEAST, Math.min(MOST, first)); power >= LEAST; power -= FINER) {
      const side = 2 ** power;
      const [i, j] = [Math.floor(a / side), Math.floor(b / side)];
      const cells = this.cellsOf(plane, power);
      const key = i * ROWS + j;
      let cell = cells.get(key);
      if (cell === undefined) cells.set(key, (cell = this.make(of, i, j, side, isEndless)));
      if (cell >= 0 && (this.isNear(of, a, b, side, cell) || this.isReached(of, x, y, z, cell))) return cell;
    }
    const [i, j] = [Math.floor(a / EXACT_M), Math.floor(b / EXACT_M)];
    const cells = this.cellsOf(plane, LEAST - 1);
    const key = i * ROWS + j;
    let cell = cells.get(key);
    if (cell === undefined) cells.set(key, (cell = this.put(of, (i + 0.5) * EXACT_M, (j + 0.5) * EXACT_M)));
    return cell;
  }

  private cellsOf(plane: number, power: number): Map<number, number> {
    const key = plane * 32 + power - LEAST + 1;
    let cells = this.known.get(key);
    if (!cells) this.known.set(key, (cells = new Map()));
    return cells;
  }

  private make(of: Plane, i: number, j: number, side: number, isEndless: boolean): number {
    for (const [s, t] of PLACES) {
      const [a, b] = [(i + s) * side, (j + t) * side];
      if (isEndless || this.isOnSurface(of, a, b)) return this.put(of, a, b);
    }
    return -1;
  }

  private put({ u, v, normal: n, offset, reflects }: Plane, a: number, b: number): number {
    for (let k = 0; k < 3; k++) {
      this.positions.push(u[k]! * a + v[k]! * b + n[k]! * (offset + OFF_M));
      this.normals.push(n[k]!);
    }
    this.reflects.push(reflects);
    this.looked.push(0);
    return this.reflects.length - 1;
  }

  private isOnSurface({ u, v, normal: n, offset }: Plane, a: number, b: number): boolean {
    const o = offset + ON_M / 2;
    const at = (k: 0 | 1 | 2) => u[k] * a + v[k] * b + n[k] * o;
    return this.trees.some(
      (tree) => firstBlock(tree, at(0), at(1), at(2), -n[0], -n[1], -n[2], ON_M, null, true) >= 0,
    );
  }

  /** Whether nothing stands between the place of a cell and the middle of the part in which a place of it lies. */
  private isNear(of: Plane, a: number, b: number, side: number, cell: number): boolean {
    const part = side / PARTS;
    const [i, j] = [Math.floor(a / part), Math.floor(b / part)];
    const bit = (((i % PARTS) + PARTS) % PARTS) * PARTS + (((j % PARTS) + PARTS) % PARTS);
    if (((this.looked[cell]! >>> (bit + PARTS * PARTS)) & 1) === 0) {
      const { u, v, normal: n, offset } = of;
      const at = (k: 0 | 1 | 2) => u[k] * (i + 0.5) * part + v[k] * (j + 0.5) * part + n[k] * offset;
      const isReached = this.isReached(of, at(0), at(1), at(2), cell);
      this.looked[cell]! |= (1 << (bit + PARTS * PARTS)) | (Number(isReached) << bit);
    }
    return ((this.looked[cell]! >>> bit) & 1) === 1;
  }

  /** Whether nothing stands between a place of the plane and the place of the cell. */
  private isReached({ normal: n }: Plane, x: number, y: number, z: number, cell: number): boolean {
    const [ox, oy, oz] = [x + n[0] * OFF_M, y + n[1] * OFF_M, z + n[2] * OFF_M];
    const p = this.positions;
    const [dx, dy, dz] = [p[cell * 3]! - ox, p[cell * 3 + 1]! - oy, p[cell * 3 + 2]! - oz];
    return this.layers.every(({ tree }) => firstBlock(tree, ox, oy, oz, dx, dy, dz, 1, null, true) < 0);
  }
}
