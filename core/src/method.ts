/** What a figure is computed by: a number that goes up when what it computes changes, and what changed with each. */
export interface Method {
  /** 1 at first. */
  number: number;
  /** From its second number on, what changed, a sentence each. */
  changes: readonly string[];
}

/** A method with all that has changed in it, oldest first. */
export function methodOf(...changes: string[]): Method {
  return { number: 1 + changes.length, changes };
}

/** What changed in a method since it bore a number, as sentences that say so; none where it is the same. */
export function changedSince({ number, changes }: Method, then: number): string[] {
  if (then > number) return ['Computed by a later method than this program has.'];
  return changes.slice(then - 1).map((change) => `Computed by an earlier method: ${change}`);
}
