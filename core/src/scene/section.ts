import { dot, outlinesFrom, type Point2, type Point3, type Polygon } from '../geometry';
import type { Piece, SurfaceKind } from './piece';

/** A plane with a frame in it: points are origin + a·u + b·v; u, v and the normal n are unit vectors, n = u × v. */
export interface CutPlane {
  origin: Point3;
  u: Point3;
  v: Point3;
  n: Point3;
}

/** What a plane meets of a piece, in the frame of the plane, metres. */
export interface Section {
  /** Where surfaces are cut: pairs of points, four numbers a line. */
  lines: number[];
  /** The faces of what is solid; of what is hollow there are only lines. */
  faces: Polygon[];
}

/** A level plane at a height: u along x, v along y. */
export function levelPlane(levelM: number): CutPlane {
  return { origin: [0, 0, levelM], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] };
}

/**
 * An upright plane along a line: u from the first point towards the second, v upwards from level 0; its normal points to
 * the right of somebody who walks along the line.
 */
export function uprightPlane([ax, ay]: Point2, [bx, by]: Point2): CutPlane {
  const length = Math.hypot(bx - ax, by - ay) || 1;
  const u: Point3 = [(bx - ax) / length, (by - ay) / length, 0];
  return { origin: [ax, ay, 0], u, v: [0, 0, 1], n: [u[1], -u[0], 0] };
}

/** Kinds of surface that only what is hollow or thin has. */
const INSIDE: ReadonlySet<SurfaceKind> = new Set([
  'glazing',
  'door',
  'bar',
  'reveal',
  'partition',
  'furniture',
  'crown',
  'fence',
]);

/**
 * What a plane meets of a piece: the line in which it cuts each triangle, and for a closed solid its faces with their
 * holes. A corner that lies in the plane counts as lying beyond it, so that lines join into rings.
 */
export function sectionOf(piece: Piece, plane: CutPlane): Section {
  const { positions: p, surfaceOf, surfaces } = piece;
  const { origin, u, v, n } = plane;
  const offset = dot(origin, n);
  const lines: number[] = [];
  const flat = (x: number, y: number, z: number): Point2 => {
    const [dx, dy, dz] = [x - origin[0], y - origin[1], z - origin[2]];
    return [dx * u[0] + dy * u[1] + dz * u[2], dx * v[0] + dy * v[1] + dz * v[2]];
  };
  const [nx, ny, nz] = n;
  if (!meetsBox(boxOf(piece), plane, offset)) return { lines, faces: [] };
  for (let t = 0; t < surfaceOf.length; t++) {
    const o = t * 9;
    const h0 = p[o]! * nx + p[o + 1]! * ny + p[o + 2]! * nz - offset;
    const h1 = p[o + 3]! * nx + p[o + 4]! * ny + p[o + 5]! * nz - offset;
    const h2 = p[o + 6]! * nx + p[o + 7]! * ny + p[o + 8]! * nz - offset;
    // Nearly all triangles lie on one side: nothing is made for them.
    if (h0 > 0 === h1 > 0 && h1 > 0 === h2 > 0) continue;
    const heights = [h0, h1, h2];
    const above = heights.map((height) => height > 0);
    const crossing: Point2[] = [];
    // From where the outline goes up to where it comes down: so all lines of a solid run round it the same way.
    for (const goesUp of [false, true])
      for (let k = 0; k < 3; k++) {
        const m = (k + 1) % 3;
        if (above[k] === above[m] || above[m] !== goesUp) continue;
        // The same edge gives the same point, whichever triangle asks.
        const [low, high] = above[k] ? [m, k] : [k, m];
        const s = heights[low]! / (heights[low]! - heights[high]!);
        const at = (axis: number) =>
          p[o + low * 3 + axis]! + s * (p[o + high * 3 + axis]! - p[o + low * 3 + axis]!);
        crossing.push(flat(at(0), at(1), at(2)));
      }
    const [a, b] = crossing as [Point2, Point2];
    if (Math.hypot(b[0] - a[0], b[1] - a[1]) > 1e-9) lines.push(...a, ...b);
  }
  const isHollow = surfaces.some(({ kind }) => INSIDE.has(kind));
  return { lines, faces: isHollow ? [] : outlinesFrom(ringsOf(lines)) };
}

/** Least and greatest x, y and z of a piece; pieces are never changed. */
const boxes = new WeakMap<Piece, Float64Array>();

function boxOf(piece: Piece): Float64Array {
  let box = boxes.get(piece);
  if (!box) {
    box = Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
    const { positions } = piece;
    for (let i = 0; i < positions.length; i++) {
      const k = i % 3;
      if (positions[i]! < box[k]!) box[k] = positions[i]!;
      if (positions[i]! > box[k + 3]!) box[k + 3] = positions[i]!;
    }
    boxes.set(piece, box);
  }
  return box;
}

/** Whether a plane may meet what lies in a box. */
function meetsBox(box: Float64Array, { n }: CutPlane, offset: number): boolean {
  let [least, greatest] = [-offset, -offset];
  for (let k = 0; k < 3; k++) {
    const [a, b] = [box[k]! * n[k]!, box[k + 3]! * n[k]!];
    least += Math.min(a, b);
    greatest += Math.max(a, b);
  }
  return least <= 1e-9 && greatest >= -1e-9;
}

/** Rings that lines join into; lines that lead nowhere are left out. */
function ringsOf(lines: readonly number[]): Point2[][] {
  const key = (x: number, y: number) => `${Math.round(x * 1e5)},${Math.round(y * 1e5)}`;
  const from = new Map<string, number[]>();
  for (let i = 0; i < lines.length; i += 4) {
    const k = key(lines[i]!, lines[i + 1]!);
    const there = from.get(k);
    if (there) there.push(i);
    else from.set(k, [i]);
  }
  const rings: Point2[][] = [];
  for (const [start, waiting] of from)
    while (waiting.length) {
      const ring: Point2[] = [];
      let at = start;
      for (let next = from.get(at)?.pop(); next !== undefined; next = from.get(at)?.pop()) {
        ring.push([lines[next]!, lines[next + 1]!]);
        at = key(lines[next + 2]!, lines[next + 3]!);
        if (at === start) break;
      }
      if (at === start && ring.length > 2) rings.push(ring);
    }
  return rings;
}
