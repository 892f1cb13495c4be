import type { DeviceMake } from '../project';

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
    if (best.good < enough) return { value: leastAsGood(best.value), isMet: false };
    high = best.value;
  }
  while (high - low > FINE / 2) {
    const middle = (low + high) / 2;
    if (goodness(middle) >= enough) high = middle;
    else low = middle;
  }
  return { value: Number((Math.ceil(high / FINE - 1e-6) * FINE).toFixed(3)), isMet: true };

  /** Of values that are as good as one, the least: what is more than that does nothing. */
  function leastAsGood(value: number): number {
    const wanted = goodness(value) - SAME;
    if (goodness(from) >= wanted) return from;
    let [less, as] = [from, value];
    while (as - less > FINE / 2) {
      const middle = (less + as) / 2;
      if (goodness(middle) >= wanted) as = middle;
      else less = middle;
    }
    return Number(Math.min(value, Math.ceil(as / FINE - 1e-6) * FINE).toFixed(3));
  }
}

/** A number that is free, and between what. */
export interface FreeRange {
  from: number;
  to: number;
}

/** Values of the second of two numbers that are looked at first, and how often the best of them is looked around. */
const SECONDS = 9;
const CLOSER = 4;

/**
 * The two numbers that are good enough with the least of some amount, the first to a thousandth for each value of the
 * second that is looked at: nine between its ends, then ever closer around the best. Of what cannot come to less than the
 * best so far, one value is looked at only. Where nothing is good enough, the best pair of all.
 * @param amount grows with the first number
 */
export function leastOfTwo(
  first: FreeRange,
  second: FreeRange,
  goodness: (a: number, b: number) => number,
  enough: number,
  amount: (a: number, b: number) => number,
): { values: [number, number]; isMet: boolean } {
  let best: { values: [number, number]; amount: number; isMet: boolean; good: number } | null = null;
  const look = (b: number) => {
    let to = first.to;
    if (best?.isMet) {
      to = lessThan(first, (a) => amount(a, b), best.amount);
      if (to < first.from || goodness(to, b) < enough) return;
    }
    const { value, isMet } = leastSize({ from: first.from, to }, (a) => goodness(a, b), enough);
    const found = { values: [value, b] as [number, number], amount: amount(value, b), isMet };
    if (isMet) {
      if (!best?.isMet || found.amount < best.amount - SAME) best = { ...found, good: enough };
      return;
    }
    const good = goodness(value, b);
    if (!best || (!best.isMet && good > best.good + SAME)) best = { ...found, good };
  };
  const step = (second.to - second.from) / (SECONDS - 1);
  for (let i = 0; i < SECONDS; i++) look(Number((second.from + i * step).toFixed(3)));
  for (let round = 1; round <= CLOSER; round++) {
    const around = best!.values[1];
    for (const side of [-1, 1]) {
      const b = Number((around + (side * step) / 2 ** round).toFixed(3));
      if (b >= second.from && b <= second.to) look(b);
    }
  }
  return { values: best!.values, isMet: best!.isMet };
}

/** The greatest number with which an amount that grows with it stays under a limit; less than `from` where none does. */
function lessThan({ from, to }: FreeRange, amount: (value: number) => number, limit: number): number {
  if (amount(to) < limit) return to;
  if (amount(from) >= limit) return from - 1;
  let [low, high] = [from, to];
  while (high - low > FINE / 2) {
    const middle = (low + high) / 2;
    if (amount(middle) < limit) low = middle;
    else high = middle;
  }
  return low;
}

/** What is free of a device: one number, or two. */
interface FreeOf extends FreeRange {
  number: string;
  second?: (FreeRange & { number: string }) | null;
}

/** Numbers of which more lets more sun in, whatever the kind. */
const OPENING = new Set(['openness', 'railOpenness', 'spacingM', 'columnM', 'rowM', 'gapM']);

/** Whether more of a number of a device lets more sun in: then the greatest that does it is wanted, not the least. */
export function opensWithMore({ kind }: Pick<DeviceMake, 'kind'>, number: string): boolean {
  // Fins reach further up with more of it.
  return OPENING.has(number) || (number === 'aboveM' && kind !== 'fins');
}

/**
 * The least of one number of a device that is good enough (the greatest, where more of it lets more sun in); of two, what has
 * the least of some amount.
 */
export function leastMake(
  make: DeviceMake,
  { number, from, to, second = null }: FreeOf,
  goodness: (make: DeviceMake) => number,
  enough: number,
  amount: (make: DeviceMake) => number,
): { make: DeviceMake; value: number; second: number | null; isMet: boolean } {
  const isTurned = opensWithMore(make, number);
  const valueOf = (one: number) => (isTurned ? Number((from + to - one).toFixed(3)) : one);
  const at = (one: number, other: number | null) =>
    ({
      ...make,
      [number]: valueOf(one),
      ...(second && other !== null && { [second.number]: other }),
    }) as DeviceMake;
  if (!second) {
    const { value, isMet } = leastSize({ from, to }, (one) => goodness(at(one, null)), enough);
    return { make: at(value, null), value: valueOf(value), second: null, isMet };
  }
  const { values, isMet } = leastOfTwo(
    { from, to },
    second,
    (a, b) => goodness(at(a, b)),
    enough,
    (a, b) => amount(at(a, b)),
  );
  return { make: at(...values), value: valueOf(values[0]), second: values[1], isMet };
}
