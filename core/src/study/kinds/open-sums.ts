import { maskWords } from '../../trace';
import type { OpenDirections, WeighedAt } from './kind';

/** Bits that are summed at a time: a nibble, by a table of the 16 sums that it may have. */
const NIBBLE = 4;
/** Entries of the table for a word of 32 directions. */
const WORD_ENTRIES = (32 / NIBBLE) * 16;

/** Sums of weights over the open bits of a mask, by tables: a lookup for every four directions. */
export class BitSums {
  private readonly table: Float64Array;
  private readonly firstWord: number;
  private readonly words: number;

  /** @param from first direction that has a weight; @param to the one after the last */
  constructor(
    readonly weights: Float64Array,
    from: number,
    to: number,
  ) {
    this.firstWord = from >> 5;
    this.words = Math.max(0, ((to + 31) >> 5) - this.firstWord);
    this.table = new Float64Array(this.words * WORD_ENTRIES);
    const { table } = this;
    const first = this.firstWord * 32;
    for (let n = 0; n < this.words * 8; n++) {
      const d = first + n * NIBBLE;
      const [a, b, c, e] = [weights[d] ?? 0, weights[d + 1] ?? 0, weights[d + 2] ?? 0, weights[d + 3] ?? 0];
      const at = n * 16;
      for (let bits = 1; bits < 16; bits++)
        table[at + bits] = (bits & 1 ? a : 0) + (bits & 2 ? b : 0) + (bits & 4 ? c : 0) + (bits & 8 ? e : 0);
    }
  }

  /** The sum for the sensor whose words begin at `at`. */
  sum(mask: Uint32Array, at: number): number {
    const { table, firstWord, words } = this;
    let sum = 0;
    for (let w = 0; w < words; w++) {
      const bits = mask[at + firstWord + w]!;
      if (bits === 0) continue;
      const t = w * WORD_ENTRIES;
      sum +=
        table[t + (bits & 15)]! +
        table[t + 16 + ((bits >>> 4) & 15)]! +
        table[t + 32 + ((bits >>> 8) & 15)]! +
        table[t + 48 + ((bits >>> 12) & 15)]! +
        table[t + 64 + ((bits >>> 16) & 15)]! +
        table[t + 80 + ((bits >>> 20) & 15)]! +
        table[t + 96 + ((bits >>> 24) & 15)]! +
        table[t + 112 + (bits >>> 28)]!;
    }
    return sum;
  }
}

/** Sums of weights over the open bits of one sensor, bit by bit: for where a table would not pay. */
function sumBits(mask: Uint32Array, at: number, words: number, weights: Float64Array): number {
  let sum = 0;
  for (let w = 0; w < words; w++) {
    let bits = mask[at + w]!;
    while (bits !== 0) {
      const low = bits & -bits;
      sum += weights[w * 32 + 31 - Math.clz32(low)]!;
      bits ^= low;
    }
  }
  return sum;
}

/** Sensors that face the same way from which on a table pays. */
const ENOUGH = 6;

/** Weights over a range of directions. */
export interface WeightRange {
  /** First direction that may have a weight, and the one after the last. */
  from: number;
  to: number;
}

/**
 * Sums of several sets of weights over the open directions of each sensor, with what panes, fences and crowns let through.
 * Weights are asked for once for all sensors that face the same way (and have the same `also`).
 * @returns for each set, one sum a sensor
 */
export function openSums(
  open: OpenDirections,
  count: number,
  { normals }: Pick<WeighedAt, 'normals'>,
  ranges: readonly WeightRange[],
  fill: (sensor: number, into: readonly Float64Array[]) => void,
  also: (sensor: number) => unknown = () => '',
): Float64Array[] {
  const words = maskWords(count);
  const sums = ranges.map(() => new Float64Array(open.sensors));
  const weights = ranges.map(() => new Float64Array(words * 32));
  for (const sensors of sameFacing(open, normals, also)) {
    for (const one of weights) one.fill(0);
    fill(open.from + sensors[0]!, weights);
    const hasTable = sensors.length >= ENOUGH;
    ranges.forEach(({ from, to }, k) => {
      const table = hasTable ? new BitSums(weights[k]!, from, to) : null;
      for (const s of sensors) {
        const at = s * words;
        let sum = table ? table.sum(open.mask, at) : sumBits(open.mask, at, words, weights[k]!);
        const row = open.shares?.[s];
        if (row)
          for (let i = 0; i < row.direction.length; i++)
            sum -= weights[k]![row.direction[i]!]! * (1 - row.share[i]!);
        sums[k]![s] = sum;
      }
    });
  }
  return sums;
}

/** Sensors of a stretch in groups that face the same way. */
function sameFacing(
  open: OpenDirections,
  normals: Float64Array,
  also: (sensor: number) => unknown,
): number[][] {
  const groups = new Map<string, number[]>();
  for (let s = 0; s < open.sensors; s++) {
    const n = (open.from + s) * 3;
    const key = `${normals[n]} ${normals[n + 1]} ${normals[n + 2]} ${String(also(open.from + s))}`;
    const group = groups.get(key);
    if (group) group.push(s);
    else groups.set(key, [s]);
  }
  return [...groups.values()];
}

/** Sums as single precision, each times a factor. */
export function scaled(sums: Float64Array, factor: number): Float32Array {
  return Float32Array.from(sums, (sum) => sum * factor);
}
