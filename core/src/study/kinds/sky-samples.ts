import type { Project } from '../../project';
import { overcast } from '../../sky';
import { DEG } from '../../civil';
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
const GOLDEN = (Math.sqrt(5) - 1) / 2;

const made = new Map<number, SkySamples>();

/**
 * 8,192 directions of the vault in a spiral that turns by the golden section, as dense as the overcast sky is bright: the
 * share of the sky's light below a height s = sin γ is (s + s²)/2. The same whatever the sensor's normal, so that one mask
 * serves every study of the sky.
 */
export function skySamples({ site }: Project): SkySamples {
  const date = site.place.latitudeDeg < 0 ? MIDSUMMER.south : MIDSUMMER.north;
  let samples = made.get(date);
  if (!samples) {
    samples = {
      count: COUNT,
      vectors: new Float64Array(COUNT * 3),
      date: new Uint16Array(COUNT).fill(date),
      luminance: new Float64Array(COUNT),
    };
    for (let i = 0; i < COUNT; i++) {
      const s = (-1 + Math.sqrt(1 + (8 * (i + 0.5)) / COUNT)) / 2;
      const turn = 2 * Math.PI * ((i * GOLDEN) % 1);
      const r = Math.sqrt(1 - s * s);
      samples.vectors.set([r * Math.cos(turn), r * Math.sin(turn), s], i * 3);
      samples.luminance[i] = overcast(Math.asin(s) * DEG);
    }
    made.set(date, samples);
  }
  return samples;
}
