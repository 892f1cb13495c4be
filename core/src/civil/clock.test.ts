import fc from 'fast-check';
import { wrap180, wrap360 } from './angle';
import { formatArea, formatLength, parseLength } from './length';
import { addDays, clockAt, daysBetween, formatClock, formatOffset, instantOf } from './zone';

const ZONES = [
  'Europe/London',
  'America/Santiago',
  'Asia/Kathmandu',
  'Australia/Lord_Howe',
  'Pacific/Chatham',
  'America/St_Johns',
  'Africa/Kampala',
  'Pacific/Apia',
];

/** What the engine's own calendar says, independently of the library that the program uses. */
function engineClock(atMs: number, zone: string) {
  const parts = new Intl.DateTimeFormat('en-CA', {
    timeZone: zone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(atMs);
  const part = (type: string) => parts.find((p) => p.type === type)!.value;
  return {
    date: `${part('year')}-${part('month')}-${part('day')}`,
    minutes: Number(part('hour')) * 60 + Number(part('minute')),
  };
}

const minutes = fc.integer({ min: Date.UTC(1975, 0, 1) / 60_000, max: Date.UTC(2037, 0, 1) / 60_000 });

test('the clock of any zone at any minute agrees with the engine’s own calendar', () => {
  fc.assert(
    fc.property(minutes, fc.constantFrom(...ZONES), (minute, zone) => {
      const { date, minutes: shown } = clockAt(minute * 60_000, zone);
      expect({ date, minutes: shown }).toEqual(engineClock(minute * 60_000, zone));
    }),
    { numRuns: 400 },
  );
});

test('an instant goes through its clock time and back, but for times that come twice', () => {
  fc.assert(
    fc.property(minutes, fc.constantFrom(...ZONES), (minute, zone) => {
      const atMs = minute * 60_000;
      const clock = clockAt(atMs, zone);
      const [first, second] = [
        instantOf(clock.date, clock.minutes, zone),
        instantOf(clock.date, clock.minutes, zone, true),
      ];
      expect([first, second]).toContain(atMs);
      expect(second - first).toBeLessThanOrEqual(24 * 3_600_000);
    }),
    { numRuns: 400 },
  );
});

test('days are counted and added across months, years and leap days', () => {
  fc.assert(
    fc.property(fc.integer({ min: -40_000, max: 40_000 }), (days) => {
      expect(daysBetween('2026-03-21', addDays('2026-03-21', days))).toBe(days);
    }),
  );
  expect(addDays('2028-02-28', 1)).toBe('2028-02-29');
  expect(addDays('2026-12-31', 1)).toBe('2027-01-01');
});

test('clock times and offsets for reading', () => {
  expect([0, 545, 719.6, 1440].map(formatClock)).toEqual(['00:00', '09:05', '12:00', '24:00']);
  expect([0, 60, -210, 345].map(formatOffset)).toEqual(['UTC+0', 'UTC+1', 'UTC−3:30', 'UTC+5:45']);
});

test('angles are wrapped into their turn', () => {
  fc.assert(
    fc.property(fc.double({ min: -1e4, max: 1e4, noNaN: true }), (deg) => {
      expect(wrap360(deg)).toBeGreaterThanOrEqual(0);
      expect(wrap360(deg)).toBeLessThan(360 + 1e-9);
      expect(Math.abs(wrap180(deg))).toBeLessThanOrEqual(180);
      expect(Math.cos((wrap180(deg) * Math.PI) / 180)).toBeCloseTo(Math.cos((deg * Math.PI) / 180), 9);
    }),
  );
});

test('a length shown in feet and inches is typed back within a quarter of an inch', () => {
  fc.assert(
    fc.property(fc.double({ min: 0, max: 500, noNaN: true }), (metres) => {
      expect(Math.abs(parseLength(formatLength(metres, 'imperial')) - metres)).toBeLessThanOrEqual(
        0.0254 / 4 + 1e-9,
      );
    }),
  );
  expect(formatArea(216)).toBe('216.0 m²');
  // 1 sq ft = 0.09290304 m² exactly.
  expect(formatArea(92.90304, 'imperial')).toBe('1,000 sq ft');
});
