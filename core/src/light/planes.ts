import type { Point3 } from '../geometry';
import type { ObstacleLayer, TriangleTree } from '../trace';
import { frameOf } from './cosine-fan';

/** One side of a plane in which surfaces lie, and what they throw light back as. */
export interface Plane {
  /** A number in `REFLECTING`. */
  reflects: number;
  normal: Point3;
  u: Point3;
  v: Point3;
  /** Along the normal from the origin, metres. */
  offset: number;
}

/** Normals and offsets are taken in steps, so that triangles of one plane share it and its numbers to the last bit. */
const NORMAL_STEP = 1e-6;
const OFFSET_STEP = 1e-3;

/** The planes that triangles lie in, by their numbers. */
export class Planes {
  readonly all: Plane[] = [];
  private readonly known = new Map<string, number>();
  private readonly ofTriangle = new WeakMap<TriangleTree, Int32Array>();

  /**
   * The plane of a triangle, on the side that is met.
   * @param leaf its place in leaf order; @param fromBehind whether it is met against its normal
   */
  ofLeaf(tree: TriangleTree, reflects: ObstacleLayer['reflects'], leaf: number, fromBehind: boolean): number {
    let known = this.ofTriangle.get(tree);
    if (!known) this.ofTriangle.set(tree, (known = new Int32Array(tree.order.length * 2).fill(-1)));
    const at = leaf * 2 + Number(fromBehind);
    if (known[at]! < 0) {
      const { vertices: v, order } = tree;
      const o = leaf * 9;
      const normal = normalAt(v, o, fromBehind ? -1 : 1);
      known[at] = this.of(reflects[order[leaf]!]!, normal, [v[o]!, v[o + 1]!, v[o + 2]!]);
    }
    return known[at]!;
  }

  /** The plane through a point. @param normal unit length, towards the side that is met */
  of(reflects: number, normal: Point3, through: Point3): number {
    const steps = normal.map((k) => Math.round(k / NORMAL_STEP) + 0);
    const length = Math.hypot(...steps);
    const rounded: Point3 = [steps[0]! / length, steps[1]! / length, steps[2]! / length];
    const along = rounded[0] * through[0] + rounded[1] * through[1] + rounded[2] * through[2];
    const step = Math.round(along / OFFSET_STEP) + 0;
    const key = `${reflects} ${steps.join(' ')} ${step}`;
    let plane = this.known.get(key);
    if (plane === undefined) {
      plane = this.all.length;
      this.all.push({ reflects, normal: rounded, ...frameOf(rounded), offset: step * OFFSET_STEP });
      this.known.set(key, plane);
    }
    return plane;
  }
}

/** Unit normal of a triangle, to the side from which its corners run anticlockwise; turned by −1. */
function normalAt(v: Float64Array, o: number, turn: 1 | -1): Point3 {
  const [ex, ey, ez] = [v[o + 3]! - v[o]!, v[o + 4]! - v[o + 1]!, v[o + 5]! - v[o + 2]!];
  const [fx, fy, fz] = [v[o + 6]! - v[o]!, v[o + 7]! - v[o + 1]!, v[o + 8]! - v[o + 2]!];
  const n: Point3 = [ey * fz - ez * fy, ez * fx - ex * fz, ex * fy - ey * fx];
  const length = (Math.hypot(...n) || 1) * turn;
  return [n[0] / length, n[1] / length, n[2] / length];
}
