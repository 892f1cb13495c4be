import { decodedText } from '../civil';
import { InputError } from '../errors';
import { readWeatherPlace, type WeatherPlace } from '../site';
import { checkOrder, requireYearOfHours } from './hours-in-order';
import { blankWeather, WEATHER_FIELDS, type WeatherField, type WeatherYear } from './weather-year';

/**
 * The open hourly weather format: eight header lines, then 35 fields an hour. Column of each field that is read (from 0),
 * the number from which on a value is missing, and between which values are sound.
 * Source: auxiliary programs documentation of the format, data dictionary.
 */
const COLUMNS: Record<WeatherField, { column: number; missing: number; min: number; max: number }> = {
  dryBulb: { column: 6, missing: 99.9, min: -90, max: 70 },
  dewPoint: { column: 7, missing: 99.9, min: -90, max: 70 },
  humidity: { column: 8, missing: 999, min: 0, max: 110 },
  pressure: { column: 9, missing: 999_999, min: 31_000, max: 120_000 },
  global: { column: 13, missing: 9999, min: 0, max: 1600 },
  beam: { column: 14, missing: 9999, min: 0, max: 1500 },
  diffuse: { column: 15, missing: 9999, min: 0, max: 1200 },
  windDirection: { column: 20, missing: 999, min: 0, max: 360 },
  windSpeed: { column: 21, missing: 999, min: 0, max: 70 },
  cloud: { column: 22, missing: 99, min: 0, max: 10 },
};
const HEADER_LINES = 8;
const FIELDS = 35;
/** Files of older programs leave out the last ones, which are not read. */
const MIN_FIELDS = 32;
/** Bytes beyond which no year of hours is. */
const MAX_BYTES = 20_000_000;
/** At and below this, a number stands for a missing one whatever the field: −999 and the like. */
const SURELY_MISSING = -500;

/** The weather year in the bytes of a file. Throws InputError `weather` with the line and what is wrong there. */
export function readEpw(bytes: Uint8Array): WeatherYear {
  if (bytes.length > MAX_BYTES)
    throw new InputError('weather', 'The file is larger than a year of hours can be (20 MB).');
  const place = readWeatherPlace(bytes);
  checkZone(place);
  const lines = decodedText(bytes).text.split(/\r\n|\r|\n/);
  const records = lines
    .map((text, i) => ({ text: text.trim(), line: i + 1 }))
    .slice(HEADER_LINES)
    .filter(({ text }) => text !== '');
  checkPeriods(lines.slice(0, HEADER_LINES));
  requireYearOfHours(records.length);
  const year = blankWeather(records.length, place);
  const fields = records[0]!.text.split(',').length;
  if (fields < MIN_FIELDS || fields > FIELDS) throw wrongFields(records[0]!.line, fields);
  const tally = new Tally();
  records.forEach(({ text, line }, i) => {
    const parts = text.split(',');
    if (parts.length !== fields) throw wrongFields(line, parts.length);
    year.month[i] = whole(parts[1]!, 'month', line);
    year.day[i] = whole(parts[2]!, 'day', line);
    year.hour[i] = whole(parts[3]!, 'hour', line);
    for (const { field, name } of WEATHER_FIELDS)
      year.values[field][i] = tally.take(
        field,
        number(parts[COLUMNS[field].column]!, name, line),
        name,
        line,
      );
  });
  checkOrder(year, (i) => records[i]!.line);
  if (fields < FIELDS)
    year.notes.push(
      `The lines have ${fields} fields, not ${FIELDS}; those that are left out are not needed.`,
    );
  year.notes.push(...tally.notes(year.hours));
  return year;
}

function wrongFields(line: number, count: number): InputError {
  return new InputError(
    'weather',
    `Line ${line} has ${count} fields; an hour has ${FIELDS}. ${count > FIELDS ? 'Are decimals written with a comma? They are written with a point.' : 'Is the line cut off?'}`,
  );
}

/** What is missing or stretched, counted by field. */
class Tally {
  private readonly missing = new Map<string, number>();
  private readonly raised = new Map<string, number>();

  /** A value, NaN where it is missing. Throws InputError `weather` where it cannot be. */
  take(field: WeatherField, value: number, name: string, line: number): number {
    const { missing, min, max } = COLUMNS[field];
    if (value >= missing || value <= SURELY_MISSING) {
      this.missing.set(name, (this.missing.get(name) ?? 0) + 1);
      return NaN;
    }
    // Instruments read a little below nothing at night.
    if (min === 0 && value < 0 && value >= -20) {
      this.raised.set(name, (this.raised.get(name) ?? 0) + 1);
      return 0;
    }
    if (value < min || value > max)
      throw new InputError(
        'weather',
        `Line ${line}: the ${name} is ${value}; it lies between ${min.toLocaleString('en')} and ${max.toLocaleString('en')}.`,
      );
    return value;
  }

  notes(hours: number): string[] {
    return [
      ...[...this.missing].map(
        ([name, n]) => `The ${name} is missing in ${count(n)} of ${count(hours)} hours.`,
      ),
      ...[...this.raised].map(
        ([name, n]) => `The ${name} was below 0 in ${count(n)} hours and is taken as 0.`,
      ),
    ];
  }
}

const count = (n: number) => n.toLocaleString('en');

function number(text: string, name: string, line: number): number {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value))
    throw new InputError(
      'weather',
      `Line ${line}: the ${name} “${text.trim().slice(0, 40)}” is not a number.`,
    );
  return value;
}

function whole(text: string, name: string, line: number): number {
  const value = number(text, name, line);
  if (!Number.isInteger(value) || value < 0 || value > 60)
    throw new InputError('weather', `Line ${line}: the ${name} “${text.trim()}” is not one.`);
  return value;
}

/** Refuses files that have several records an hour, or several periods. */
function checkPeriods(header: readonly string[]): void {
  if (header.length < HEADER_LINES || !/^\s*DATA PERIODS\s*,/i.test(header[HEADER_LINES - 1]!))
    throw new InputError(
      'weather',
      'The eighth line does not begin with DATA PERIODS; a weather file has eight lines before its hours.',
    );
  const [, periods, perHour] = header[HEADER_LINES - 1]!.split(',').map((part) => part.trim());
  if (Number(perHour) !== 1)
    throw new InputError(
      'weather',
      `The file has ${perHour} records an hour; only files with one record an hour are read.`,
    );
  if (Number(periods) !== 1)
    throw new InputError(
      'weather',
      `The file has ${periods} periods; only files with one whole year are read.`,
    );
}

/** Refuses a time zone that has the wrong sign for its longitude. */
function checkZone({ longitudeDeg, standardTimeH }: WeatherPlace): void {
  const off = (zone: number) => Math.abs(((zone - longitudeDeg / 15 + 36) % 24) - 12);
  if (off(standardTimeH) > 4 && off(-standardTimeH) < off(standardTimeH) - 2)
    throw new InputError(
      'weather',
      `The first line says a time zone of ${standardTimeH} h at longitude ${longitudeDeg}; its sign is wrong, for ${-standardTimeH} h fits.`,
    );
}
