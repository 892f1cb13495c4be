import { Vector3 } from 'three';

/** Points that a view is to show, 3 numbers a point, metres. */
export type Focus = Float64Array;

/** How a view shows what it shows. */
export interface Lens {
  projection: 'perspective' | 'parallel';
  /** Field of view upright, degrees. */
  fovDeg: number;
  /** Width over height. */
  aspect: number;
  /** Share of the height that nothing lies over. */
  free: number;
}

/** How much more than its focus a view shows, each way. */
const MARGIN = 1.06;
/** The least that a view shows, metres. */
const MIN_M = 10;

/**
 * How points are framed so that all of them are seen, as large as they go and in the middle: what the eye looks at, how
 * far it stands from there, and for a parallel view the height of what it shows.
 *
 * Seen from (x, y, d) against the way of sight, a point at (r, u, n) to the right, upwards and towards the eye is in the
 * picture where |r − x| ≤ (d − n) t, t the tangent of half the field of view. So d t + x ≥ r + n t and d t − x ≥ −r + n t
 * for every point, and the least d has both at once; in a parallel view t is 0 for the place and d does not matter.
 * @param way unit vector towards the eye
 */
export function framePoints(
  points: Focus,
  way: Vector3,
  { projection, fovDeg, aspect, free }: Lens,
): { lookAt: Vector3; distance: number; heightM: number } {
  const right = new Vector3(0, 0, 1).cross(way).normalize();
  const above = way.clone().cross(right);
  const tangent = projection === 'parallel' ? 0 : Math.tan((fovDeg * Math.PI) / 360) / MARGIN;
  const [acrossT, uprightT] = [tangent * aspect, tangent * free];
  let [toRight, toLeft, upwards, downwards] = [-Infinity, -Infinity, -Infinity, -Infinity];
  let [near, far] = [-Infinity, Infinity];
  const p = new Vector3();
  for (let i = 0; i < points.length; i += 3) {
    p.set(points[i]!, points[i + 1]!, points[i + 2]!);
    const [r, u, n] = [p.dot(right), p.dot(above), p.dot(way)];
    toRight = Math.max(toRight, r + n * acrossT);
    toLeft = Math.max(toLeft, -r + n * acrossT);
    upwards = Math.max(upwards, u + n * uprightT);
    downwards = Math.max(downwards, -u + n * uprightT);
    near = Math.max(near, n);
    far = Math.min(far, n);
  }
  const [width, height] = [(toRight + toLeft) / 2, (upwards + downwards) / 2];
  const depth = (near + far) / 2;
  const eye = projection === 'parallel' ? near + MIN_M : Math.max(width / acrossT, height / uprightT);
  return {
    lookAt: new Vector3()
      .addScaledVector(right, (toRight - toLeft) / 2)
      .addScaledVector(above, (upwards - downwards) / 2)
      .addScaledVector(way, depth),
    distance: Math.max(eye, near + MIN_M) - depth,
    heightM: Math.max(MIN_M, (2 * height * MARGIN) / free, (2 * width * MARGIN) / aspect),
  };
}
