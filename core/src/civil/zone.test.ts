import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import { InputError } from '../errors';
import { formatLength, parseLength } from './length';
import {
  clockAt,
  dayOfYear,
  daysInYear,
  instantOf,
  isDate,
  isZone,
  offsetAt,
  requireZone,
  zoneSteps,
} from './zone';

const LONDON = 'Europe/London';

test('clock and instant are inverse through summer and winter', () => {
  for (const [date, minutes, utc] of [
    ['2026-01-15', 720, '2026-01-15T12:00:00Z'],
    ['2026-07-15', 720, '2026-07-15T11:00:00Z'],
    ['2026-07-15', 1440, '2026-07-15T23:00:00Z'],
  ] as const) {
    const at = instantOf(date, minutes, LONDON);
    expect(new Date(at).toISOString()).toBe(new Date(utc).toISOString());
    if (minutes < 1440) expect(clockAt(at, LONDON)).toMatchObject({ date, minutes });
  }
});

test('a time that the clocks skip is taken an hour later, one that comes twice the first or the second time', () => {
  // Published rule for Great Britain: forward at 01:00 UTC on the last Sunday of March, back on that of October.
  expect(new Date(instantOf('2026-03-29', 90, LONDON)).toISOString()).toBe('2026-03-29T01:30:00.000Z');
  expect(new Date(instantOf('2026-10-25', 90, LONDON)).toISOString()).toBe('2026-10-25T00:30:00.000Z');
  expect(new Date(instantOf('2026-10-25', 90, LONDON, true)).toISOString()).toBe('2026-10-25T01:30:00.000Z');
});

test('the clock changes of a year', () => {
  expect(zoneSteps(LONDON, 2026)).toEqual([
    { atMs: Date.parse('2026-03-29T01:00:00Z'), beforeMinutes: 0, afterMinutes: 60 },
    { atMs: Date.parse('2026-10-25T01:00:00Z'), beforeMinutes: 60, afterMinutes: 0 },
  ]);
  expect(zoneSteps('Asia/Kathmandu', 2026)).toEqual([]);
  expect(zoneSteps('America/Santiago', 2026)).toHaveLength(2);
});

test('zones and dates that do not exist are told', () => {
  expect(isZone('Europe/Atlantis')).toBe(false);
  expect(() => requireZone('Mars/Olympus')).toThrow(InputError);
  expect(() => requireZone('Mars/Olympus')).toThrow('The time zone “Mars/Olympus” does not exist');
  expect(isDate('2026-02-29')).toBe(false);
  expect(isDate('2028-02-29')).toBe(true);
  expect(isDate('2026-2-1')).toBe(false);
  expect(daysInYear(2028)).toBe(366);
  expect(dayOfYear('2028-12-31')).toBe(365);
});

test('lengths as people type them', () => {
  expect(parseLength('12.5')).toBe(12.5);
  expect(parseLength('12,5 m')).toBe(12.5);
  expect(parseLength('1250 mm')).toBeCloseTo(1.25, 12);
  // 1 ft = 0.3048 m exactly (international yard and pound agreement, 1959).
  expect(parseLength('12\' 6"')).toBeCloseTo(3.81, 12);
  expect(parseLength('-1\' 6"')).toBeCloseTo(-0.4572, 12);
  expect(parseLength('10', 'imperial')).toBeCloseTo(3.048, 12);
  expect(formatLength(3.81, 'imperial')).toBe('12\' 6"');
  expect(() => parseLength('twelve')).toThrow('“twelve” is not a length');
});

test('offsets that are kept between changes of the clocks are those of the zone at each instant', () => {
  const zones = ['Europe/London', 'Australia/Lord_Howe', 'Africa/Casablanca', 'Asia/Tokyo', 'UTC', '+05:30'];
  const truth = (ms: number, zone: string) =>
    Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(zone);
  fc.assert(
    fc.property(
      fc.constantFrom(...zones),
      fc.integer({ min: Date.UTC(1950, 0), max: Date.UTC(2080, 0) }),
      fc.constantFrom(-1, 0, 1),
      (zone, ms, aside) => {
        const change = truth(ms, zone).getTimeZoneTransition('next')?.epochMilliseconds ?? ms;
        for (const at of [ms, change + aside])
          expect(offsetAt(at, zone)).toBe(truth(at, zone).offsetNanoseconds / 60e9);
      },
    ),
  );
});
