import { RAD } from '../civil';

/** Solar constant, W/m². */
export const SOLAR_CONSTANT = 1367;

/** Extraterrestrial beam, W/m², at a distance of the sun in astronomical units. */
export function extraterrestrial(distanceAu: number): number {
  return SOLAR_CONSTANT / distanceAu ** 2;
}

/** Relative optical air mass at an altitude above the horizon. Kasten & Young, Applied Optics 28 (1989) 4735. */
export function airMass(altitudeDeg: number): number {
  return 1 / (Math.sin(altitudeDeg * RAD) + 0.50572 * (altitudeDeg + 6.07995) ** -1.6364);
}

/**
 * Share of the global horizontal radiation that is diffuse, by clearness index (global over extraterrestrial horizontal).
 * Erbs, Klein & Duffie, Solar Energy 28 (1982) 293.
 */
export function diffuseShare(clearness: number): number {
  const k = Math.max(0, clearness);
  if (k <= 0.22) return 1 - 0.09 * k;
  if (k > 0.8) return 0.165;
  return 0.9511 - 0.1604 * k + 4.388 * k ** 2 - 16.638 * k ** 3 + 12.336 * k ** 4;
}
