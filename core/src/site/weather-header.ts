import { cutText, decodedText } from '../civil';
import { InputError } from '../errors';

/** What the first line of a weather file says of its station. */
export interface WeatherPlace {
  name: string;
  latitudeDeg: number;
  longitudeDeg: number;
  /** Hours of local standard time ahead of UTC. */
  standardTimeH: number;
  elevationM: number;
}

/**
 * The place in the first line of an hourly weather file:
 * `LOCATION,town,region,country,source,station,latitude,longitude,hours,elevation`.
 * Throws InputError `weather` when there is none.
 */
export function readWeatherPlace(bytes: Uint8Array): WeatherPlace {
  const text = decodedText(bytes.subarray(0, 4096), true).text;
  const line = text.split(/\r\n|\r|\n/).find((l) => /^\s*LOCATION\s*,/i.test(l));
  if (!line)
    throw new InputError('weather', 'The file has no line that begins with LOCATION; is it a weather file?');
  const fields = line.split(',').map((field) => field.trim());
  const number = (index: number, what: string, min: number, max: number) => {
    const value = Number(fields[index]);
    if (fields[index] === undefined || fields[index] === '' || !(value >= min && value <= max))
      throw new InputError('weather', `The weather file gives no sound ${what} (“${fields[index] ?? ''}”).`);
    return value;
  };
  return {
    name: cutText([fields[1], fields[3]].filter((part) => part && part !== '-').join(', '), 80),
    latitudeDeg: number(6, 'latitude', -90, 90),
    longitudeDeg: number(7, 'longitude', -180, 180),
    standardTimeH: number(8, 'time zone', -14, 14),
    elevationM: number(9, 'elevation', -500, 9000),
  };
}
