import { decodedText } from '../civil';
import { readEpw } from './epw';
import { isWeatherTable, readWeatherCsv } from './weather-csv';
import type { WeatherYear } from './weather-year';

/** A weather year from the bytes of a file in either format, told by its first lines. Throws InputError `weather`. */
export function readWeather(bytes: Uint8Array): WeatherYear {
  const { text: head } = decodedText(bytes.subarray(0, 20_000), true);
  if (/^\s*LOCATION\s*,/i.test(head) || !isWeatherTable(head)) return readEpw(bytes);
  return readWeatherCsv(decodedText(bytes).text);
}
