import { dot, type Point2, type Point3, contains, polygonNormal } from '../geometry';
import type { Project } from '../project';
import { groundLevel } from '../site';
import { type SunHull, sunHull } from './sun-hull';

/** A flat outline that is to keep its sun, with the lowest suns that it sees. */
export interface KeptFace {
  name: string;
  corners: Point3[];
  hull: SunHull;
  /** A level or sloping area from above: what stands on it shades it at once. */
  isArea: boolean;
}

/** The lowest that a vertical line may end at, and the sun that decides it. */
export interface Bound {
  z: number;
  atMs: number;
}

type Kept = Project['envelopes'][number]['keep'][number];

/** Corners nearer than this to one another on a terrain are not divided further, metres. */
const PART_M = 1;

/** What is to keep its sun; null where it is gone. */
export function keptFace(project: Project, { on, id, windows }: Kept): KeptFace | null {
  const { site } = project;
  if (on === 'area') {
    const area = project.areas.find((one) => one.id === id);
    if (!area) return null;
    const levelOf = (p: Point2) => (area.on.kind === 'level' ? area.on.levelM : groundLevel(site.ground, p));
    const outline =
      site.ground.kind === 'terrain' && area.on.kind === 'ground' ? parted(area.outline) : area.outline;
    const corners = outline.map((p): Point3 => [p[0], p[1], levelOf(p)]);
    const up = polygonNormal(corners);
    const normal: Point3 = up[2] < 0 ? [-up[0], -up[1], -up[2]] : up;
    return { name: area.name, corners, hull: sunHull(site, windows, normal), isArea: true };
  }
  const target = project.targets.find((one) => one.id === id);
  if (target?.kind !== 'plane') return null;
  const { origin, u, v, outline } = target;
  const corners = outline.map(
    ([x, y]) => [0, 1, 2].map((k) => origin[k]! + x * u[k]! + y * v[k]!) as unknown as Point3,
  );
  const normal: Point3 = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  return { name: target.name, corners, hull: sunHull(site, windows, normal), isArea: normal[2] > 0.01 };
}

/** An outline with corners at most a metre apart, to follow a terrain. */
function parted(outline: readonly Point2[]): Point2[] {
  return outline.flatMap((p, i): Point2[] => {
    const q = outline[(i + 1) % outline.length]!;
    const parts = Math.max(1, Math.ceil(Math.hypot(q[0] - p[0], q[1] - p[1]) / PART_M));
    return Array.from({ length: parts }, (_, k): Point2 => [
      p[0] + ((q[0] - p[0]) * k) / parts,
      p[1] + ((q[1] - p[1]) * k) / parts,
    ]);
  });
}

/**
 * How high a vertical line at a place may go without putting shade on a face at any of its suns: the lowest of the rays from
 * the face towards its suns that the line meets. Over an area itself, its level there. Exact but for suns between two
 * bearings of the hull, whose rise is taken between theirs.
 * @param best what is known already: what cannot be lower is not looked at
 */
export function boundOf({ corners, hull, isArea }: KeptFace, [qx, qy]: Point2, best: Bound): Bound {
  if (hull.count === 0) return best;
  let { z, atMs } = best;
  const n = corners.length;
  if (
    isArea &&
    contains(
      corners.map(([x, y]): Point2 => [x, y]),
      [qx, qy],
    )
  ) {
    const level = levelAt(corners, [qx, qy]);
    if (level < z) [z, atMs] = [level, NaN];
  }
  const { bearing, rise } = hull;
  for (let i = 0; i < n; i++) {
    const [p, r] = [corners[i]!, corners[(i + 1) % n]!];
    const [px, py, rx, ry] = [p[0] - qx, p[1] - qy, r[0] - qx, r[1] - qy];
    const [ex, ey] = [rx - px, ry - py];
    const lowest = Math.min(p[2], r[2]);
    const length2 = ex * ex + ey * ey;
    const along = length2 > 0 ? Math.max(0, Math.min(1, -(px * ex + py * ey) / length2)) : 0;
    const nearest = Math.hypot(px + along * ex, py + along * ey);
    if (lowest + nearest * hull.least >= z) continue;
    const atCorner = riseAt(hull, Math.atan2(py, px));
    if (atCorner) {
      const here = p[2] + Math.hypot(px, py) * atCorner.rise;
      if (here < z) [z, atMs] = [here, atCorner.atMs];
    }
    const cross = px * ey - py * ex;
    if (Math.abs(cross) < 1e-12) continue;
    // The bearings that the edge spans, from one of its ends to the other the shorter way.
    const a = Math.atan2(py, px);
    const turn = Math.atan2(px * ry - py * rx, px * rx + py * ry);
    const [from, to] = turn >= 0 ? [a, a + turn] : [a + turn, a];
    for (const shift of [0, 2 * Math.PI, -2 * Math.PI]) {
      for (let d = firstFrom(bearing, from + shift); d < hull.count && bearing[d]! <= to + shift; d++) {
        const [dx, dy] = [Math.cos(bearing[d]!), Math.sin(bearing[d]!)];
        const across = dx * ey - dy * ex;
        const distance = cross / across;
        if (!(distance >= 0)) continue;
        const t = Math.abs(ex) > Math.abs(ey) ? (distance * dx - px) / ex : (distance * dy - py) / ey;
        const here = p[2] + t * (r[2] - p[2]) + distance * rise[d]!;
        if (here < z) [z, atMs] = [here, hull.atMs[d]!];
      }
    }
  }
  return z < best.z ? { z, atMs } : best;
}

/** The first bearing that is not less than one. */
function firstFrom(bearing: Float64Array, from: number): number {
  let [low, high] = [0, bearing.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (bearing[middle]! < from) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The lowest sun at a bearing; null where there is none. */
function riseAt(
  { bearing, rise, atMs, isJoined, count }: SunHull,
  at: number,
): { rise: number; atMs: number } | null {
  const next = firstFrom(bearing, at);
  if (next < count && bearing[next]! - at < 1e-9) return { rise: rise[next]!, atMs: atMs[next]! };
  if (next === 0 || next >= count || isJoined[next - 1] === 0) return null;
  const share = (at - bearing[next - 1]!) / (bearing[next]! - bearing[next - 1]!);
  return {
    rise: rise[next - 1]! + (rise[next]! - rise[next - 1]!) * share,
    atMs: share < 0.5 ? atMs[next - 1]! : atMs[next]!,
  };
}

/** The level of a flat outline over a place. */
function levelAt(corners: readonly Point3[], [x, y]: Point2): number {
  const normal = polygonNormal(corners);
  const [a] = corners as [Point3];
  if (Math.abs(normal[2]) < 1e-9) return Math.min(...corners.map((p) => p[2]));
  return (dot(normal, a) - normal[0] * x - normal[1] * y) / normal[2];
}
