import Delaunator from 'delaunator';
import type { Point2 } from '../geometry';
import type { Terrain } from '../project';

/** How far the ground goes on, level, beyond the points of a terrain, as a multiple of their extent. */
const APRON = 4;
const APRON_M = 1200;

/** The surface of a terrain as triangles, with a quick way to the triangle over a place. */
export interface TerrainSurface {
  /** 3 numbers a vertex. The vertices behind the given points are those of the apron. */
  vertices: Float64Array;
  /** 3 vertex numbers a triangle, anticlockwise seen from above. */
  triangles: Uint32Array;
  lowM: number;
  levelAt(p: Point2): number;
  normalAt(p: Point2): [number, number, number];
}

const surfaces = new WeakMap<object, TerrainSurface>();

/**
 * The Delaunay triangulation of the spot heights. Beyond them the ground goes on at the level of the nearest outer
 * point, on an apron that reaches at least 1,200 m further.
 */
export function terrainSurface(terrain: Terrain): TerrainSurface {
  let surface = surfaces.get(terrain.points);
  if (!surface) {
    surface = makeSurface(terrain.points);
    surfaces.set(terrain.points, surface);
  }
  return surface;
}

function makeSurface(points: readonly (readonly [number, number, number])[]): TerrainSurface {
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  const [minX, maxX, minY, maxY] = [xs, ys].flatMap((list) => [
    list.reduce((a, b) => Math.min(a, b)),
    list.reduce((a, b) => Math.max(a, b)),
  ]) as [number, number, number, number];
  const middle: Point2 = [(minX + maxX) / 2, (minY + maxY) / 2];
  const reach = Math.hypot(maxX - minX, maxY - minY) * APRON + APRON_M;
  const inner = new Delaunator(points.flatMap(([x, y]) => [x, y]));
  const rim = Array.from(inner.hull.length ? inner.hull : points.keys(), (i) => points[i]!);
  const apron = Array.from({ length: 48 }, (_, i): [number, number, number] => {
    const a = (i / 48) * 2 * Math.PI;
    const [x, y] = [middle[0] + reach * Math.cos(a), middle[1] + reach * Math.sin(a)];
    const nearest = rim.reduce((best, p) =>
      Math.hypot(p[0] - x, p[1] - y) < Math.hypot(best[0] - x, best[1] - y) ? p : best,
    );
    return [x, y, nearest[2]];
  });
  const all = [...points, ...apron];
  const vertices = Float64Array.from(all.flat());
  const { triangles: clockwise } = new Delaunator(all.flatMap(([x, y]) => [x, y]));
  const triangles = Uint32Array.from(clockwise);
  for (let t = 0; t < triangles.length; t += 3)
    if (planArea(vertices, triangles, t) < 0)
      [triangles[t + 1], triangles[t + 2]] = [triangles[t + 2]!, triangles[t + 1]!];
  const lowM = all.reduce((low, p) => Math.min(low, p[2]), Infinity);
  const find = finder(vertices, triangles, [minX, minY, maxX, maxY]);
  const plane = ([x, y]: Point2) => {
    const t = find(x, y);
    const [a, b, c] = [0, 1, 2].map((k) => {
      const v = triangles[t + k]! * 3;
      return [vertices[v]!, vertices[v + 1]!, vertices[v + 2]!] as const;
    }) as [
      readonly [number, number, number],
      readonly [number, number, number],
      readonly [number, number, number],
    ];
    const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
    const [vx, vy, vz] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx] as const;
    return { a, n };
  };
  return {
    vertices,
    triangles,
    lowM,
    levelAt(p) {
      const { a, n } = plane(p);
      return a[2] - (n[0] * (p[0] - a[0]) + n[1] * (p[1] - a[1])) / n[2];
    },
    normalAt(p) {
      const { n } = plane(p);
      const length = Math.hypot(...n);
      return [n[0] / length, n[1] / length, n[2] / length];
    },
  };
}

function planArea(v: Float64Array, triangles: Uint32Array, t: number): number {
  const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
  return (v[b]! - v[a]!) * (v[c + 1]! - v[a + 1]!) - (v[b + 1]! - v[a + 1]!) * (v[c]! - v[a]!);
}

/** Finds the triangle over a place by cells of a grid; beyond the grid it looks through all. */
function finder(v: Float64Array, triangles: Uint32Array, box: [number, number, number, number]) {
  const [minX, minY, maxX, maxY] = box;
  const side = Math.max(1, Math.min(128, Math.ceil(Math.sqrt(triangles.length / 6))));
  const cells: number[][] = Array.from({ length: side * side }, () => []);
  const column = (x: number) => Math.floor(((x - minX) / (maxX - minX || 1)) * side);
  const row = (y: number) => Math.floor(((y - minY) / (maxY - minY || 1)) * side);
  const clamp = (i: number) => Math.max(0, Math.min(side - 1, i));
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [0, 1, 2].map((k) => triangles[t + k]! * 3);
    const x = corners.map((i) => v[i]!);
    const y = corners.map((i) => v[i + 1]!);
    for (let r = clamp(row(Math.min(...y))); r <= clamp(row(Math.max(...y))); r++)
      for (let c = clamp(column(Math.min(...x))); c <= clamp(column(Math.max(...x))); c++)
        cells[r * side + c]!.push(t);
  }
  const miss = (t: number, x: number, y: number) => {
    let worst = 0;
    for (let k = 0; k < 3; k++) {
      const a = triangles[t + k]! * 3;
      const b = triangles[t + ((k + 1) % 3)]! * 3;
      const [dx, dy] = [v[b]! - v[a]!, v[b + 1]! - v[a + 1]!];
      const side = (dx * (y - v[a + 1]!) - dy * (x - v[a]!)) / Math.hypot(dx, dy);
      worst = Math.min(worst, side);
    }
    return worst;
  };
  const nearest = (list: Iterable<number>, x: number, y: number) => {
    let best = 0;
    let least = -Infinity;
    for (const t of list) {
      const m = miss(t, x, y);
      if (m === 0) return t;
      if (m > least) [best, least] = [t, m];
    }
    return best;
  };
  const all = Array.from({ length: triangles.length / 3 }, (_, i) => i * 3);
  return (x: number, y: number): number => {
    const [c, r] = [column(x), row(y)];
    const inside = c >= 0 && r >= 0 && c < side && r < side;
    return nearest(inside ? cells[r * side + c]! : all, x, y);
  };
}
