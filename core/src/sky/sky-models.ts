import { RAD } from '../civil';

/** Luminance of the CIE overcast sky against that of its zenith (Moon & Spencer 1942; ISO 15469, type 16). */
export function overcast(altitudeDeg: number): number {
  return (1 + 2 * Math.sin(altitudeDeg * RAD)) / 3;
}

/** Gradation and indicatrix of a standard general sky. */
export interface StandardSky {
  type: number;
  name: string;
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
}

/** The fifteen standard skies of ISO 15469:2004 (CIE S 011), table 1. */
export const STANDARD_SKIES: readonly StandardSky[] = [
  [4.0, -0.7, 0, -1.0, 0, 'overcast, steep gradation, the same all round'],
  [4.0, -0.7, 2, -1.5, 0.15, 'overcast, steep gradation, a little brighter towards the sun'],
  [1.1, -0.8, 0, -1.0, 0, 'overcast, moderate gradation, the same all round'],
  [1.1, -0.8, 2, -1.5, 0.15, 'overcast, moderate gradation, a little brighter towards the sun'],
  [0, -1.0, 0, -1.0, 0, 'uniform'],
  [0, -1.0, 2, -1.5, 0.15, 'partly cloudy, no gradation, a little brighter towards the sun'],
  [0, -1.0, 5, -2.5, 0.3, 'partly cloudy, no gradation, brighter about the sun'],
  [0, -1.0, 10, -3.0, 0.45, 'partly cloudy, no gradation, a corona'],
  [-1.0, -0.55, 2, -1.5, 0.15, 'partly cloudy, the sun hidden'],
  [-1.0, -0.55, 5, -2.5, 0.3, 'partly cloudy, brighter about the sun'],
  [-1.0, -0.55, 10, -3.0, 0.45, 'white-blue, a corona'],
  [-1.0, -0.32, 10, -3.0, 0.45, 'clear, low turbidity'],
  [-1.0, -0.32, 16, -3.0, 0.3, 'clear, polluted'],
  [-1.0, -0.15, 16, -3.0, 0.3, 'cloudless, turbid, a wide corona'],
  [-1.0, -0.15, 24, -2.8, 0.15, 'white-blue, turbid, a wide corona'],
].map(([a, b, c, d, e, name], i) => ({ type: i + 1, name, a, b, c, d, e }) as StandardSky);

/**
 * Luminance in a standard sky against that of its zenith: gradation φ(Z)/φ(0) × indicatrix f(χ)/f(Zs), ISO 15469:2004.
 * @param altitudeDeg of the point; @param angleDeg between point and sun; @param sunAltitudeDeg of the sun
 */
export function standardSky(
  { a, b, c, d, e }: Omit<StandardSky, 'type' | 'name'>,
  altitudeDeg: number,
  angleDeg: number,
  sunAltitudeDeg: number,
): number {
  const zenith = (90 - altitudeDeg) * RAD;
  const gradation = (z: number) => (z >= Math.PI / 2 ? 1 : 1 + a * Math.exp(b / Math.cos(z)));
  const indicatrix = (x: number) =>
    1 + c * (Math.exp(d * x) - Math.exp((d * Math.PI) / 2)) + e * Math.cos(x) ** 2;
  return (
    (gradation(zenith) / gradation(0)) *
    (indicatrix(angleDeg * RAD) / indicatrix((90 - sunAltitudeDeg) * RAD))
  );
}
