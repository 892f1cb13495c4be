import type { HourSet, Site } from '../project';
import type { WeatherHour } from './sun-of-hours';
import type { WeatherYear } from './weather-year';
import { shareInWindow } from './windows-of-time';

/** How much of each hour belongs to a set, 0 to 1. Where a temperature is missing the hour does not. */
export function hoursInSet(
  site: Site,
  weather: WeatherYear,
  hours: readonly WeatherHour[],
  { source }: Pick<HourSet, 'source'>,
): Float32Array {
  if (source.by === 'windows') {
    const { shareOf } = shareInWindow(source.windows, site);
    return Float32Array.from(hours, shareOf);
  }
  const { dryBulb } = weather.values;
  return Float32Array.from(hours, ({ record }) =>
    Number(source.above ? dryBulb[record]! >= source.atC : dryBulb[record]! <= source.atC),
  );
}

/** Hours of the year by how far they are above, or below, a temperature: Σ K·h. Missing values count for nothing. */
export function degreeHours(weather: WeatherYear, atC: number, above: boolean): number {
  let sum = 0;
  for (const value of weather.values.dryBulb)
    if (!Number.isNaN(value)) sum += Math.max(0, above ? value - atC : atC - value);
  return sum;
}
