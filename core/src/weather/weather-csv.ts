import { dsvFormat } from 'd3-dsv';
import { InputError } from '../errors';
import { checkOrder, requireYearOfHours } from './hours-in-order';
import { type Column, columnOf, isField, unitsOf } from './table-columns';
import { clockTime, readStamps, type Stamp } from './table-stamps';
import { blankWeather, WEATHER_FIELDS, type WeatherField, type WeatherYear } from './weather-year';

/** Lines among which the one that names the columns is looked for. */
const MAX_PREAMBLE = 60;
/** What stands for a missing value. */
const MISSING = /^(?:|-+|na|n\/a|nan|null|none|missing|\?)$/i;
/** At and below this, a number stands for a missing one whatever it is of. */
const SURELY_MISSING = -500;

/** Between which values a year of hours is sound; what the greatest must reach where no unit is stated. */
const SOUND: Partial<Record<WeatherField, { min: number; max: number; reaches?: number }>> = {
  dryBulb: { min: -90, max: 65 },
  dewPoint: { min: -90, max: 65 },
  humidity: { min: 0, max: 110, reaches: 2 },
  pressure: { min: 31_000, max: 120_000 },
  global: { min: -50, max: 1600, reaches: 20 },
  beam: { min: -50, max: 1500, reaches: 20 },
  diffuse: { min: -50, max: 1200, reaches: 20 },
  windDirection: { min: 0, max: 360 },
  windSpeed: { min: 0, max: 80 },
  cloud: { min: 0, max: 10.01 },
};

interface Table {
  columns: Column[];
  /** Rows of values, each with its line. */
  rows: { cells: string[]; line: number }[];
  /** Whether decimals may be written with a comma. */
  hasCommas: boolean;
}

/** Whether text is a table of hours whose columns are named in one of its first lines. */
export const isWeatherTable = (text: string): boolean => headOf(text) !== null;

const SEPARATORS = [';', '\t', ','] as const;

