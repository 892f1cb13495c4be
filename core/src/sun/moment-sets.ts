import { clockAt, instantOf, isDate } from '../civil';
import { InputError } from '../errors';
import type { MomentSet, Site } from '../project';
import { SunTrack } from './ephemeris';
import { seasons } from './seasons';
import { solarMinutes, sunDay } from './sun-day';

/** One moment of a set. */
export interface SetMoment {
  /** Epoch ms. */
  atMs: number;
  /** What a clock on site shows then. */
  date: string;
  minutes: number;
  /** What is worth saying of it, or null: the clocks skip this time, or show it twice. */
  note: string | null;
}

/** Moments that a set may have. */
export const MAX_MOMENTS = 2000;

const MINUTE = 60_000;

/**
 * The moments of a set in the order in which it lists them: seasons mark by mark, each at all its times. Times of day are
 * those of the clock on site or, for a set of solar time, of the sun: 720 where it passes the meridian on that date.
 * A clock time that is skipped is taken as a clock that was not put forward would show it, one that comes twice is
 * taken the first time; both are said. Throws InputError `moments` when there are none or too many.
 */
export function momentsOf(set: MomentSet, site: Site): SetMoment[] {
  const { zone } = site.place;
  const asked = askedOf(set, site);
  if (asked.length > MAX_MOMENTS)
    throw new InputError(
      'moments',
      `The set “${set.name}” has ${asked.length.toLocaleString('en')} moments, more than ${MAX_MOMENTS.toLocaleString('en')}; take a longer step.`,
    );
  if (asked.length === 0)
    throw new InputError('moments', `The set “${set.name}” has no moments: ${whyNone(set, site)}.`);
  const track = new SunTrack(site.place);
  return asked.map(({ date, minutes }) => {
    if (set.basis === 'clock') return clockMoment(date, minutes, zone);
    const atMs = solarInstant(date, minutes, site, track);
    const { date: on, minutes: clock } = clockAt(atMs, zone);
    return { atMs, date: on, minutes: clock, note: null };
  });
}

function whyNone({ source }: MomentSet, { place }: Site): string {
  if (source.kind === 'list') return 'its list is empty';
  if (source.kind === 'day' && sunDay(source.date, place, place.zone).polar === 'night')
    return `the sun does not rise on ${source.date}`;
  return 'it ends before it begins';
}

function askedOf(set: MomentSet, site: Site): { date: string; minutes: number }[] {
  const { source } = set;
  if (source.kind === 'list') return source.moments;
  if (source.kind === 'seasons') {
    const at = seasons(site.year);
    return source.marks.flatMap((mark) => {
      const { date } = clockAt(at[mark], site.place.zone);
      return source.times.map((minutes) => ({ date, minutes }));
    });
  }
  const { date, everyMinutes } = source;
  const [from, to] = dayBounds(set, source, site);
  const count = to < from ? 0 : Math.floor((to - from) / everyMinutes + 1e-9) + 1;
  return Array.from({ length: count }, (_, i) => ({ date, minutes: from + i * everyMinutes }));
}

/** First and last minute of a day's set: sunrise rounded up, sunset down to whole minutes, where no bound is given. */
function dayBounds(
  { basis }: MomentSet,
  source: Extract<MomentSet['source'], { kind: 'day' }>,
  site: Site,
): [number, number] {
  if (source.from !== null && source.to !== null) return [source.from, source.to];
  const light = daylightMinutes(source.date, site, basis);
  return light ? [source.from ?? light[0], source.to ?? light[1]] : [1, 0];
}

/**
 * First and last whole minute of the day between sunrise and sunset, by the clock on site or by the sun; all of a polar day;
 * null where the sun does not rise.
 */
