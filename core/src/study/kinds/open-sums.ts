import { maskWords } from '../../trace';
import type { OpenDirections, WeighedAt } from './kind';

/** Bits that are summed at a time: a nibble, by a table of the 16 sums that it may have. */
const NIBBLE = 4;
/** Entries of the table for a word of 32 directions. */
const WORD_ENTRIES = (32 / NIBBLE) * 16;

/** Sensors that are summed together. */
const BLOCK = 64;
/** A word whose directions are all open. */
const ALL = -1;

/** The same words as signed numbers, which are quicker to take apart. */
function asSigned(mask: Uint32Array): Int32Array {
  return new Int32Array(mask.buffer, mask.byteOffset, mask.length);
}

/** Sums of weights over the open bits of a mask, by tables: a lookup for every four directions. */
export class BitSums {
  readonly table: Float64Array;
  /** Of each word, the sum of all its weights. */
  readonly whole: Float64Array;
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
    this.whole = new Float64Array(this.words);
    for (let n = 0; n < this.words * 8; n++) this.whole[n >> 3]! += table[n * 16 + 15]!;
  }

  /**
   * Writes the sums of some sensors, `words` words of the mask each, to their places. Word by word for a block of sensors,
   * so that what is at hand stays in the nearest cache.
   */
  sums(mask: Uint32Array, words: number, sensors: readonly number[], into: Float64Array): void {
    const { table, whole, firstWord } = this;
    const signed = asSigned(mask);
    const block = new Float64Array(BLOCK);
    for (let first = 0; first < sensors.length; first += BLOCK) {
      const count = Math.min(BLOCK, sensors.length - first);
      block.fill(0);
      for (let w = 0; w < this.words; w++) {
        const t = w * WORD_ENTRIES;
        for (let i = 0; i < count; i++) {
          const bits = signed[sensors[first + i]! * words + firstWord + w]!;
          if (bits === 0) continue;
          if (bits === ALL) {
            block[i]! += whole[w]!;
            continue;
          }
          block[i]! +=
            table[t + (bits & 15)]! +
            table[t + 16 + ((bits >>> 4) & 15)]! +
            table[t + 32 + ((bits >>> 8) & 15)]! +
            table[t + 48 + ((bits >>> 12) & 15)]! +
            table[t + 64 + ((bits >>> 16) & 15)]! +
            table[t + 80 + ((bits >>> 20) & 15)]! +
            table[t + 96 + ((bits >>> 24) & 15)]! +
            table[t + 112 + (bits >>> 28)]!;
        }
      }
      for (let i = 0; i < count; i++) into[sensors[first + i]!] = block[i]!;
    }
  }
}

/** Sums of several sets of weights over the same open bits, in one pass: their tables lie side by side. */
export class BitSumsOfSets {
  /** Sets × entries, the sets of an entry side by side; and of each word all its weights. */
  private readonly table: Float64Array;
  private readonly whole: Float64Array;
  private readonly firstWord: number;
  private readonly words: number;
  private readonly sets: number;

  /** @param from first direction that has a weight; @param to the one after the last */
  constructor(weights: readonly Float64Array[], from: number, to: number) {
    const sums = weights.map((one) => new BitSums(one, from, to));
    this.sets = weights.length;
    this.firstWord = from >> 5;
    this.words = Math.max(0, ((to + 31) >> 5) - this.firstWord);
    this.table = interleaved(sums.map(({ table }) => table));
    this.whole = interleaved(sums.map(({ whole }) => whole));
  }

