import { fromEpochMilliseconds, toZonedDateTimeISO } from 'temporal-polyfill/fns/Instant';
import { create as createPlain, equals, toZonedDateTime } from 'temporal-polyfill/fns/PlainDateTime';
import {
  getTimeZoneTransition,
  offsetNanoseconds,
  toPlainDateTime,
} from 'temporal-polyfill/fns/ZonedDateTime';
import { InputError } from '../errors';

const MINUTE = 60_000;

/** The months in English. */
export const MONTH_NAMES = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const;

/** A date and the minutes since midnight that a clock on site shows, with the zone's offset at that instant. */
export interface ClockTime {
  date: string;
  minutes: number;
  offsetMinutes: number;
}

/** One change of a zone's clocks: the instant, and the offsets from UTC before and after it. */
export interface ZoneStep {
  atMs: number;
  beforeMinutes: number;
  afterMinutes: number;
}

const zonedAt = (ms: number, zone: string) => toZonedDateTimeISO(fromEpochMilliseconds(ms), zone);

/** Whether the IANA zone exists, e.g. `Europe/London`. Fixed offsets such as `+01:00` count too. */
export function isZone(zone: string): boolean {
  try {
    zonedAt(0, zone);
    return zone.length > 0;
  } catch {
    return false;
  }
}

/** Throws InputError `zone` unless the zone exists. */
export function requireZone(zone: string): void {
  if (!isZone(zone))
    throw new InputError(
      'zone',
      `The time zone “${zone}” does not exist; use an IANA name such as Europe/London.`,
    );
}

/** Throws InputError `date` unless the text is a real calendar date written YYYY-MM-DD. */
export function requireDate(date: string): void {
  if (!isDate(date))
    throw new InputError('date', `“${date}” is not a date; write it as YYYY-MM-DD, for example 2026-03-21.`);
}

/** Whether the text is a real calendar date written YYYY-MM-DD between the years 1700 and 2200. */
export function isDate(date: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date)) return false;
  const [y, m, d] = date.split('-').map(Number) as [number, number, number];
  if (y < 1700 || y > 2200) return false;
  const utc = new Date(Date.UTC(y, m - 1, d));
  return utc.getUTCMonth() === m - 1 && utc.getUTCDate() === d;
}

/** What a clock on site shows at an instant (epoch milliseconds, UTC). */
export function clockAt(atMs: number, zone: string): ClockTime {
  const offsetMinutes = offsetAt(atMs, zone);
  const local = new Date(atMs + offsetMinutes * MINUTE);
  return {
    date: local.toISOString().slice(0, 10),
    minutes: local.getUTCHours() * 60 + local.getUTCMinutes() + local.getUTCSeconds() / 60,
    offsetMinutes,
  };
}

/** From one change of a zone's clocks to the next: `fromMs` counts, `toMs` does not. */
interface Stretch {
  fromMs: number;
  toMs: number;
  minutes: number;
}

/** Of each zone asked for: its stretches so far, the latest asked for first. Suns of a year ask ten thousand times. */
const stretches = new Map<string, Stretch[]>();

/** Minutes by which the zone's clocks are ahead of UTC at an instant. */
export function offsetAt(atMs: number, zone: string): number {
  const known = stretches.get(zone) ?? [];
  const place = known.findIndex(({ fromMs, toMs }) => fromMs <= atMs && atMs < toMs);
  if (place === 0) return known[0]!.minutes;
  const stretch = place > 0 ? known.splice(place, 1)[0]! : stretchAt(atMs, zone);
  known.unshift(stretch);
  if (known.length > 64) known.pop();
  if (stretches.size > 64) stretches.clear();
  stretches.set(zone, known);
  return stretch.minutes;
}

function stretchAt(atMs: number, zone: string): Stretch {
  const whole = Math.floor(atMs);
  const zoned = zonedAt(whole, zone);
  // A change at this very instant has happened: the one before the next millisecond.
  const since = getTimeZoneTransition(zonedAt(whole + 1, zone), 'previous');
  const until = getTimeZoneTransition(zoned, 'next');
  return {
    fromMs: since?.epochMilliseconds ?? -Infinity,
    toMs: until?.epochMilliseconds ?? Infinity,
    minutes: offsetNanoseconds(zoned) / 60e9,
  };
}

/**
 * The instant (epoch ms) at which clocks show this date and minute of the day. Minutes may run past midnight (1440
 * is the next day's 0:00). A time that the clocks skip is taken as much later, as a clock that was not put forward
 * would show it; a time that comes twice is taken the first time, or with `later` the second.
 */
export function instantOf(date: string, minutes: number, zone: string, later = false): number {
  const wall = Date.parse(`${date}T00:00:00Z`) + minutes * MINUTE;
  const d = new Date(wall);
  const plain = createPlain(
    d.getUTCFullYear(),
    d.getUTCMonth() + 1,
    d.getUTCDate(),
    d.getUTCHours(),
    d.getUTCMinutes(),
    d.getUTCSeconds(),
    d.getUTCMilliseconds(),
  );
  const first = toZonedDateTime(plain, zone, { disambiguation: 'compatible' });
  if (!later) return first.epochMilliseconds;
  const second = toZonedDateTime(plain, zone, { disambiguation: 'later' });
  return (equals(toPlainDateTime(second), plain) ? second : first).epochMilliseconds;
}

/** The zone's clock changes within a calendar year on site, in order. */
export function zoneSteps(zone: string, year: number): ZoneStep[] {
  const steps: ZoneStep[] = [];
  let at = toZonedDateTime(createPlain(year, 1, 1), zone);
  while (steps.length < 16) {
    const next = getTimeZoneTransition(at, 'next');
    if (!next || next.year !== year) break;
    const beforeMinutes = offsetAt(next.epochMilliseconds - 1, zone);
    const afterMinutes = offsetNanoseconds(next) / 60e9;
    if (beforeMinutes !== afterMinutes)
      steps.push({ atMs: next.epochMilliseconds, beforeMinutes, afterMinutes });
    at = next;
  }
  return steps;
}

/** The date `days` later, written YYYY-MM-DD. */
export function addDays(date: string, days: number): string {
  return new Date(Date.parse(`${date}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
}

/** Whole days from one date to another. */
export function daysBetween(from: string, to: string): number {
  return Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);
}

/** Zero-based day of the year. */
export function dayOfYear(date: string): number {
  return daysBetween(`${date.slice(0, 4)}-01-01`, date);
}

/** Number of days in a calendar year. */
export function daysInYear(year: number): number {
  return daysBetween(`${year}-01-01`, `${year + 1}-01-01`);
}

/** An instant (epoch ms) by the clock of a zone: 2026-03-21T09:30. */
export function momentName(atMs: number, zone: string): string {
  const { date, minutes } = clockAt(atMs, zone);
  return `${date}T${formatClock(minutes)}`;
}

/** Minutes of the day as `09:05`; a day's end is `24:00`. */
export function formatClock(minutes: number): string {
  const whole = Math.round(minutes);
  return `${String(Math.floor(whole / 60)).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}`;
}

/** An offset from UTC for reading: `UTC+1`, `UTC−3:30`. */
export function formatOffset(minutes: number): string {
  const abs = Math.abs(minutes);
  const part = abs % 60 ? `:${String(abs % 60).padStart(2, '0')}` : '';
  return `UTC${minutes < 0 ? '−' : '+'}${Math.floor(abs / 60)}${part}`;
}
