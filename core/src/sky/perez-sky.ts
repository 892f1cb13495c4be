import { RAD } from '../civil';
import { airMass } from '../weather';

const { cos, exp, max, sin } = Math;

/** Where clearness bins begin. */
const BINS = [1, 1.065, 1.23, 1.5, 1.95, 2.8, 4.5, 6.2];

/** a1–a4, b1–b4, c1–c4, d1–d4, e1–e4 of each clearness bin. */
const COEFFICIENTS: readonly (readonly number[])[] = [
  [
    1.3525, -0.2576, -0.269, -1.4366, -0.767, 0.0007, 1.2734, -0.1233, 2.8, 0.6004, 1.2375, 1.0, 1.8734,
    0.6297, 0.9738, 0.2809, 0.0356, -0.1246, -0.5718, 0.9938,
  ],
  [
    -1.2219, -0.773, 1.4148, 1.1016, -0.2054, 0.0367, -3.9128, 0.9156, 6.975, 0.1774, 6.4477, -0.1239,
    -1.5798, -0.5081, -1.7812, 0.108, 0.2624, 0.0672, -0.219, -0.4285,
  ],
  [
    -1.1, -0.2515, 0.8952, 0.0156, 0.2782, -0.1812, -4.5, 1.1766, 24.7219, -13.0812, -37.7, 34.8438, -5.0,
    1.5218, 3.9229, -2.6204, -0.0156, 0.1597, 0.4199, -0.5562,
  ],
  [
    -0.5484, -0.6654, -0.2672, 0.7117, 0.7234, -0.6219, -5.6812, 2.6297, 33.3389, -18.3, -62.25, 52.0781,
    -3.5, 0.0016, 1.1477, 0.1062, 0.4659, -0.3296, -0.0876, -0.0329,
  ],
  [
    -0.6, -0.3566, -2.5, 2.325, 0.2937, 0.0496, -5.6812, 1.8415, 21.0, -4.7656, -21.5906, 7.2492, -3.5,
    -0.1554, 1.4062, 0.3988, 0.0032, 0.0766, -0.0656, -0.1294,
  ],
  [
    -1.0156, -0.367, 1.0078, 1.4051, 0.2875, -0.5328, -3.85, 3.375, 14.0, -0.9999, -7.1406, 7.5469, -3.4,
    -0.1078, -1.075, 1.5702, -0.0672, 0.4016, 0.3017, -0.4844,
  ],
  [
    -1.0, 0.0211, 0.5025, -0.5119, -0.3, 0.1922, 0.7023, -1.6317, 19.0, -5.0, 1.2438, -1.9094, -4.0, 0.025,
    0.3844, 0.2656, 1.0468, -0.3788, -2.4517, 1.4656,
  ],
  [
    -1.05, 0.0289, 0.426, 0.359, -0.325, 0.1156, 0.7781, 0.0025, 31.0625, -14.5, -46.1148, 55.375, -7.2312,
    0.405, 13.35, 0.6234, 1.5, -0.6426, 1.8564, 0.5636,
  ],
];

/** Least cosine of a point's zenith angle: with b above 0 the formula has no bound at the horizon. */
const MIN_COSINE = 0.00436;

/** What the sky of an hour is made of. */
export interface PerezHour {
  sunAltitudeDeg: number;
  beamNormal: number;
  diffuseHorizontal: number;
  /** Beam outside the air, W/m². */
  extraterrestrial: number;
}

/** Sky clearness ε = [(D + B)/D + 1.041 z³]/(1 + 1.041 z³), z the zenith angle of the sun in radians. */
export function clearness({ sunAltitudeDeg, beamNormal, diffuseHorizontal }: PerezHour): number {
  const z3 = 1.041 * ((90 - sunAltitudeDeg) * RAD) ** 3;
  return ((diffuseHorizontal + beamNormal) / diffuseHorizontal + z3) / (1 + z3);
}

/** Sky brightness Δ = m D/I₀. */
export function brightness({ sunAltitudeDeg, diffuseHorizontal, extraterrestrial }: PerezHour): number {
  return (airMass(sunAltitudeDeg) * diffuseHorizontal) / extraterrestrial;
}

/** The five of the formula for an hour: a, b gradation; c, d, e indicatrix. */
export interface PerezFive {
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
}

/** The coefficients of the sky of an hour. */
export function perezFive(hour: PerezHour): PerezFive {
  const epsilon = clearness(hour);
  const delta = brightness(hour);
  const z = (90 - hour.sunAltitudeDeg) * RAD;
  let bin = 0;
  while (bin < 7 && epsilon >= BINS[bin + 1]!) bin++;
  const k = COEFFICIENTS[bin]!;
  const of = (at: number) => k[at]! + k[at + 1]! * z + delta * (k[at + 2]! + k[at + 3]! * z);
  const five = { a: of(0), b: of(4), c: of(8), d: of(12), e: of(16) };
  if (bin > 0) return five;
  return {
    ...five,
    c: Math.exp((delta * (k[8]! + k[9]! * z)) ** k[10]!) - k[11]!,
    d: -Math.exp(delta * (k[12]! + k[13]! * z)) + k[14]! + delta * k[15]!,
  };
}

/** How bright the sky of an hour is at a height above the horizon: 1 + a exp(b / cos ζ). @param sine of the altitude */
export function gradation({ a, b }: PerezFive, sine: number): number {
  return 1 + a * exp(b / max(MIN_COSINE, sine));
}

/** How bright it is at an angle to the sun (radians): 1 + c exp(d χ) + e cos² χ. @param cosine of the same angle */
export function indicatrix({ c, d, e }: PerezFive, angle: number, cosine: number): number {
  return 1 + c * exp(d * angle) + e * cosine * cosine;
}

/**
 * Relative luminance of the sky of an hour: a function of the altitude of a point and of its angle to the sun (radians).
 * Cut at 0. Source: Perez, Seals & Michalsky, All-weather model for sky luminance distribution, Solar Energy 50 (1993).
 */
export function perezSky(hour: PerezHour): (altitudeDeg: number, angle: number) => number {
  const five = perezFive(hour);
  return (altitudeDeg, angle) =>
    max(0, gradation(five, sin(altitudeDeg * RAD)) * indicatrix(five, angle, cos(angle)));
}
