import type { ComparedMeasure } from './measures';

/** Figures that differ by less, as a share of them, are the same. */
const DUST = 1e-9;

/** A candidate in a chart of two measures. */
export interface Mark {
  id: string;
  x: number;
  y: number;
}

/** Whether one value is better than another in a measure; never where neither way is. */
export function betterOf({ better }: Pick<ComparedMeasure, 'better'>, a: number, b: number): boolean {
  return better === 'more' ? a > b : better === 'less' ? a < b : false;
}

/**
 * Those that nothing beats: no other is at least as good in both measures and better in one. A measure of which neither way
 * is better counts as the more the better, so that the front of two such runs to the upper right.
 */
export function tradeOffFront<M extends Mark>(
  marks: readonly M[],
  x: Pick<ComparedMeasure, 'better'>,
  y: Pick<ComparedMeasure, 'better'>,
): M[] {
  const [sx, sy] = [x, y].map(({ better }) => (better === 'less' ? -1 : 1)) as [number, number];
  /** How much better one is, nothing where the two differ by the dust of their sums only. */
  const over = (a: number, b: number) =>
    Math.abs(a - b) <= DUST * Math.max(1, Math.abs(a), Math.abs(b)) ? 0 : a - b;
  const beats = (a: M, b: M) => {
    const [dx, dy] = [sx * over(a.x, b.x), sy * over(a.y, b.y)];
    return dx >= 0 && dy >= 0 && (dx > 0 || dy > 0);
  };
  return marks.filter((mark) => !marks.some((other) => beats(other, mark))).sort((a, b) => a.x - b.x);
}
