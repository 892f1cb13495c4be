import { sweepEdges } from './edge-sweep';

/** A point on the ground plane, metres: x right, y drawing north. */
export type Point2 = readonly [number, number];
/** A closed polygon without its first point repeated. */
export type Ring = readonly Point2[];

/** Signed area, positive when the ring runs anticlockwise. */
export function signedArea(ring: Ring): number {
  let sum = 0;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++)
    sum += ring[j]![0] * ring[i]![1] - ring[i]![0] * ring[j]![1];
  return sum / 2;
}

/** The ring running anticlockwise. */
export function anticlockwise(ring: Ring): Ring {
  return signedArea(ring) < 0 ? [...ring].reverse() : ring;
}

/** Centre of area; the mean of the corners when the area is nil. */
export function centroid(ring: Ring): Point2 {
  const [ox, oy] = ring[0]!;
  let a = 0;
  let x = 0;
  let y = 0;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const px = ring[j]![0] - ox;
    const py = ring[j]![1] - oy;
    const qx = ring[i]![0] - ox;
    const qy = ring[i]![1] - oy;
    const cross = px * qy - qx * py;
    a += cross;
    x += (px + qx) * cross;
    y += (py + qy) * cross;
  }
  if (Math.abs(a) < 1e-12) {
    const n = ring.length;
    return [ring.reduce((s, p) => s + p[0], 0) / n, ring.reduce((s, p) => s + p[1], 0) / n];
  }
  return [ox + x / (3 * a), oy + y / (3 * a)];
}

/** Whether a point lies inside the ring (even–odd rule; points on the edge fall to either side). */
export function contains(ring: Ring, [x, y]: Point2): boolean {
  let inside = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [xi, yi] = ring[i]!;
    const [xj, yj] = ring[j]!;
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
  }
  return inside;
}

/** Smallest and largest corner. */
export function bounds(points: Iterable<Point2>): { minX: number; minY: number; maxX: number; maxY: number } {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const [x, y] of points) {
    box.minX = Math.min(box.minX, x);
    box.minY = Math.min(box.minY, y);
    box.maxX = Math.max(box.maxX, x);
    box.maxY = Math.max(box.maxY, y);
  }
  return box;
}

/** The longer side of the box round some points. */
export function longSide(points: Iterable<Point2>): number {
  const { minX, minY, maxX, maxY } = bounds(points);
  return Math.max(maxX - minX, maxY - minY);
}

/** Part of the ring on the side of the line where a·x + b·y ≤ c (Sutherland–Hodgman). */
export function clipHalfPlane(ring: Ring, a: number, b: number, c: number): Point2[] {
  const kept: Point2[] = [];
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const p = ring[j]!;
    const q = ring[i]!;
    const dp = a * p[0] + b * p[1] - c;
    const dq = a * q[0] + b * q[1] - c;
    if (dp <= 0 !== dq <= 0) {
      const t = dp / (dp - dq);
      kept.push([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]);
    }
    if (dq <= 0) kept.push(q);
  }
  return kept;
}

/** Part of the ring within an axis-parallel box. */
export function clipBox(ring: Ring, minX: number, minY: number, maxX: number, maxY: number): Point2[] {
  let part: Ring = clipHalfPlane(ring, -1, 0, -minX);
  if (part.length) part = clipHalfPlane(part, 1, 0, maxX);
  if (part.length) part = clipHalfPlane(part, 0, -1, -minY);
  return part.length ? clipHalfPlane(part, 0, 1, maxY) : [];
}

/** Where two edges of the ring that are not neighbours cross or touch, or null. */
export function selfCrossing(ring: Ring): Point2 | null {
  const n = ring.length;
  return sweepEdges([ring], (_, i, __, j) => {
    const neighbours = j === i + 1 || (i === 0 && j === n - 1);
    return neighbours
      ? foldedBack(ring, j === i + 1 ? j : i)
      : segmentsMeet(ring[i]!, ring[(i + 1) % n]!, ring[j]!, ring[(j + 1) % n]!);
  });
}

/** Two of the rings whose edges cross or touch, by their numbers, the smaller first; null when none do. */
export function meetingRings(rings: readonly Ring[]): [number, number] | null {
  const edge = (r: number, i: number): [Point2, Point2] => [
    rings[r]![i]!,
    rings[r]![(i + 1) % rings[r]!.length]!,
  ];
  return sweepEdges<[number, number]>(rings, (a, i, b, j) =>
    a !== b && segmentsMeet(...edge(a, i), ...edge(b, j)) ? [a, b] : null,
  );
}

/** Whether the edges meeting at corner k run back over each other. */
function foldedBack(ring: Ring, k: number): Point2 | null {
  const n = ring.length;
  const p = ring[(k + n - 1) % n]!;
  const c = ring[k]!;
  const q = ring[(k + 1) % n]!;
  const ux = p[0] - c[0];
  const uy = p[1] - c[1];
  const vx = q[0] - c[0];
  const vy = q[1] - c[1];
  const cross = ux * vy - uy * vx;
  const dot = ux * vx + uy * vy;
  return Math.abs(cross) <= 1e-9 * Math.hypot(ux, uy) * Math.hypot(vx, vy) && dot > 0 ? c : null;
}

