import { bounds, contains, dot, type MeshStore, type Point2, type Point3, polygonNormal } from '../geometry';
import { type Project, TODAY } from '../project';
import { groundLevel } from '../site';
import { partsOfTarget } from '../study';
import type { StandingShade } from './standing-shade';
import { BLOCK, type SunHull, sunHull } from './sun-hull';

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

/**
 * What is to keep its sun, a face for each outline that it comes to in Today, or in its option: an area, a plane, the outlines that a target
 * by rule means. None where it is gone.
 * @param standing what takes sun already that need not be kept
 */
export function keptFaces(
  project: Project,
  { on, id, option, windows, basis }: Kept,
  meshes: MeshStore,
  standing?: StandingShade,
): KeptFace[] {
  const { site } = project;
  const hullOf = (corners: readonly Point3[], normal: Point3) =>
    sunHull(site, { windows, basis }, normal, standing?.reaches(corners, normal));
  const level = (name: string, outline: readonly Point2[], levelM: number | null): KeptFace => {
    const levelOf = (p: Point2) => levelM ?? groundLevel(site.ground, p);
    const ring = site.ground.kind === 'terrain' && levelM === null ? parted(outline) : outline;
    const corners = ring.map((p): Point3 => [p[0], p[1], levelOf(p)]);
    const up = polygonNormal(corners);
    const normal: Point3 = up[2] < 0 ? [-up[0], -up[1], -up[2]] : up;
    return { name, corners, hull: hullOf(corners, normal), isArea: true };
  };
  if (on === 'area') {
    const area = project.areas.find((one) => one.id === id);
    return area ? [level(area.name, area.outline, area.on.kind === 'level' ? area.on.levelM : null)] : [];
  }
  const target = project.targets.find((one) => one.id === id);
  if (!target) return [];
  const among = project.options.some((one) => one.id === option) ? option! : TODAY;
  return partsOfTarget(project, among, target, meshes).map((part): KeptFace => {
    if (part.kind === 'ground') return level(part.name, part.outline, part.levelM ?? null);
    const { origin, u, v, outline } = part;
    const corners = outline.map(
      ([x, y]) => [0, 1, 2].map((k) => origin[k]! + x * u[k]! + y * v[k]!) as unknown as Point3,
    );
    const normal: Point3 = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    return { name: part.name, corners, hull: hullOf(corners, normal), isArea: normal[2] > 0.01 };
  });
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
export function boundOf(face: KeptFace, [qx, qy]: Point2, best: Bound): Bound {
  const { corners, hull, isArea } = face;
  if (hull.count === 0) return best;
  let { z, atMs } = best;
  const { x, y, radius, lowest: bottom } = roundAbout(face);
  if (bottom + Math.max(0, Math.hypot(x - qx, y - qy) - radius) * hull.least >= z) return best;
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
  const { bearing, rise, dx, dy, blockRise } = hull;
  // What decided at the place before decides here too, nearly: with it most others need not be looked at.
  const last = decided.get(face);
  if (last) {
    const [p, r] = [corners[last.edge]!, corners[(last.edge + 1) % n]!];
    const [px, py, ex, ey] = [p[0] - qx, p[1] - qy, r[0] - p[0], r[1] - p[1]];
    const distance = (px * ey - py * ex) / (dx[last.d]! * ey - dy[last.d]! * ex);
    const t =
      Math.abs(ex) <= Math.abs(ey) ? (distance * dy[last.d]! - py) / ey : (distance * dx[last.d]! - px) / ex;
    if (distance >= 0 && t >= 0 && t <= 1) {
      const here = p[2] + t * (r[2] - p[2]) + distance * rise[last.d]!;
      if (here < z) [z, atMs] = [here, hull.atMs[last.d]!];
    }
  }
  for (let i = 0; i < n; i++) {
    const [p, r] = [corners[i]!, corners[(i + 1) % n]!];
    const [px, py, rx, ry] = [p[0] - qx, p[1] - qy, r[0] - qx, r[1] - qy];
    const [ex, ey] = [rx - px, ry - py];
    const lowest = Math.min(p[2], r[2]);
    const length2 = ex * ex + ey * ey;
    const along = length2 > 0 ? Math.max(0, Math.min(1, -(px * ex + py * ey) / length2)) : 0;
    const nearest = Math.hypot(px + along * ex, py + along * ey);
    if (lowest + nearest * hull.least >= z) continue;
    const a = Math.atan2(py, px);
    const atCorner = riseAt(hull, a);
    if (atCorner) {
      const here = p[2] + Math.hypot(px, py) * atCorner.rise;
      if (here < z) [z, atMs] = [here, atCorner.atMs];
    }
    const cross = px * ey - py * ex;
    if (Math.abs(cross) < 1e-12) continue;
    const isSteep = Math.abs(ex) <= Math.abs(ey);
    // The bearings that the edge spans, from one of its ends to the other the shorter way.
    const turn = Math.atan2(px * ry - py * rx, px * rx + py * ry);
    const [from, to] = turn >= 0 ? [a, a + turn] : [a + turn, a];
    for (const shift of SHIFTS) {
      const until = firstFrom(bearing, to + shift + 1e-15);
      for (let d = firstFrom(bearing, from + shift); d < until; d++) {
        // Of a whole block the nearest point of the edge and the lowest sun: seldom low enough.
        if (d % BLOCK === 0 && d + BLOCK <= until) {
          const end = d + BLOCK - 1;
          const first = cross / (dx[d]! * ey - dy[d]! * ex);
          const other = cross / (dx[end]! * ey - dy[end]! * ex);
          const turned = dx[d]! * dx[end]! + dy[d]! * dy[end]!;
          if (
            first >= 0 &&
            other >= 0 &&
            turned > 0 &&
            lowest + Math.min(first, other) * turned * blockRise[d / BLOCK]! >= z
          ) {
            d = end;
            continue;
          }
        }
        const across = dx[d]! * ey - dy[d]! * ex;
        const distance = cross / across;
        if (!(distance >= 0)) continue;
        const t = isSteep ? (distance * dy[d]! - py) / ey : (distance * dx[d]! - px) / ex;
        const here = p[2] + t * (r[2] - p[2]) + distance * rise[d]!;
        if (here < z) {
          [z, atMs] = [here, hull.atMs[d]!];
          decided.set(face, { edge: i, d });
        }
      }
    }
  }
  return z < best.z ? { z, atMs } : best;
}

interface Round {
  x: number;
  y: number;
  radius: number;
  lowest: number;
}
const rounds = new WeakMap<KeptFace, Round>();

/** A circle round an outline in plan, and its lowest level. */
function roundAbout(face: KeptFace): Round {
  let round = rounds.get(face);
  if (!round) {
    const { minX, minY, maxX, maxY } = bounds(face.corners.map(([x, y]): Point2 => [x, y]));
    const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
    const radius = Math.max(...face.corners.map((p) => Math.hypot(p[0] - x, p[1] - y)));
    round = { x, y, radius, lowest: Math.min(...face.corners.map((p) => p[2])) };
    rounds.set(face, round);
  }
  return round;
}

/** The edge and the bearing that decided last. */
const decided = new WeakMap<KeptFace, { edge: number; d: number }>();

/** A span of bearings may run over the end of the turn. */
const SHIFTS = [0, 2 * Math.PI, -2 * Math.PI];

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
