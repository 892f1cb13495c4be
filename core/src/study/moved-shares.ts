import { findDirections, type KeptShares, type Known, type ShareRow } from '../trace';

/**
 * What open rays lose on the way, taken from rows of other directions: where all that are wanted are among those of one of
 * them, they are written for every sensor that it has.
 */
export function movedShares(
  vectors: Float64Array,
  others: readonly Known<KeptShares>[],
  into: KeptShares,
): void {
  for (const other of others) {
    const { found, missing } = findDirections(vectors, [other.vectors]);
    if (missing.length > 0) continue;
    /** For each direction of the other, which of the wanted ones it is; −1: none. */
    const now = new Int32Array(other.vectors.length / 3).fill(-1);
    for (const { at, from, count } of found[0]!) for (let k = 0; k < count; k++) now[from + k] = at + k;
    other.kept.forEach((row, s) => row && (into[s] = movedRow(row, now)));
    return;
  }
}

/** A row with its directions counted anew, ascending; without those that are not wanted. */
function movedRow({ direction, fixed, ends, crowns }: ShareRow, now: Int32Array): ShareRow {
  const order = Array.from(direction, (_, k) => k)
    .filter((k) => now[direction[k]!]! >= 0)
    .sort((a, b) => now[direction[a]!]! - now[direction[b]!]!);
  let end = 0;
  const met = order.map((k) => crowns.subarray(k > 0 ? ends[k - 1]! : 0, ends[k]!));
  const all = new Uint32Array(met.reduce((sum, part) => sum + part.length, 0));
  const newEnds = Uint32Array.from(met, (part) => {
    all.set(part, end);
    return (end += part.length);
  });
  return {
    direction: Uint32Array.from(order, (k) => now[direction[k]!]!),
    fixed: Float32Array.from(order, (k) => fixed[k]!),
    ends: newEnds,
    crowns: all,
  };
}
