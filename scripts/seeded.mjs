/** Numbers from 0 up to 1 that are the same every time (a linear congruential generator with the constants of Numerical Recipes). */
export function seeded(seed) {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296;
  };
}