  /** Writes the sums of some sensors to their places, for each set; see `BitSums`. */
  sums(mask: Uint32Array, words: number, sensors: readonly number[], into: readonly Float64Array[]): void {
    const { table, whole, firstWord, sets } = this;
    const signed = asSigned(mask);
    const block = new Float64Array(BLOCK * sets);
    for (let first = 0; first < sensors.length; first += BLOCK) {
      const count = Math.min(BLOCK, sensors.length - first);
      block.fill(0);
      for (let w = 0; w < this.words; w++) {
        const t = w * WORD_ENTRIES;
        for (let i = 0; i < count; i++) {
          const bits = signed[sensors[first + i]! * words + firstWord + w]!;
          if (bits === 0) continue;
          const own = i * sets;
          if (bits === ALL) {
            for (let k = 0; k < sets; k++) block[own + k]! += whole[w * sets + k]!;
            continue;
          }
          const a = (t + (bits & 15)) * sets;
          const b = (t + 16 + ((bits >>> 4) & 15)) * sets;
          const c = (t + 32 + ((bits >>> 8) & 15)) * sets;
          const d = (t + 48 + ((bits >>> 12) & 15)) * sets;
          const e = (t + 64 + ((bits >>> 16) & 15)) * sets;
          const f = (t + 80 + ((bits >>> 20) & 15)) * sets;
          const g = (t + 96 + ((bits >>> 24) & 15)) * sets;
          const h = (t + 112 + (bits >>> 28)) * sets;
          for (let k = 0; k < sets; k++)
            block[own + k]! +=
              table[a + k]! +
              table[b + k]! +
              table[c + k]! +
              table[d + k]! +
              table[e + k]! +
              table[f + k]! +
              table[g + k]! +
              table[h + k]!;
        }
      }
      for (let i = 0; i < count; i++)
        for (let k = 0; k < sets; k++) into[k]![sensors[first + i]!] = block[i * sets + k]!;
    }
  }
}

/** Sets of the same length with their entries side by side: set k of entry i at i × sets + k. */
export function interleaved(parts: readonly Float64Array[]): Float64Array {
  const all = new Float64Array(parts.length * parts[0]!.length);
  parts.forEach((part, k) => {
    for (let i = 0; i < part.length; i++) all[i * parts.length + k] = part[i]!;
  });
  return all;
}