function segmentsMeet(a: Point2, b: Point2, c: Point2, d: Point2): Point2 | null {
  const rx = b[0] - a[0];
  const ry = b[1] - a[1];
  const sx = d[0] - c[0];
  const sy = d[1] - c[1];
  const denominator = rx * sy - ry * sx;
  const qx = c[0] - a[0];
  const qy = c[1] - a[1];
  if (Math.abs(denominator) < 1e-12 * Math.hypot(rx, ry) * Math.hypot(sx, sy)) {
    const length = Math.hypot(rx, ry);
    if (length === 0 || Math.abs(qx * ry - qy * rx) / length > 1e-9) return null;
    const along = (p: Point2) => ((p[0] - a[0]) * rx + (p[1] - a[1]) * ry) / length;
    const from = Math.max(0, Math.min(along(c), along(d)));
    const to = Math.min(length, Math.max(along(c), along(d)));
    return from <= to ? [a[0] + (rx * from) / length, a[1] + (ry * from) / length] : null;
  }
  const t = (qx * sy - qy * sx) / denominator;
  const u = (qx * ry - qy * rx) / denominator;
  return t >= 0 && t <= 1 && u >= 0 && u <= 1 ? [a[0] + t * rx, a[1] + t * ry] : null;
}

/** What is wrong with a footprint, as the end of a sentence, or null when it is sound. */
export function ringProblem(ring: Ring): string | null {
  if (ring.length < 3)
    return `has ${ring.length} corner${ring.length === 1 ? '' : 's'}; a polygon needs at least 3`;
  for (let i = 0; i < ring.length; i++) {
    const [ax, ay] = ring[i]!;
    const [bx, by] = ring[(i + 1) % ring.length]!;
    if (Math.hypot(ax - bx, ay - by) < 1e-3)
      return `has two corners in the same place (${ax.toFixed(2)}, ${ay.toFixed(2)}); remove one of them`;
  }
  if (isThin(ring)) return 'encloses no area; move its corners apart';
  const hit = selfCrossing(ring);
  if (hit)
    return `crosses itself near (${hit[0].toFixed(2)}, ${hit[1].toFixed(2)}); move a corner so that its edges do not meet`;
  if (Math.abs(signedArea(ring)) < 0.01) return 'encloses less than 0.01 m²; move its corners apart';
  return null;
}

/** Whether all corners lie on one line. */
function isThin(ring: Ring): boolean {
  const [ox, oy] = ring[0]!;
  const far = ring.reduce((best, p) =>
    Math.hypot(p[0] - ox, p[1] - oy) > Math.hypot(best[0] - ox, best[1] - oy) ? p : best,
  );
  const length = Math.hypot(far[0] - ox, far[1] - oy);
  return ring.every(
    ([x, y]) => Math.abs((far[0] - ox) * (y - oy) - (far[1] - oy) * (x - ox)) < 1e-3 * length,
  );
}

/** Where two segments cross or touch, or null. */
export function segmentCrossing(a: Point2, b: Point2, c: Point2, d: Point2): Point2 | null {
  return segmentsMeet(a, b, c, d);
}

/** Whether the edges of two rings cross or touch. */
export function ringsMeet(one: Ring, other: Ring): boolean {
  return meetingRings([one, other]) !== null;
}

/** Whether all corners turn the same way. */
export function isConvex(ring: Ring): boolean {
  const n = ring.length;
  const sign = Math.sign(signedArea(ring));
  return ring.every((p, i) => {
    const q = ring[(i + 1) % n]!;
    const r = ring[(i + 2) % n]!;
    const cross = (q[0] - p[0]) * (r[1] - q[1]) - (q[1] - p[1]) * (r[0] - q[0]);
    return cross * sign >= -1e-9;
  });
}

/** Distance from a point to the nearest point of a segment, metres. */
export function segmentDistance(p: Point2, a: Point2, b: Point2): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const length2 = dx * dx + dy * dy;
  const t = length2 === 0 ? 0 : ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / length2;
  const s = Math.max(0, Math.min(1, t));
  return Math.hypot(p[0] - a[0] - dx * s, p[1] - a[1] - dy * s);
}

/** Unit vector along the edge and its length. */
export function edgeOf(ring: Ring, i: number): { p: Point2; q: Point2; along: Point2; lengthM: number } {
  const p = ring[i]!;
  const q = ring[(i + 1) % ring.length]!;
  const lengthM = Math.hypot(q[0] - p[0], q[1] - p[1]);
  return { p, q, along: [(q[0] - p[0]) / lengthM, (q[1] - p[1]) / lengthM], lengthM };
}

/** Area of an outline less its holes. */
export function areaWithHoles(shape: { outer: Ring; holes: readonly Ring[] }): number {
  return shape.holes.reduce(
    (sum, hole) => sum - Math.abs(signedArea(hole)),
    Math.abs(signedArea(shape.outer)),
  );
}

/** Area of polygons together, holes left out; where they overlap counted twice. */
export function polygonsArea(polygons: readonly { outer: Ring; holes: readonly Ring[] }[]): number {
  return polygons.reduce((sum, polygon) => sum + areaWithHoles(polygon), 0);
}

/** Whether a point lies within an outline and in none of its holes. */
export function containsWithHoles(shape: { outer: Ring; holes: readonly Ring[] }, p: Point2): boolean {
  return contains(shape.outer, p) && !shape.holes.some((hole) => contains(hole, p));
}
