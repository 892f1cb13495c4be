import { InputError } from '../errors';

/** When an hour of a table is: month, day, and the hour as it is written, which may begin or end then. */
export interface Stamp {
  month: number;
  day: number;
  hour: number;
  minute: number;
}

const ISO =
  /^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T\s]+(\d{1,2}):(\d{2})(?::\d{2}(?:\.\d+)?)?)?\s*(Z|UTC|GMT|[+-]\d{2}:?\d{2})?$/i;
const PACKED = /^(\d{4})(\d{2})(\d{2})[:T\s]?(\d{2})(\d{2})?$/;
const DAY_FIRST = /^(\d{1,2})\.(\d{1,2})\.(?:\d{2}|\d{4})?\s*(?:(\d{1,2}):(\d{2})(?::\d{2})?)?$/;
const SLASHED = /^(\d{1,2})\/(\d{1,2})(?:\/(?:\d{2}|\d{4}))?\s*(?:(\d{1,2}):(\d{2})(?::\d{2})?)?$/;

const fail = (sentence: string): never => {
  throw new InputError('weather', sentence);
};

/**
 * Reads the stamps of a column: ISO 8601 (`2026-01-31T13:00`, with one offset at the most), `20260131:1300`, `31.01.2026 13:00`,
 * and dates with strokes, where one of the numbers tells which is the day. Throws InputError `weather` with the line.
 */
export function readStamps(texts: readonly string[], lineOf: (record: number) => number): Stamp[] {
  const offsets = new Set<string>();
  const isDayFirst = strokes(texts);
  const stamps = texts.map((raw, i): Stamp => {
    const text = raw.trim();
    const numbers = (match: RegExpExecArray, order: readonly number[]): Stamp => {
      const [month, day, hour, minute] = order.map((k) => Number(match[k] ?? 0)) as [
        number,
        number,
        number,
        number,
      ];
      return { month, day, hour, minute };
    };
    const iso = ISO.exec(text);
    if (iso) {
      offsets.add((iso[6] ?? '').toUpperCase());
      return numbers(iso, [2, 3, 4, 5]);
    }
    const packed = PACKED.exec(text);
    if (packed) return numbers(packed, [2, 3, 4, 5]);
    const dotted = DAY_FIRST.exec(text);
    if (dotted) return numbers(dotted, [2, 1, 3, 4]);
    const slashed = SLASHED.exec(text);
    if (slashed) return numbers(slashed, isDayFirst ? [2, 1, 3, 4] : [1, 2, 3, 4]);
    return fail(`Line ${lineOf(i)}: “${text.slice(0, 40)}” is no time; write it as 2026-01-31T13:00.`);
  });
  if (offsets.size > 1)
    fail(
      `The times of the file are told from ${[...offsets].map((one) => one || 'no offset').join(' and ')}; hours of a weather year are of local standard time all year.`,
    );
  const [offset] = offsets;
  if (offset && /^(Z|UTC|GMT|[+-]00:?00)$/.test(offset))
    fail(
      'The times of the file are those of Greenwich (UTC); give them in the local standard time of the place.',
    );
  return stamps;
}

/** Whether the day stands first in dates with strokes. Throws where nothing tells. */
function strokes(texts: readonly string[]): boolean {
  const matches = texts.map((text) => SLASHED.exec(text.trim())).filter((match) => match !== null);
  if (matches.length === 0) return false;
  const over = (k: number) => matches.some((match) => Number(match[k]) > 12);
  if (over(1) === over(2))
    fail(
      'In the dates of the file, as “01/02/2026”, nothing tells the day from the month; write them as 2026-02-01.',
    );
  return over(1);
}

/** An hour as it is typed: 13, 13:00, 13:30, 1300. Null where it is none. */
export function clockTime(text: string): { hour: number; minute: number } | null {
  const match = /^(\d{1,2})(?::?(\d{2}))?(?::\d{2})?$/.exec(text.trim());
  return match ? { hour: Number(match[1]), minute: Number(match[2] ?? 0) } : null;
}
