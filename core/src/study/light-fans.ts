import type { Point3 } from '../geometry';
import { cosineFan, frameOf } from '../light';
import { type DirectionSet, directionSetOf } from '../trace';

/** Directions about a normal. */
export interface Fan {
  directions: DirectionSet;
  /** Of the angles with the normal. */
  cosines: Float64Array;
  /** What each counts of all that falls on the surface. */
  each: Float64Array;
}

const fans = new Map<string, Fan>();
/** Ways of facing, and turns of them, whose fans are kept. */
const MAX_FANS = 256;

/**
 * Directions about a normal, one in so many of a whole fan. Of the whole fan those that point below the horizon count
 * (1 − n_z)/2 together, as open ground is seen, and those above the rest.
 * @param turn the first that is taken, from 0
 */
export function fanAbout(normal: Point3, rays: number, whole: number, turn: number): Fan {
  const key = `${normal.join(' ')} ${rays} ${whole} ${turn}`;
  let fan = fans.get(key);
  if (!fan) {
    fan = madeFan(normal, rays, whole, turn);
    if (fans.size >= MAX_FANS) fans.delete(fans.keys().next().value!);
    fans.set(key, fan);
  }
  return fan;
}

function madeFan(normal: Point3, rays: number, whole: number, turn: number): Fan {
  const { local } = cosineFan(whole);
  const { u, v } = frameOf(normal);
  const along = (d: number, k: 0 | 1 | 2) =>
    local[d]! * u[k] + local[d + 1]! * v[k] + local[d + 2]! * normal[k];
  let falling = 0;
  for (let d = 0; d < whole; d++) if (along(d * 3, 2) < 0) falling++;
  const below = (1 - normal[2]) / 2;
  const counts = {
    falling: (falling > 0 ? (below * whole) / falling : 0) / rays,
    rising: (falling < whole ? ((1 - below) * whole) / (whole - falling) : 0) / rays,
  };
  const vectors = new Float64Array(rays * 3);
  const [cosines, each] = [new Float64Array(rays), new Float64Array(rays)];
  for (let i = 0; i < rays; i++) {
    const d = ((i * whole) / rays + turn) * 3;
    for (const k of [0, 1, 2] as const) vectors[i * 3 + k] = along(d, k);
    cosines[i] = local[d + 2]!;
    each[i] = along(d, 2) < 0 ? counts.falling : counts.rising;
  }
  return { directions: directionSetOf(vectors), cosines, each };
}
