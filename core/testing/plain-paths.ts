import { perezSky, skySpiral } from '../src/sky';
import { sunVector } from '../src/sun';
import { ofMay, type Vector } from './one-sensor';

/** A body between two corners, what it throws back. */
export interface Box {
  low: Vector;
  high: Vector;
  reflectance: number;
}

/** Numbers from 0 up to 1 that go their way from a seed. */
function numbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    let x = state ^ (state >>> 15);
    x = Math.imul(x, 0x2c1b3c6d) ^ (x >>> 12);
    return ((Math.imul(x, 0x297a2d39) ^ (x >>> 15)) >>> 0) / 2 ** 32;
  };
}

/** What of the light of May falls in each direction, to be drawn by its energy: suns of hours, and parts of the sky. */
const light = (() => {
  const { vectors: v, solidAngle, count } = skySpiral(4096);
  const towards: Vector[] = [];
  const energy: number[] = [];
  const sky = new Float64Array(count);
  for (const { sun, beamNormal, diffuseHorizontal } of ofMay) {
    if (!sun) continue;
    const to = sunVector(sun.altitudeDeg, sun.azimuthDeg, 0);
    if (beamNormal > 0) {
      towards.push(to);
      energy.push(beamNormal);
    }
    if (!(diffuseHorizontal > 0)) continue;
    const luminance = perezSky({
      beamNormal,
      diffuseHorizontal,
      sunAltitudeDeg: sun.altitudeDeg,
      extraterrestrial: sun.extraterrestrial,
    } as never);
    let level = 0;
    const one = new Float64Array(count);
    for (let d = 0; d < count; d++) {
      const cosine = to[0] * v[d * 3]! + to[1] * v[d * 3 + 1]! + to[2] * v[d * 3 + 2]!;
      one[d] =
        luminance((Math.asin(v[d * 3 + 2]!) * 180) / Math.PI, Math.acos(Math.min(1, cosine))) *
        solidAngle[d]!;
      level += one[d]! * v[d * 3 + 2]!;
    }
    for (let d = 0; d < count; d++) sky[d]! += (one[d]! * diffuseHorizontal) / level;
  }
  sky.forEach((sum, d) => {
    towards.push([v[d * 3]!, v[d * 3 + 1]!, v[d * 3 + 2]!]);
    energy.push(sum);
  });
  let whole = 0;
  const ends = Float64Array.from(energy, (one) => (whole += one));
  return { towards, ends, whole };
})();

function drawn(random: number): Vector {
  const { ends, towards, whole } = light;
  let [low, high] = [0, ends.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ends[middle]! > random * whole) high = middle;
    else low = middle + 1;
  }
  return towards[low]!;
}

/** How far along a ray a box is entered, and the face: its axis and side; null where it is not. */
function enters(o: Vector, d: Vector, { low, high }: Box): { at: number; normal: Vector } | null {
  let [near, far] = [1e-6, Infinity];
  let normal: Vector = [0, 0, 0];
  for (const k of [0, 1, 2] as const) {
    const [a, b] = [(low[k] - o[k]) / d[k], (high[k] - o[k]) / d[k]];
    const [first, last] = a < b ? [a, b] : [b, a];
    if (first > near) {
      near = first;
      normal = [0, 1, 2].map((i) => (i === k ? -Math.sign(d[k]) : 0)) as unknown as Vector;
    }
    far = Math.min(far, last);
  }
  return near < far && near > 1e-6 ? { at: near, normal } : null;
}

/**
 * kWh/m² of May thrown back onto a place on level ground among boxes, by plain random paths: one ray to what is met, from
 * there to suns and sky as they are strong.
 */
export function byPaths(
  at: Vector,
  normal: Vector,
  boxes: readonly Box[],
  albedo: number,
  paths = 24_000,
  ends = 24,
) {
  const next = numbers(7);
  const flat = Math.hypot(normal[0], normal[1]);
  const u: Vector = flat < 1e-9 ? [1, 0, 0] : [-normal[1] / flat, normal[0] / flat, 0];
  const v: Vector = [
    normal[1] * u[2] - normal[2] * u[1],
    normal[2] * u[0] - normal[0] * u[2],
    normal[0] * u[1] - normal[1] * u[0],
  ];
  let [ground, standing] = [0, 0];
  for (let i = 0; i < paths; i++) {
    const [square, turn] = [next(), next() * 2 * Math.PI];
    const r = Math.sqrt(square);
    const c = Math.sqrt(1 - square);
    const to = [0, 1, 2].map(
      (k) => r * Math.cos(turn) * u[k]! + r * Math.sin(turn) * v[k]! + c * normal[k]!,
    ) as unknown as Vector;
    let met: { at: number; normal: Vector; reflectance: number; isGround: boolean } | null =
      to[2] < 0 ? { at: -at[2] / to[2], normal: [0, 0, 1], reflectance: albedo, isGround: true } : null;
    for (const box of boxes) {
      const own = enters(at, to, box);
      if (own && (!met || own.at < met.at)) met = { ...own, reflectance: box.reflectance, isGround: false };
    }
    if (!met) continue;
    const place = [0, 1, 2].map((k) => at[k]! + to[k]! * met.at + met.normal[k]! * 1e-4) as unknown as Vector;
    for (let j = 0; j < ends; j++) {
      const sun = drawn(next());
      const cosine = sun[0] * met.normal[0] + sun[1] * met.normal[1] + sun[2] * met.normal[2];
      if (cosine <= 0 || boxes.some((box) => enters(place, sun, box))) continue;
      const value = (met.reflectance * cosine * light.whole) / ends / paths / 1000;
      if (met.isGround) ground += value;
      else standing += value;
    }
  }
  return { ground, standing };
}
