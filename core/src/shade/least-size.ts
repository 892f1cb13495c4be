/** To how much a number is found, metres or degrees. */
const FINE = 0.001;
/** Values looked at where more is not always better. */
const LOOKS = 24;
/** What is as good as another. */
const SAME = 1e-9;

/**
 * The least number between two that is good enough, to a thousandth, by bisection: more is better as a rule. Where the
 * greatest is not good enough, values between are looked at; where none is, the best of them, told as not met.
 * @param goodness of a number; @param enough from which on it does
 */
export function leastSize(
  { from, to }: { from: number; to: number },
  goodness: (value: number) => number,
  enough: number,
): { value: number; isMet: boolean } {
  if (goodness(from) >= enough) return { value: from, isMet: true };
  let [low, high] = [from, to];
  let best = { value: to, good: goodness(to) };
  if (best.good < enough) {
    for (let i = 1; i < LOOKS && best.good < enough; i++) {
      const value = from + ((to - from) * i) / LOOKS;
      const good = goodness(value);
      if (good > best.good + SAME) best = { value, good };
    }
    if (best.good < enough) return { value: best.value, isMet: false };
    high = best.value;
  }
  while (high - low > FINE / 2) {
    const middle = (low + high) / 2;
    if (goodness(middle) >= enough) high = middle;
    else low = middle;
  }
  return { value: Number((Math.ceil(high / FINE - 1e-6) * FINE).toFixed(3)), isMet: true };
}
