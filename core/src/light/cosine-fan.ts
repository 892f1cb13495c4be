import type { Point3 } from '../geometry';

/** Directions about a normal, in its frame: 3 numbers each, the third along the normal. */
export interface CosineFan {
  count: number;
  local: Float64Array;
}

const GOLDEN = (Math.sqrt(5) - 1) / 2;
const made = new Map<number, CosineFan>();

/**
 * So many directions over the half-space before a surface, as dense as the cosine of the angle with its normal: each stands
 * for the same share of what falls on it. A spiral that turns by the golden section.
 */
export function cosineFan(count: number): CosineFan {
  let fan = made.get(count);
  if (!fan) {
    fan = { count, local: new Float64Array(count * 3) };
    for (let i = 0; i < count; i++) {
      const square = (i + 0.5) / count;
      const turn = 2 * Math.PI * ((i * GOLDEN) % 1);
      const r = Math.sqrt(square);
      fan.local.set([r * Math.cos(turn), r * Math.sin(turn), Math.sqrt(1 - square)], i * 3);
    }
    made.set(count, fan);
  }
  return fan;
}

/** Two unit vectors that lie in a plane with this normal: the first level, the second upwards, as far as that can be. */
export function frameOf([x, y, z]: readonly number[]): { u: Point3; v: Point3 } {
  const flat = Math.hypot(x!, y!);
  const u: Point3 = flat < 1e-6 ? [1, 0, 0] : [-y! / flat, x! / flat, 0];
  return { u, v: [y! * u[2] - z! * u[1], z! * u[0] - x! * u[2], x! * u[1] - y! * u[0]] };
}
