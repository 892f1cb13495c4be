import { InputError } from '../errors';
import { WEATHER_FIELDS, type WeatherField, type WeatherYear } from './weather-year';

/** What stands for a missing value in the format. */
const MISSING: Record<WeatherField, string> = {
  dryBulb: '99.9',
  dewPoint: '99.9',
  humidity: '999',
  pressure: '999999',
  global: '9999',
  beam: '9999',
  diffuse: '9999',
  windDirection: '999',
  windSpeed: '999',
  cloud: '99',
};

/**
 * A weather year in the open hourly format: eight header lines, 35 fields an hour, what is not kept as missing.
 * @param source a word for where it comes from; @param comment a sentence in the header
 * Throws InputError `weather` for a year without a place.
 */
export function writeEpw(weather: WeatherYear, source: string, comment: string, year: number): string {
  const { place, values } = weather;
  if (!place) throw new InputError('weather', 'A weather year without a place cannot be written.');
  const plain = (text: string) => text.replace(/[,\r\n]/g, ' ');
  const weekday = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'][
    new Date(Date.UTC(year, weather.month[0]! - 1, weather.day[0]!)).getUTCDay()
  ];
  const last = weather.hours - 1;
  const lines = [
    `LOCATION,${plain(place.name)},-,-,${plain(source)},-,${place.latitudeDeg},${place.longitudeDeg},${place.standardTimeH},${place.elevationM}`,
    'DESIGN CONDITIONS,0',
    'TYPICAL/EXTREME PERIODS,0',
    'GROUND TEMPERATURES,0',
    'HOLIDAYS/DAYLIGHT SAVINGS,No,0,0,0',
    `COMMENTS 1,${plain(comment)}`,
    'COMMENTS 2,',
    `DATA PERIODS,1,1,Data,${weekday},${weather.month[0]}/${weather.day[0]},${weather.month[last]}/${weather.day[last]}`,
  ];
  for (let i = 0; i < weather.hours; i++) {
    const v = Object.fromEntries(
      WEATHER_FIELDS.map(({ field }) => {
        const value = values[field][i]!;
        return [field, Number.isNaN(value) ? MISSING[field] : String(value)];
      }),
    ) as Record<WeatherField, string>;
    lines.push(
      [
        ...[year, weather.month[i], weather.day[i], weather.hour[i], 60, '_'],
        ...[v.dryBulb, v.dewPoint, v.humidity, v.pressure, 9999, 9999, 9999],
        ...[v.global, v.beam, v.diffuse, 999999, 999999, 999999, 9999],
        ...[v.windDirection, v.windSpeed, v.cloud, v.cloud, 9999, 99999, 9, 999999999],
        ...[999, 0.999, 999, 99, 999, 999, 99],
      ].join(','),
    );
  }
  return lines.join('\n') + '\n';
}
