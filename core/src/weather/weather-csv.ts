import { InputError } from '../errors';
import { checkOrder, requireYearOfHours } from './hours-in-order';
import { blankWeather, WEATHER_FIELDS, type WeatherField, type WeatherYear } from './weather-year';

/** Names that a column may have, in lower case without blanks, dots, units in brackets and underscores. */
const NAMES: Record<'month' | 'day' | 'hour' | WeatherField, readonly string[]> = {
  month: ['month'],
  day: ['day'],
  hour: ['hour'],
  dryBulb: ['drybulb', 'drybulbtemperature', 'temperature', 'airtemperature'],
  dewPoint: ['dewpoint', 'dewpointtemperature'],
  humidity: ['humidity', 'relativehumidity'],
  pressure: ['pressure', 'airpressure'],
  global: ['global', 'globalhorizontal', 'globalhorizontalradiation', 'ghi'],
  beam: ['beam', 'beamnormal', 'directnormal', 'beamnormalradiation', 'dni'],
  diffuse: ['diffuse', 'diffusehorizontal', 'diffusehorizontalradiation', 'dhi'],
  windDirection: ['winddirection'],
  windSpeed: ['windspeed'],
  cloud: ['cloud', 'skycover', 'totalskycover', 'cloudcover'],
};

const plain = (name: string) => name.toLowerCase().replace(/\([^)]*\)|\[[^\]]*\]|[\s._-]/g, '');

/**
 * A weather year from comma-separated text whose first line names the columns: `month`, `day`, `hour` (1 to 24) and any of
 * `dry bulb`, `dew point`, `humidity`, `pressure`, `global`, `beam`, `diffuse`, `wind direction`, `wind speed`, `cloud`.
 * An empty value is missing. Throws InputError `weather`.
 */
export function readWeatherCsv(text: string): WeatherYear {
  const lines = text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .map((line, i) => ({ text: line.trim(), line: i + 1 }))
    .filter((l) => l.text !== '');
  const heads = (lines[0]?.text ?? '').split(',').map(plain);
  const columnOf = (key: keyof typeof NAMES) => heads.findIndex((head) => NAMES[key].includes(head));
  const missing = (['month', 'day', 'hour'] as const).filter((key) => columnOf(key) < 0);
  if (missing.length)
    throw new InputError(
      'weather',
      `The first line of the file names no column “${missing.join('”, “')}”; is it a weather file?`,
    );
  const present = WEATHER_FIELDS.filter(({ field }) => columnOf(field) >= 0);
  if (present.length === 0)
    throw new InputError(
      'weather',
      'The first line of the file names no weather value, as “global” or “dry bulb”.',
    );
  const records = lines.slice(1);
  requireYearOfHours(records.length);
  const year = blankWeather(records.length, null);
  records.forEach(({ text: row, line }, i) => {
    const parts = row.split(',');
    if (parts.length !== heads.length)
      throw new InputError(
        'weather',
        `Line ${line} has ${parts.length} values, the first line names ${heads.length}. Decimals are written with a point.`,
      );
    const number = (key: keyof typeof NAMES, name: string) => {
      const typed = parts[columnOf(key)]!.trim();
      const value = typed === '' ? NaN : Number(typed);
      if (typed !== '' && !Number.isFinite(value))
        throw new InputError('weather', `Line ${line}: the ${name} “${typed.slice(0, 40)}” is not a number.`);
      return value;
    };
    year.month[i] = number('month', 'month');
    year.day[i] = number('day', 'day');
    year.hour[i] = number('hour', 'hour');
    for (const { field, name } of present) year.values[field][i] = number(field, name);
  });
  checkOrder(year, (i) => records[i]!.line);
  for (const { field, name } of present) {
    const blank = year.values[field].filter(Number.isNaN).length;
    if (blank)
      year.notes.push(
        `The ${name} is missing in ${blank.toLocaleString('en')} of ${year.hours.toLocaleString('en')} hours.`,
      );
  }
  return year;
}