/** The line that names the columns, and what parts them. */
function headOf(text: string): { at: number; separator: string; columns: Column[] } | null {
  const lines = text.split(/\r\n|\r|\n/, MAX_PREAMBLE);
  for (const [at, line] of lines.entries()) {
    const separator = SEPARATORS.find((one) => line.includes(one));
    if (!separator) continue;
    const columns = dsvFormat(separator).parseRows(line.replace(/^#\s*/, ''))[0]!.map(columnOf);
    const kinds = columns.map(({ kind }) => kind);
    // A number of values with a time: else it is a line of something else.
    if (columns.length > 1 && kinds.some((kind) => kind !== null && !isField(kind) && kind !== 'year'))
      return { at, separator, columns };
  }
  return null;
}

function tableOf(raw: string): Table {
  const text = raw.replace(/^\uFEFF/, '');
  const head = headOf(text);
  if (!head)
    throw new InputError(
      'weather',
      'No line of the file names its columns, as “month”, “day”, “hour” and “global”; is it a weather file?',
    );
  const rows: Table['rows'] = [];
  const lines = text.split(/\r\n|\r|\n/);
  const format = dsvFormat(head.separator);
  for (let i = head.at + 1; i < lines.length; i++) {
    const line = lines[i]!;
    if (line.trim() === '' || line.startsWith('#')) continue;
    const cells = format.parseRows(line)[0]!;
    // A line of units below the names says what the names leave open.
    if (
      rows.length === 0 &&
      cells.every((cell) => !/\d/.test(cell.replace(/m2|m-2|m\^2|1\/10|1\/8|0-1|0-8/gi, '')))
    ) {
      head.columns = head.columns.map((column, k) =>
        isField(column.kind) && column.unit === null && cells[k]?.trim()
          ? columnOf(`${column.heading} [${cells[k]!.trim()}]`)
          : column,
      );
      continue;
    }
    if (cells.length !== head.columns.length)
      throw new InputError(
        'weather',
        `Line ${i + 1} has ${cells.length} values, line ${head.at + 1} names ${head.columns.length}.${head.separator === ',' ? ' Between commas, decimals are written with a point.' : ''}`,
      );
    rows.push({ cells, line: i + 1 });
  }
  return { columns: head.columns, rows, hasCommas: head.separator !== ',' };
}

/**
 * A weather year from a table whose columns are named in a line: between commas, semicolons or tabs; decimals with a point, or
 * with a comma where that parts no columns. The time is `month`, `day` and `hour` (0 to 23 or 1 to 24), a date and a time, or
 * a stamp; values are any of WEATHER_FIELDS by their usual names, in the unit that the heading states. What is empty is
 * missing. Throws InputError `weather` for what is not understood.
 */
export function readWeatherCsv(text: string): WeatherYear {
  const table = tableOf(text);
  const fields = fieldsOf(table);
  const { rows } = table;
  requireYearOfHours(rows.length);
  const year = blankWeather(rows.length, null);
  const lineOf = (i: number) => rows[i]!.line;
  stampYear(year, stampsOf(table), lineOf);
  checkOrder(year, lineOf);
  for (const { field, name, at, turn, column } of fields) {
    const values = year.values[field];
    rows.forEach(({ cells, line }, i) => {
      values[i] = valueOf(cells[at]!, { table, turn, name, line });
    });
    requireSound(values, field, name, column);
    const blank = values.filter(Number.isNaN).length;
    if (blank)
      year.notes.push(
        `The ${name} is missing in ${blank.toLocaleString('en')} of ${year.hours.toLocaleString('en')} hours.`,
      );
  }
  const read = new Set(fields.map(({ field }) => field));
  if (read.has('global') && !read.has('beam') && !read.has('diffuse'))
    year.notes.push(
      'The table gives only the global radiation: beam and sky are split from it, hour by hour (Erbs et al. 1982).',
    );
  const unread = table.columns.filter(({ kind, heading }) => kind === null && heading !== '');
  if (unread.length > 0)
    year.notes.push(
      `Columns that are not read: ${unread.map(({ heading }) => `“${heading.slice(0, 40)}”`).join(', ')}.`,
    );
  return year;
}

/** The columns that hold values, each field once. Throws for a field that there is twice and for units that are not known. */
function fieldsOf({ columns }: Table) {
  const found = WEATHER_FIELDS.flatMap(({ field, name }) => {
    const all = columns.flatMap((column, at) => (column.kind === field ? [{ column, at }] : []));
    if (all.length > 1)
      throw new InputError(
        'weather',
        `The ${name} stands in ${all.length} columns, ${all.map(({ column }) => `“${column.heading}”`).join(' and ')}; leave all out but one.`,
      );
    return all.map(({ column, at }) => {
      if (column.turn) return { field, name, at, turn: column.turn, column };
      throw new InputError(
        'weather',
        `The unit “${column.unit}” of the column “${column.heading}” is not known; use ${unitsOf(field).slice(0, 8).join(', ')}.`,
      );
    });
  });
  if (found.length === 0)
    throw new InputError(
      'weather',
      `The file names no weather value, as “global” or “dry bulb”; its columns are ${columns.map(({ heading }) => `“${heading.slice(0, 30)}”`).join(', ')}.`,
    );
  return found;
}

function valueOf(
  raw: string,
  { table, turn, name, line }: { table: Table; turn: (value: number) => number; name: string; line: number },
): number {
  const typed = raw.trim();
  if (MISSING.test(typed)) return NaN;
  const plain = table.hasCommas ? typed.replace(/^([^,.]*),([^,.]*)$/, '$1.$2') : typed;
  const value = Number(plain);
  if (!Number.isFinite(value))
    throw new InputError('weather', `Line ${line}: the ${name} “${typed.slice(0, 40)}” is not a number.`);
  return value <= SURELY_MISSING ? NaN : turn(value);
}

/** Throws where values cannot be what they are said to be: most likely they are in another unit. */
function requireSound(
  values: Float64Array,
  field: WeatherField,
  name: string,
  { heading, unit }: Column,
): void {
  const { min, max, reaches } = SOUND[field] ?? { min: -Infinity, max: Infinity };
  let [low, high] = [Infinity, -Infinity];
  for (const value of values)
    [low, high] = [
      Math.min(low, Number.isNaN(value) ? low : value),
      Math.max(high, Number.isNaN(value) ? high : value),
    ];
  if (high === -Infinity) return;
  const isTooSmall = unit === null && reaches !== undefined && high < reaches;
  if (low >= min && high <= max && !isTooSmall) return;
  const standard = WEATHER_FIELDS.find((one) => one.field === field)!.unit;
  throw new InputError(
    'weather',
    `The ${name} goes from ${Number(low.toFixed(2))} to ${Number(high.toFixed(2))} ${standard}, which cannot be; ${unit === null ? `write its unit in the heading, as “${heading} [${unitsOf(field)[0]}]”` : `is “${unit}” its unit?`}`,
  );
}

/** When each row is, as it is written. Throws for a table without what tells it. */
function stampsOf({ columns, rows }: Table): Stamp[] {
  const at = (kind: Column['kind']) => columns.findIndex((column) => column.kind === kind);
  const cells = (k: number) => rows.map((row) => row.cells[k]!);
  const lineOf = (i: number) => rows[i]!.line;
  const [month, day, hour, time] = [at('month'), at('day'), at('hour'), at('time')];
  if (month >= 0 && day >= 0 && (hour >= 0 || time >= 0)) {
    const minute = at('minute');
    return rows.map(({ cells: row, line }) => {
      const number = (k: number, name: string) => {
        const value = Number(row[k]!.trim());
        if (row[k]!.trim() !== '' && Number.isInteger(value)) return value;
        throw new InputError(
          'weather',
          `Line ${line}: the ${name} “${row[k]!.trim().slice(0, 40)}” is not a number.`,
        );
      };
      const clock = requireClock(row[hour >= 0 ? hour : time]!, line);
      return {
        month: number(month, 'month'),
        day: number(day, 'day'),
        hour: clock.hour,
        minute: minute >= 0 && clock.minute === 0 ? number(minute, 'minute') : clock.minute,
      };
    });
  }
  const date = at('date');
  const clock = hour >= 0 ? hour : time;
  if (date >= 0 && clock >= 0) {
    const days = readStamps(cells(date), lineOf);
    return days.map((one, i) => ({ ...one, ...requireClock(rows[i]!.cells[clock]!, lineOf(i)) }));
  }
  const stamp = [at('stamp'), date, time].find((k) => k >= 0);
  if (stamp !== undefined && hour < 0) return readStamps(cells(stamp), lineOf);
  const missing = [month < 0 && 'month', day < 0 && 'day', clock < 0 && 'hour'].filter(
    (name) => name !== false,
  );
  throw new InputError(
    'weather',
    `The file names no column “${missing.join('”, “')}”, nor one with the time; is it a weather file?`,
  );
}

function requireClock(text: string, line: number): { hour: number; minute: number } {
  const found = clockTime(text);
  if (found) return found;
  throw new InputError('weather', `Line ${line}: the hour “${text.trim().slice(0, 40)}” is not a number.`);
}

/** Puts stamps into a year of hours that end then: hours 0 to 23 begin as they are stamped, hours 1 to 24 end. */
function stampYear(year: WeatherYear, stamps: readonly Stamp[], lineOf: (record: number) => number): void {
  const minutes = new Set(stamps.map(({ minute }) => minute));
  if (minutes.size > 1)
    throw new InputError(
      'weather',
      `The times of the file are not an hour apart: minutes ${[...minutes].slice(0, 4).join(', ')}.`,
    );
  const hasMidnight = stamps.some(({ hour }) => hour === 0);
  if (hasMidnight && stamps.some(({ hour }) => hour === 24))
    throw new InputError('weather', 'The hours of the file go from 0 to 24; use 0 to 23, or 1 to 24.');
  // Begun at one, the year is stamped at the ends of its hours, the last of a day at midnight of the next.
  const endsAtMidnight = hasMidnight && stamps[0]!.hour === 1 && stamps.at(-1)!.hour === 0;
  const begins = hasMidnight && !endsAtMidnight;
  stamps.forEach(({ month, day, hour }, i) => {
    if (![month, day, hour].every((value) => value >= 0 && value <= 31))
      throw new InputError(
        'weather',
        `Line ${lineOf(i)}: there is no hour ${hour} of day ${day} of month ${month}.`,
      );
    const before = endsAtMidnight && hour === 0 ? stamps[i - 1]! : { month, day };
    year.month[i] = before.month;
    year.day[i] = before.day;
    year.hour[i] = endsAtMidnight ? (hour === 0 ? 24 : hour) : begins ? hour + 1 : hour;
  });
}
