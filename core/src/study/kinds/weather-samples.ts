import { addDays, daysBetween } from '../../civil';
import type { WindowOfTime } from '../../project';
import { dayNumber } from '../../scene';

/** Day of the year of the middle of a window as month × 100 + day. */
export function middleOf(window: WindowOfTime): number {
  return dayNumber(addDays(window.from, Math.floor(daysBetween(window.from, window.to) / 2)));
}

/** The order of suns by month, hour and day: what is side by side then is mostly open or blocked together. */
export function orderOfSuns(month: readonly number[], hour: readonly number[]): Uint32Array {
  return Uint32Array.from(month, (_, d) => d).sort(
    (a, b) => month[a]! - month[b]! || hour[a]! - hour[b]! || a - b,
  );
}
