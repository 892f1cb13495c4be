import { InputError } from '../errors';
import { monthDays, type WeatherYear } from './weather-year';

const HOURS = [8760, 8784];

/** Throws InputError `weather` unless so many records make a year. */
export function requireYearOfHours(count: number): void {
  if (HOURS.includes(count)) return;
  const many = count.toLocaleString('en');
  const twice = count % 8760 === 0 || count % 8784 === 0 || count === 17_544;
  throw new InputError(
    'weather',
    count > 8784 && twice
      ? `The file has ${many} hours, more than one year; take out all but one (8,760 hours, or 8,784 with a 29 February).`
      : `The file has ${many} hours; a year has 8,760, or 8,784 with a 29 February.`,
  );
}

/**
 * Checks that every hour of a year is there once, one after the other; the year may begin in any month.
 * `lineOf` tells the line of a record. Throws InputError `weather` naming the line.
 */
export function checkOrder(
  { hours, month, day, hour }: WeatherYear,
  lineOf: (record: number) => number,
): void {
  const isLeap = hours === 8784;
  for (let i = 0; i < hours; i++) {
    const [m, d, h] = [month[i]!, day[i]!, hour[i]!];
    if (m < 1 || m > 12 || d < 1 || d > monthDays(m, true) || h < 1 || h > 24)
      throw new InputError(
        'weather',
        `Line ${lineOf(i)}: there is no hour ${h} of day ${d} of month ${m}; hours go from 1 to 24.`,
      );
    if (i === 0) {
      if (h !== 1)
        throw new InputError(
          'weather',
          `Line ${lineOf(0)}: the file begins with hour ${h} of a day, not with hour 1.`,
        );
      continue;
    }
    const [wantM, wantD, wantH] = next(month[i - 1]!, day[i - 1]!, hour[i - 1]!, isLeap);
    if (m !== wantM || d !== wantD || h !== wantH)
      throw new InputError(
        'weather',
        `Line ${lineOf(i)}: ${stamp(m, d, h)} comes after ${stamp(month[i - 1]!, day[i - 1]!, hour[i - 1]!)}; ${stamp(wantM, wantD, wantH)} is expected there.`,
      );
  }
}

function next(month: number, day: number, hour: number, isLeap: boolean): [number, number, number] {
  if (hour < 24) return [month, day, hour + 1];
  if (day < monthDays(month, isLeap)) return [month, day + 1, 1];
  return [(month % 12) + 1, 1, 1];
}

/** An hour for reading: day, month and the hour that ends then. */
function stamp(month: number, day: number, hour: number): string {
  return `${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')} hour ${hour}`;
}
