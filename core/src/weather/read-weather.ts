import { readEpw } from './epw';
import { readWeatherCsv } from './weather-csv';
import type { WeatherYear } from './weather-year';

/** A weather year from the bytes of a file in either format, told by its first line. Throws InputError `weather`. */
export function readWeather(bytes: Uint8Array): WeatherYear {
  const head = new TextDecoder().decode(bytes.subarray(0, 400)).replace(/^\uFEFF/, '');
  if (/^\s*LOCATION\s*,/i.test(head) || !/month/i.test(head)) return readEpw(bytes);
  return readWeatherCsv(new TextDecoder().decode(bytes));
}
