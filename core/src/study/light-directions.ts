import { skySpiral } from '../sky';
import type { Directions } from './kinds/kind';
import { type RadiationSamples, readSky } from './kinds/radiation-samples';

/** Directions of the sky by which cells are lit. */
const PARTS = 512;
/** Suns that stand for those of an hour of the day of a month. */
const A_MONTH = 4;

/**
 * Suns and directions of the sky by which is told what light falls on what throws it back: fewer than sensors are traced
 * to, and each sun by the one that stands for it.
 */
export interface LightDirections extends Directions {
  suns: number;
  parts: number;
  /** Of each sun of the samples, the one that stands for it. */
  sunOf: Uint32Array;
  month: Uint8Array;
  hour: Uint8Array;
  /** Of each direction of the sky: Wh/m² on a plane that faces it; months ×, and hours of the day ×. */
  skyByMonth: Float64Array;
  skyByHour: Float64Array;
}

const made = new WeakMap<RadiationSamples, LightDirections>();

/** The directions of some samples; made once. */
export function lightDirections(samples: RadiationSamples): LightDirections {
  let found = made.get(samples);
  if (!found) made.set(samples, (found = thinned(samples)));
  return found;
}

function thinned(samples: RadiationSamples): LightDirections {
  const { suns, month, hour, date, vectors, moments, nodesByMonth, nodesByHour } = samples;
  const sunOf = new Uint32Array(suns);
  const kept: number[] = [];
  // Suns go by month, hour and day; those of one day within an hour of it by the clock.
  for (let first = 0; first < suns;) {
    let end = first;
    while (end < suns && month[end] === month[first] && hour[end] === hour[first]) end++;
    for (const slot of slotsOf(date, first, end))
      for (let g = 0; g < A_MONTH; g++) {
        const own = slot.slice(
          Math.round((g * slot.length) / A_MONTH),
          Math.round(((g + 1) * slot.length) / A_MONTH),
        );
        if (own.length === 0) continue;
        for (const d of own) sunOf[d] = kept.length;
        kept.push(own[own.length >> 1]!);
      }
    first = end;
  }
  const count = kept.length + PARTS;
  const towards = new Float64Array(count * 3);
  kept.forEach((d, i) => towards.set(vectors.subarray(d * 3, d * 3 + 3), i * 3));
  towards.set(skySpiral(PARTS).vectors, kept.length * 3);
  const dates = new Uint16Array(count).fill(date[suns]!);
  kept.forEach((d, i) => (dates[i] = date[d]!));
  const ofSuns = (values: Float32Array) =>
    Float32Array.from({ length: count }, (_, i) => (i < kept.length ? values[kept[i]!]! : NaN));
  return {
    count,
    vectors: towards,
    date: dates,
    ...(moments && { moments: { minutes: ofSuns(moments.minutes), beamWm2: ofSuns(moments.beamWm2) } }),
    suns: kept.length,
    parts: PARTS,
    sunOf,
    month: Uint8Array.from(kept, (d) => month[d]!),
    hour: Uint8Array.from(kept, (d) => hour[d]!),
    skyByMonth: readSky(nodesByMonth, PARTS),
    skyByHour: readSky(nodesByHour, PARTS),
  };
}

/** The suns of an hour of the day in a month, those that are the same of their day together. */
function slotsOf(date: Uint16Array, first: number, end: number): number[][] {
  const slots: number[][] = [];
  for (let d = first, slot = 0; d < end; d++) {
    slot = d > first && date[d] === date[d - 1] ? slot + 1 : 0;
    (slots[slot] ??= []).push(d);
  }
  return slots;
}
