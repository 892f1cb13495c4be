/** Directions that lie side by side in a set and in another: the first of them here and there, and how many. */
export interface DirectionRun {
  at: number;
  from: number;
  count: number;
}

/** Where the directions of a set are found in others, and which are in none. */
export interface KnownDirections {
  /** For each of the others, what is taken from it. */
  found: DirectionRun[][];
  /** Directions that none of them has, ascending. */
  missing: Uint32Array;
}

const places = new WeakMap<Float64Array, Map<number, number[]>>();

/** Directions of a set by their x. */
function byX(vectors: Float64Array): Map<number, number[]> {
  let map = places.get(vectors);
  if (!map) {
    map = new Map();
    for (let d = 0; d < vectors.length / 3; d++) {
      const x = vectors[d * 3]!;
      const list = map.get(x);
      if (list) list.push(d);
      else map.set(x, [d]);
    }
    places.set(vectors, map);
  }
  return map;
}

/**
 * Finds directions in other sets, to the last bit; what several have is taken from the first of them.
 * @param wanted 3 numbers a direction
 */
export function findDirections(wanted: Float64Array, others: readonly Float64Array[]): KnownDirections {
  let missing = Array.from({ length: wanted.length / 3 }, (_, d) => d);
  const found = others.map((other) => {
    if (missing.length === 0) return [];
    const map = byX(other);
    const runs: DirectionRun[] = [];
    const left: number[] = [];
    for (const d of missing) {
      const [y, z] = [wanted[d * 3 + 1]!, wanted[d * 3 + 2]!];
      const from = map.get(wanted[d * 3]!)?.find((i) => other[i * 3 + 1] === y && other[i * 3 + 2] === z);
      if (from === undefined) {
        left.push(d);
        continue;
      }
      const last = runs.at(-1);
      if (last && last.at + last.count === d && last.from + last.count === from) last.count++;
      else runs.push({ at: d, from, count: 1 });
    }
    missing = left;
    return runs;
  });
  return { found, missing: Uint32Array.from(missing) };
}

/** Copies bits of one row of words into another whose bits there are 0; both count bits from the start of the array. */
export function copyBits(
  from: Uint32Array,
  fromBit: number,
  into: Uint32Array,
  intoBit: number,
  count: number,
): void {
  for (let done = 0; done < count;) {
    const [source, target] = [fromBit + done, intoBit + done];
    const [skip, offset] = [source & 31, target & 31];
    const bits = Math.min(32 - offset, count - done);
    let word = from[source >>> 5]! >>> skip;
    if (skip + bits > 32) word |= from[(source >>> 5) + 1]! << (32 - skip);
    if (bits < 32) word &= (1 << bits) - 1;
    into[target >>> 5]! |= word << offset;
    done += bits;
  }
}
