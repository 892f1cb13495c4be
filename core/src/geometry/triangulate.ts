import earcut from 'earcut';
import type { Point2, Ring } from './ring';

/** How far a point may lie off an edge and still be on it, as a share of the length of the edge. */
const ON_EDGE = 1e-9;

/**
 * Triangles of an outline with holes (the first ring and the others), as numbers of points, ring after ring. Every point
 * is a corner wherever it lies on an edge, so that triangles meet along whole edges: the triangulation by ears leaves out
 * points in line with their neighbours, as the heads of a row of windows are.
 */
export function triangulate(rings: readonly Ring[]): number[] {
  const points = rings.flat();
  const starts: number[] = [];
  let count = 0;
  for (const ring of rings) {
    if (count > 0) starts.push(count);
    count += ring.length;
  }
  const triangles = earcut(
    points.flatMap(([x, y]) => [x, y]),
    starts,
  );
  const between = pointsOnEdges(points, looseEdges(triangles, rings));
  if (between.size === 0) return triangles;
  const out: number[] = [];
  for (let i = 0; i < triangles.length; i += 3)
    split(triangles[i]!, triangles[i + 1]!, triangles[i + 2]!, between, out);
  return out;
}

const keyOf = (a: number, b: number) => (a < b ? a * 1e7 + b : b * 1e7 + a);

/** Edges of one triangle only that are no edges of a ring. */
function looseEdges(triangles: readonly number[], rings: readonly Ring[]): [number, number][] {
  const seen = new Map<number, [number, number] | null>();
  let first = 0;
  for (const { length } of rings) {
    for (let i = 0; i < length; i++) seen.set(keyOf(first + i, first + ((i + 1) % length)), null);
    first += length;
  }
  for (let i = 0; i < triangles.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[i + k]!, triangles[i + ((k + 1) % 3)]!];
      const key = keyOf(a, b);
      seen.set(key, seen.has(key) ? null : [a, b]);
    }
  return [...seen.values()].filter((edge) => edge !== null);
}

/** Points that lie within edges, in order from the end with the lower number, by edge. */
function pointsOnEdges(points: readonly Point2[], edges: readonly [number, number][]): Map<number, number[]> {
  const found = new Map<number, number[]>();
  if (edges.length === 0) return found;
  const byX = Array.from(points.keys()).sort((i, j) => points[i]![0] - points[j]![0]);
  for (const edge of edges) {
    const [a, b] = edge[0] < edge[1] ? edge : [edge[1], edge[0]];
    const [p, q] = [points[a]!, points[b]!];
    const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
    const length2 = dx * dx + dy * dy;
    const slack = ON_EDGE * Math.sqrt(length2);
    const [low, high] = [Math.min(p[0], q[0]) - slack, Math.max(p[0], q[0]) + slack];
    const on: { i: number; t: number }[] = [];
    for (let k = firstFrom(byX, points, low); k < byX.length && points[byX[k]!]![0] <= high; k++) {
      const i = byX[k]!;
      if (i === a || i === b) continue;
      const [x, y] = [points[i]![0] - p[0], points[i]![1] - p[1]];
      const t = (x * dx + y * dy) / length2;
      if (t > ON_EDGE && t < 1 - ON_EDGE && Math.abs(x * dy - y * dx) <= ON_EDGE * length2) on.push({ i, t });
    }
    if (on.length)
      found.set(
        keyOf(a, b),
        on.sort((one, other) => one.t - other.t).map(({ i }) => i),
      );
  }
  return found;
}

/** The first place in the list from which on x is at least so much. */
function firstFrom(byX: readonly number[], points: readonly Point2[], x: number): number {
  let [low, high] = [0, byX.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (points[byX[middle]!]![0] < x) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** A triangle as fans over the points within its edges. */
function split(a: number, b: number, c: number, between: ReadonlyMap<number, number[]>, out: number[]): void {
  if (a === b || b === c || c === a) return;
  for (const [p, q, r] of [
    [a, b, c],
    [b, c, a],
    [c, a, b],
  ] as const) {
    const on = between.get(keyOf(p, q));
    if (!on) continue;
    const way = [p, ...(p < q ? on : [...on].reverse()), q];
    for (let i = 1; i < way.length; i++) split(r, way[i - 1]!, way[i]!, between, out);
    return;
  }
  out.push(a, b, c);
}