/** Sums of weights over the open bits of one sensor, bit by bit: for where a table would not pay. */
function sumBits(mask: Uint32Array, at: number, words: number, weights: Float64Array): number {
  let sum = 0;
  for (let w = 0; w < words; w++) {
    let bits = mask[at + w]! | 0;
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
/** Sets of weights over the same directions from which on they are summed side by side. */
const SIDE_BY_SIDE = 4;

/** Weights over a range of directions. */
export interface WeightRange {
  /** First direction that may have a weight, and the one after the last. */
  from: number;
  to: number;
}

/** What the sums of sensors that face one way take, made once for as long as what they are of is there. */
interface Prepared {
  weights: Float64Array[];
  /** Sensors that were summed by them so far. */
  sensors: number;
  /** One a stretch of sets with the same range; null until a table pays. */
  tables: { first: number; end: number; table: BitSums | BitSumsOfSets }[] | null;
}

/** What is kept for later stretches of sensors: of which directions, and what is summed of them. */
export interface KeptSums {
  of: object;
  sums: string;
  /** Sensors from which on a table pays: more where little is open, since what is shut costs nothing bit by bit. */
  enough?: number;
  /** Ways of facing that are kept. A curved facade has more than there is room for. */
  facings?: number;
}

const kept = new WeakMap<object, Map<string, Prepared>>();
const FACINGS = 8;

function preparedOf(keep: KeptSums | undefined, facing: string, make: () => Prepared): Prepared {
  if (!keep) return make();
  const known = kept.get(keep.of) ?? new Map<string, Prepared>();
  kept.set(keep.of, known);
  const key = `${keep.sums} ${facing}`;
  const prepared = known.get(key) ?? make();
  known.delete(key);
  known.set(key, prepared);
  for (const old of known.keys()) if (known.size > (keep.facings ?? FACINGS)) known.delete(old);
  return prepared;
}

/**
 * Sums of several sets of weights over the open directions of each sensor, with what panes, fences and crowns let through.
 * Weights are asked for once for all sensors that face the same way (and have the same `also`).
 * @param keep keeps what is made of the weights for further stretches of the same
 * @returns for each set, one sum a sensor
 */
export function openSums(
  open: OpenDirections,
  count: number,
  { normals }: Pick<WeighedAt, 'normals'>,
  ranges: readonly WeightRange[],
  fill: (sensor: number, into: readonly Float64Array[]) => void,
  also: (sensor: number) => unknown = () => '',
  keep?: KeptSums,
): Float64Array[] {
  const words = maskWords(count);
  const sums = ranges.map(() => new Float64Array(open.sensors));
  for (const [facing, sensors] of facingAlike(open, normals, also)) {
    const prepared = preparedOf(keep, facing, () => {
      const weights = ranges.map(() => new Float64Array(words * 32));
      fill(open.from + sensors[0]!, weights);
      return { weights, sensors: 0, tables: null };
    });
    const { weights } = prepared;
    prepared.sensors += sensors.length;
    if (!prepared.tables && prepared.sensors < (keep?.enough ?? ENOUGH)) {
      for (const s of sensors)
        weights.forEach((one, k) => (sums[k]![s] = sumBits(open.mask, s * words, words, one)));
    } else {
      prepared.tables ??= tablesOf(weights, ranges);
      for (const { first, end, table } of prepared.tables)
        if (table instanceof BitSums) table.sums(open.mask, words, sensors, sums[first]!);
        else table.sums(open.mask, words, sensors, sums.slice(first, end));
    }
    if (open.shares) takeWhatIsHeld(open.shares, sensors, weights, sums);
  }
  return sums;
}

function tablesOf(weights: readonly Float64Array[], ranges: readonly WeightRange[]) {
  return alike(ranges).flatMap(({ first, end }): NonNullable<Prepared['tables']> => {
    const { from, to } = ranges[first]!;
    if (end - first >= SIDE_BY_SIDE)
      return [{ first, end, table: new BitSumsOfSets(weights.slice(first, end), from, to) }];
    return weights
      .slice(first, end)
      .map((one, k) => ({ first: first + k, end: first + k + 1, table: new BitSums(one, from, to) }));
  });
}

/** Stretches of sets that have the same range. */
function alike(ranges: readonly WeightRange[]): { first: number; end: number }[] {
  const stretches: { first: number; end: number }[] = [];
  ranges.forEach(({ from, to }, k) => {
    const last = stretches.at(-1);
    if (last && ranges[last.first]!.from === from && ranges[last.first]!.to === to) last.end = k + 1;
    else stretches.push({ first: k, end: k + 1 });
  });
  return stretches;
}

/** Takes from the sums of sensors what panes, fences and crowns hold back. */
function takeWhatIsHeld(
  shares: NonNullable<OpenDirections['shares']>,
  sensors: readonly number[],
  weights: readonly Float64Array[],
  sums: readonly Float64Array[],
): void {
  for (const s of sensors) {
    const { direction, share } = shares[s]!;
    weights.forEach((one, k) => {
      for (let i = 0; i < direction.length; i++) sums[k]![s]! -= one[direction[i]!]! * (1 - share[i]!);
    });
  }
}

/** Sensors of a stretch in groups that face the same way. */
export function sameFacing(
  open: OpenDirections,
  normals: Float64Array,
  also: (sensor: number) => unknown,
): number[][] {
  return [...facingAlike(open, normals, also).values()];
}

/** The same by which way they face, and what else they have in common. */
function facingAlike(
  open: OpenDirections,
  normals: Float64Array,
  also: (sensor: number) => unknown,
): Map<string, number[]> {
  const groups = new Map<string, number[]>();
  for (let s = 0; s < open.sensors; s++) {
    const n = (open.from + s) * 3;
    const key = `${normals[n]} ${normals[n + 1]} ${normals[n + 2]} ${String(also(open.from + s))}`;
    const group = groups.get(key);
    if (group) group.push(s);
    else groups.set(key, [s]);
  }
  return groups;
}

/** Sums as single precision, each times a factor. */
export function scaled(sums: Float64Array, factor: number): Float32Array {
  return Float32Array.from(sums, (sum) => sum * factor);
}
