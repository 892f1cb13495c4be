import { type Point2, type Ring, signedArea } from './ring';

/**
 * The ring with every edge moved inwards by its distance (outwards where negative); edge i runs from corner i to the next.
 * Of an anticlockwise ring the inside is shrunk. Corners are where neighbouring edges meet again, so that edges keep
 * their numbers; two edges on one line need equal distances. Null when they have not, or when nothing sound is left.
 */
export function insetRing(ring: Ring, distances: readonly number[]): Point2[] | null {
  const n = ring.length;
  const out: Point2[] = [];
  for (let i = 0; i < n; i++) {
    const corner = shiftedCorner(ring, i, distances[(i + n - 1) % n]!, distances[i]!);
    if (!corner) return null;
    out.push(corner);
  }
  const keepsDirection = out.every((p, i) => {
    const q = out[(i + 1) % n]!;
    const [a, b] = [ring[i]!, ring[(i + 1) % n]!];
    return (q[0] - p[0]) * (b[0] - a[0]) + (q[1] - p[1]) * (b[1] - a[1]) > 0;
  });
  return keepsDirection && Math.sign(signedArea(out)) === Math.sign(signedArea(ring)) ? out : null;
}

/** Where the edges before and after corner i meet once moved inwards by `before` and `after`. */
function shiftedCorner(ring: Ring, i: number, before: number, after: number): Point2 | null {
  const n = ring.length;
  const [a, p, b] = [ring[(i + n - 1) % n]!, ring[i]!, ring[(i + 1) % n]!];
  const [ux, uy] = unit(a, p);
  const [vx, vy] = unit(p, b);
  const cross = ux * vy - uy * vx;
  if (Math.abs(cross) < 1e-9) {
    if (Math.abs(before - after) > 1e-9) return null;
    return [p[0] - vy * after, p[1] + vx * after];
  }
  // p moved by `before` along the first normal and by s along the first line lies `after` from the second line.
  const s = (before * (ux * vx + uy * vy) - after) / cross;
  return [p[0] - uy * before + ux * s, p[1] + ux * before + uy * s];
}

function unit(p: Point2, q: Point2): Point2 {
  const length = Math.hypot(q[0] - p[0], q[1] - p[1]) || 1;
  return [(q[0] - p[0]) / length, (q[1] - p[1]) / length];
}