export function daylightMinutes(
  date: string,
  { place }: Site,
  basis: MomentSet['basis'] = 'clock',
): [number, number] | null {
  const day = sunDay(date, place, place.zone);
  if (day.polar === 'night') return null;
  const track = new SunTrack(place);
  const minutesAt = (ms: number) => {
    if (basis === 'solar') return solarMinutes(track.at(ms));
    const clock = clockAt(ms, place.zone);
    return clock.minutes + (clock.date > date ? 1440 : clock.date < date ? -1440 : 0);
  };
  return [
    day.sunriseMs === null ? 0 : Math.ceil(minutesAt(day.sunriseMs)),
    day.sunsetMs === null ? 1439 : Math.floor(minutesAt(day.sunsetMs)),
  ];
}

function clockMoment(date: string, minutes: number, zone: string): SetMoment {
  const atMs = instantOf(date, minutes, zone);
  const shown = clockAt(atMs, zone);
  const isSkipped = Math.abs(shown.minutes - (minutes % 1440)) > 0.02;
  const isTwice = instantOf(date, minutes, zone, true) !== atMs;
  const note = isSkipped
    ? 'The clocks skip this time; it is taken as one that was not put forward would show it.'
    : isTwice
      ? 'The clocks show this time twice; it is taken the first time.'
      : null;
  return { atMs, date: shown.date, minutes: shown.minutes, note };
}

/** The instant of a solar time on the date on which the sun passes the meridian, epoch ms. */
export function solarInstant(
  date: string,
  minutes: number,
  { place }: Site,
  track = new SunTrack(place),
): number {
  let at = sunDay(date, place, place.zone).transitMs + (minutes - 720) * MINUTE;
  for (let i = 0; i < 4; i++) {
    const off = solarMinutes(track.at(at)) - minutes;
    // Hour angles jump by a day at midnight.
    at -= (((off + 720 + 2880) % 1440) - 720) * MINUTE;
  }
  return at;
}

/** What a typed list of moments says. */
export interface TypedMoments {
  moments: { date: string; minutes: number }[];
  /** What had to be decided, one sentence each. */
  notes: string[];
}

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const MONTH = '(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\\.?';

/** Ways of writing a date; each gives year (or null), month and day. */
const DATES: { pattern: RegExp; read: (m: string[]) => [string | undefined, number, number] | 'either' }[] = [
  {
    pattern: /\b(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:T(?=\d)|\b)/gi,
    read: (m) => [m[1], Number(m[2]), Number(m[3])],
  },
  {
    pattern: new RegExp(`\\b(\\d{1,2})(?:st|nd|rd|th)?\\.?[\\s-]*${MONTH}[\\s,-]*(\\d{4})?\\b`, 'gi'),
    read: (m) => [m[3], MONTHS.indexOf(m[2]!.toLowerCase().slice(0, 3)) + 1, Number(m[1])],
  },
  {
    pattern: new RegExp(`\\b${MONTH}\\s*(\\d{1,2})(?:st|nd|rd|th)?\\b(?:,?\\s*(\\d{4})\\b)?`, 'gi'),
    read: (m) => [m[3], MONTHS.indexOf(m[1]!.toLowerCase().slice(0, 3)) + 1, Number(m[2])],
  },
  { pattern: /\b(\d{1,2})\.(\d{1,2})\.(\d{4})?(?=\D|$)/g, read: (m) => [m[3], Number(m[2]), Number(m[1])] },
  { pattern: /\b(\d{1,2})[/-](\d{1,2})(?:[/-](\d{4}))?\b/g, read: () => 'either' },
];

