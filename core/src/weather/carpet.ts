import { addDays, clockAt, dayOfYear, daysInYear } from '../civil';
import type { Site } from '../project';
import type { WeatherHour } from './sun-of-hours';

/** A value for every day of the site's year and hour of its clock. */
export interface Carpet {
  days: number;
  /** Hours of the clock on site, daylight saving included. */
  steps: 24;
  /** days × steps; NaN where there is none. */
  values: Float32Array;
  /** Of each: the hour of the weather year, by its place among the hours; −1 where there is none. */
  hourOf: Int32Array;
}

/** What hours of a weather year have, laid out by the days and the clock of the site. */
export function carpetOf(
  { place, year }: Pick<Site, 'place' | 'year'>,
  hours: readonly WeatherHour[],
  value: (hour: WeatherHour) => number,
): Carpet {
  const days = daysInYear(year);
  const carpet: Carpet = {
    days,
    steps: 24,
    values: new Float32Array(days * 24).fill(NaN),
    hourOf: new Int32Array(days * 24).fill(-1),
  };
  hours.forEach((hour, h) => {
    const { date, minutes } = clockAt(hour.startMs + 1_800_000, place.zone);
    // The first or last hours of another year lie at the other end of this one.
    const at = (dayOfYear(`${year}${date.slice(4)}`) % days) * 24 + Math.floor(minutes / 60);
    carpet.hourOf[at] = h;
    carpet.values[at] = value(hour);
  });
  // The hour that the clocks leave out has what the one before it has.
  for (let i = 1; i < carpet.hourOf.length; i++)
    if (carpet.hourOf[i]! < 0 && carpet.hourOf[i - 1]! >= 0) {
      carpet.hourOf[i] = carpet.hourOf[i - 1]!;
      carpet.values[i] = carpet.values[i - 1]!;
    }
  return carpet;
}

/** The date of a day of a carpet, counted from 0. */
export function carpetDate(year: number, day: number): string {
  return addDays(`${year}-01-01`, day);
}
