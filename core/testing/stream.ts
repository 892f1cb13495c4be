/** A seeded stream of numbers, 0 ≤ r < 1. */
export function stream(seed: number): () => number {
  let a = seed;
  return () => {
    a = (Math.imul(a, 1664525) + 1013904223) >>> 0;
    return a / 4294967296;
  };
}
