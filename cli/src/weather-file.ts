import { InputError, readWeather, sunOfHours, type WeatherHours, type WeatherYear } from '@dial-shade/core';
import { readFile } from 'node:fs/promises';

/** The weather year in a file. Throws InputError `file` or `weather`. */
export async function readWeatherFile(path: string): Promise<WeatherYear> {
  const bytes = await readFile(path).catch((error: NodeJS.ErrnoException) => {
    throw new InputError('file', `“${path}” cannot be read (${error.code ?? 'unknown'}).`);
  });
  return readWeather(bytes);
}

/** Year whose suns are taken where none is said. */
export const SUN_YEAR = 2026;

/** The suns of the hours of a file that says where it was taken. Throws InputError `weather`. */
export function hoursAtStation(weather: WeatherYear, year: number): WeatherHours {
  const { place } = weather;
  if (!place)
    throw new InputError(
      'weather',
      'This file does not say where it was taken; a file with a LOCATION line does.',
    );
  if (!Number.isInteger(year) || year < 1900 || year > 2100)
    throw new InputError('weather', `The year ${year} does not lie between 1900 and 2100.`);
  return sunOfHours(weather, place, place.standardTimeH, year);
}
