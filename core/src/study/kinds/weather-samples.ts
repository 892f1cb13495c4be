import { addDays, daysBetween } from '../../civil';
import type { WindowOfTime } from '../../project';
import { dayNumber } from '../../scene';

/** Day of the year of the middle of a window as month × 100 + day. */
export function middleOf(window: WindowOfTime): number {
  return dayNumber(addDays(window.from, Math.floor(daysBetween(window.from, window.to) / 2)));
}