const TIME =
  /\b(\d{1,2})(?:\s*[:.h]\s*(\d{2}))?\s*(am|pm|a\.m\.|p\.m\.|h|uhr|o'clock)?(?![\d:])|\b(\d{2})(\d{2})\b/gi;

/**
 * Reads dates and times of day as people write them: `2026-03-21 09:30`, `21 March: 9, 12, 15`, `21.3. 9.30 Uhr`,
 * `Jun 21 3 pm`. A line with both gives every date at every time; lines of dates alone and of times alone go together.
 * A date without a year is of `year`. `3/4` is the third of April unless `monthFirst`; it is said.
 * Throws InputError `moments` with the line that cannot be read.
 */
export function readMoments(text: string, year: number, monthFirst = false): TypedMoments {
  const notes: string[] = [];
  const moments: TypedMoments['moments'] = [];
  const alone: { dates: string[]; times: number[] } = { dates: [], times: [] };
  for (const line of text.split(/[\n;]+/).map((part) => part.trim())) {
    if (!line) continue;
    const { dates, rest } = takeDates(line, year, monthFirst, notes);
    const times = takeTimes(rest, line);
    if (dates.length && times.length)
      for (const date of dates) moments.push(...times.map((minutes) => ({ date, minutes })));
    else {
      alone.dates.push(...dates);
      alone.times.push(...times);
    }
  }
  for (const date of alone.dates) moments.push(...alone.times.map((minutes) => ({ date, minutes })));
  if (alone.dates.length && alone.times.length === 0)
    throw new InputError('moments', `${alone.dates[0]} has no time of day; write one beside it, as 9:30.`);
  if (alone.times.length && alone.dates.length === 0)
    throw new InputError(
      'moments',
      'There are times of day without a date; write one beside them, as 21 March.',
    );
  if (moments.length === 0)
    throw new InputError('moments', 'There is no date with a time of day here, as 21 March 9:30.');
  return { moments, notes: [...new Set(notes)] };
}

/** Reads times of day alone, as `readMoments` does. Throws InputError `moments`. */
export function readTimes(text: string): number[] {
  return takeTimes(text, text);
}

function takeDates(line: string, year: number, monthFirst: boolean, notes: string[]) {
  const found: { at: number; date: string }[] = [];
  let rest = line;
  for (const { pattern, read } of DATES)
    rest = rest.replace(pattern, (whole: string, ...groups: unknown[]) => {
      const m = [whole, ...groups] as string[];
      const at = groups.find((group) => typeof group === 'number') as number;
      let parts = read(m);
      if (parts === 'either') {
        const [a, b] = [Number(m[1]), Number(m[2])];
        const isMonthFirst = a > 12 ? false : b > 12 ? true : monthFirst;
        parts = isMonthFirst ? [m[3], a, b] : [m[3], b, a];
        if (a <= 12 && b <= 12 && a !== b)
          notes.push(
            `“${whole}” is taken as day ${parts[2]} of month ${parts[1]}; write the month as a word to be sure.`,
          );
      }
      const two = (n: number) => String(n).padStart(2, '0');
      const date = `${parts[0] ?? year}-${two(parts[1])}-${two(parts[2])}`;
      if (!isDate(date))
        throw new InputError('moments', `“${whole.trim()}” in “${line}” is no date of ${parts[0] ?? year}.`);
      found.push({ at, date });
      return ' '.repeat(whole.length);
    });
  return { dates: found.sort((a, b) => a.at - b.at).map(({ date }) => date), rest };
}

function takeTimes(rest: string, line: string): number[] {
  const times: number[] = [];
  const left = rest.replace(
    TIME,
    (whole: string, h: string, m: string, half: string, hh: string, mm: string) => {
      let hours = Number(h ?? hh);
      const minutes = Number(m ?? mm ?? 0);
      const isHalf = /^[ap]/i.test(half ?? '');
      const isHalfHour = hours >= 1 && hours <= 12;
      if (isHalf && isHalfHour) hours = (hours % 12) + (/^p/i.test(half) ? 12 : 0);
      if (hours > 23 || minutes > 59 || (isHalf && !isHalfHour))
        throw new InputError('moments', `“${whole.trim()}” in “${line}” is no time of day.`);
      times.push(hours * 60 + minutes);
      return ' ';
    },
  );
  const unread = /[\p{L}\p{N}]{2,}/u.exec(left.replace(/\b(at|and|on|um|und|à|t|x)\b/gi, ' '));
  if (unread)
    throw new InputError('moments', `“${unread[0]}” in “${line}” is neither a date nor a time of day.`);
  return times;
}
