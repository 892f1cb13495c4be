/** What is nearest, ties by their order, as they stand in the list; and how far the last of them lies. */
export function nearestOf<T>(
  all: readonly T[],
  metresTo: (one: T) => number,
  most: number,
): { kept: T[]; reachM: number } {
  if (all.length <= most) return { kept: [...all], reachM: Infinity };
  const far = all.map(metresTo);
  const order = far.map((_, i) => i).sort((a, b) => far[a]! - far[b]! || a - b);
  const kept = new Set(order.slice(0, most));
  return { kept: all.filter((_, i) => kept.has(i)), reachM: far[order[most - 1]!]! };
}

/** Outlines that one file may bring. */
export const MAX_FOOTPRINTS = 5000;

/** That outlines beyond some distance are left out. */
export function farthestLeftOut(count: number, from: string, reachM: number): string {
  return `The ${count.toLocaleString('en')} outlines farthest from ${from}, from ${Math.round(reachM).toLocaleString('en')} m on, are left out: at most ${MAX_FOOTPRINTS.toLocaleString('en')} are read.`;
}

/** The middle of some values as most have it. */
export function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;
}
