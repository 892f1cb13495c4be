import { MONTH_NAMES } from '../../civil';
import type { Measure } from './kind';
import { HOURS } from './radiation-samples';

/** Values by the key of their measure: a letter and two digits, counted from `first`. */
export function byNumber(
  letter: string,
  all: readonly Float32Array[],
  first: number,
): Record<string, Float32Array> {
  return Object.fromEntries(all.map((values, i) => [`${letter}${two(i + first)}`, values]));
}

const two = (n: number) => String(n).padStart(2, '0');

/** A measure for each month: `01 (kWh/m2)` to `12 (kWh/m2)`. @param of what it is, as a noun */
export function monthMeasures(of: string): Measure[] {
  return MONTH_NAMES.map((name, m) => ({
    key: `m${two(m + 1)}`,
    label: name,
    unit: 'kWh/m²',
    heading: `${two(m + 1)} (kWh/m2)`,
    digits: 1,
    series: 'month',
    definition: `${of} of the hours of ${name}, in local standard time.`,
  }));
}

/** A measure for each hour of the day: `00h (kWh/m2)` to `23h (kWh/m2)`. */
export function hourMeasures(of: string): Measure[] {
  return Array.from({ length: HOURS }, (_, h) => ({
    key: `h${two(h)}`,
    label: `${two(h)} to ${two(h + 1)} h`,
    unit: 'kWh/m²',
    heading: `${two(h)}h (kWh/m2)`,
    digits: 1,
    series: 'hour',
    definition: `${of} between ${two(h)}:00 and ${two(h + 1)}:00 local standard time, over all days.`,
  }));
}
