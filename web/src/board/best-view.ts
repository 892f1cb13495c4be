import { Vector3 } from 'three';

/** Places that are asked for, at most. */
const ASKED = 40;

/**
 * The direction from which most of some places on surfaces are seen, of many round them; where several are as good, the
 * one nearest to where the eye is now. Unit vector towards the eye.
 * @param positions 3 numbers a place @param normals the side that each looks to
 * @param isHidden whether something stands before a place, seen from a way @param now unit vector towards the eye
 */
export function bestView(
  positions: Float64Array,
  normals: Float64Array,
  isHidden: (place: Vector3, way: Vector3) => boolean,
  now: Vector3,
): Vector3 {
  const count = positions.length / 3;
  const step = Math.max(1, Math.floor(count / ASKED));
  /** How well a place is seen: nothing where it is hidden or turned away; walls the better the squarer. */
  const seenFrom = (i: number, way: Vector3) => {
    const normal = new Vector3(...normals.subarray(i * 3, i * 3 + 3));
    const facing = normal.dot(way);
    if (facing < 0.15) return 0;
    const from = new Vector3(...positions.subarray(i * 3, i * 3 + 3)).addScaledVector(normal, 0.1);
    if (isHidden(from, way)) return 0;
    return normal.z > 0.7 ? 1 : 0.4 + 0.6 * facing;
  };
  let best = now;
  let most = -1;
  for (const altitude of [14, 32, 55, 80])
    for (let bearing = 0; bearing < 360; bearing += 30) {
      const [a, h] = [(bearing * Math.PI) / 180, (altitude * Math.PI) / 180];
      const way = new Vector3(Math.sin(a) * Math.cos(h), Math.cos(a) * Math.cos(h), Math.sin(h));
      let seen = 0;
      for (let i = 0; i < count; i += step) seen += seenFrom(i, way);
      // From very low, level things are seen at a slant; from very high, the place is hard to tell.
      const worth = seen + 0.9 * way.dot(now) - (altitude > 60 || altitude < 20 ? 0.5 : 0);
      if (worth > most) [best, most] = [way, worth];
    }
  return best;
}
