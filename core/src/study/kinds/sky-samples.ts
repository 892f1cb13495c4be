import type { Project } from '../../project';
import { skySpiral } from '../../sky';
import type { Directions } from './kind';

/** Directions over the vault, each of which carries the same light of the overcast sky. */
export interface SkySamples extends Directions {
  /** Luminance of each against the zenith. */
  luminance: Float64Array;
}

/** Directions: many enough that half of them before a wall tell its sky within 0.05 points. */
const COUNT = 8192;
/** Trees are taken as they are at midsummer: in leaf. */
const MIDSUMMER = { north: 621, south: 1221 };

const made = new Map<number, SkySamples>();

/** The 8,192 directions of the vault that studies of the sky are traced to (see `skySpiral`). */
export function skySamples({ site }: Project): SkySamples {
  const date = site.place.latitudeDeg < 0 ? MIDSUMMER.south : MIDSUMMER.north;
  let samples = made.get(date);
  if (!samples) {
    const { count, vectors, luminance } = skySpiral(COUNT);
    samples = { count, vectors, date: new Uint16Array(count).fill(date), luminance };
    made.set(date, samples);
  }
  return samples;
}
