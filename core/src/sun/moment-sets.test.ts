import { clockAt } from '../civil';
import { emptyProject, type MomentSet, type Site } from '../project';
import { momentsOf, readMoments, solarInstant } from './moment-sets';
import { solarMinutes } from './sun-day';
import { sunPosition } from './sun-position';

function siteAt(latitudeDeg: number, longitudeDeg: number, zone: string): Site {
  const { site } = emptyProject('P', 2026);
  return { ...site, place: { ...site.place, latitudeDeg, longitudeDeg, zone } };
}
const LONDON = siteAt(51.5, 0, 'Europe/London');
const set = (source: MomentSet['source'], basis: MomentSet['basis'] = 'clock'): MomentSet => ({
  id: 's',
  name: 'Set',
  basis,
  source,
});
const clocks = (found: ReturnType<typeof momentsOf>) =>
  found.map(({ date, minutes }) => `${date} ${minutes.toFixed(2)}`);

test('solstices and equinoxes of the year, at each of the hours, by the clock on site', () => {
  const marks: ('march-equinox' | 'june-solstice')[] = ['march-equinox', 'june-solstice'];
  const found = momentsOf(set({ kind: 'seasons', marks, times: [540, 720] }), LONDON);
  expect(clocks(found)).toEqual([
    '2026-03-20 540.00',
    '2026-03-20 720.00',
    '2026-06-21 540.00',
    '2026-06-21 720.00',
  ]);
  // Summer time: nine o'clock is eight by UTC.
  expect(new Date(found[2]!.atMs).toISOString()).toBe('2026-06-21T08:00:00.000Z');
});

test('the date of a mark is that on site: in Tokyo the December solstice of 2026 falls a day later than in Greenwich', () => {
  const december = set({ kind: 'seasons', marks: ['december-solstice'], times: [720] });
  expect(momentsOf(december, LONDON)[0]!.date).toBe('2026-12-21');
  expect(momentsOf(december, siteAt(35.7, 139.7, 'Asia/Tokyo'))[0]!.date).toBe('2026-12-22');
});

test.each([0, 180, 540, 720, 930, 1439])('solar time %d is what the sun shows then', (minutes) => {
  for (const site of [
    LONDON,
    siteAt(-33.1, -70.9, 'America/Santiago'),
    siteAt(64, -21, 'Atlantic/Reykjavik'),
  ]) {
    const at = solarInstant('2026-02-11', minutes, site);
    const shown = ((solarMinutes(sunPosition(at, site.place)) % 1440) + 1440) % 1440;
    // The two ends of a day are the same.
    expect(Math.abs(((shown - minutes + 720 + 1440) % 1440) - 720)).toBeLessThan(0.001);
  }
});

test('at solar noon the sun stands south, whatever the clock says', () => {
  const santiago = siteAt(40, -3.7, 'Europe/Madrid');
  const [noon] = momentsOf(
    set({ kind: 'list', moments: [{ date: '2026-07-01', minutes: 720 }] }, 'solar'),
    santiago,
  );
  expect(sunPosition(noon!.atMs, santiago.place).azimuthDeg).toBeCloseTo(180, 3);
  // Madrid's clock in summer: about two and a quarter hours ahead of the sun.
  expect(noon!.minutes).toBeGreaterThan(850);
});

test('from sunrise to sunset in steps: within the day, the first within a minute of the rise', () => {
  const found = momentsOf(
    set({ kind: 'day', date: '2026-03-21', everyMinutes: 30, from: null, to: null }),
    LONDON,
  );
  expect(found.every(({ atMs }) => sunPosition(atMs, LONDON.place).altitudeDeg > -0.9)).toBe(true);
  expect(found[1]!.atMs - found[0]!.atMs).toBe(1_800_000);
  const before = sunPosition(found[0]!.atMs - 60_000, LONDON.place).altitudeDeg;
  expect(before).toBeLessThan(-0.5);
  const bounded = set({ kind: 'day', date: '2026-03-21', everyMinutes: 60, from: 600, to: 720 });
  expect(clocks(momentsOf(bounded, LONDON))).toEqual([
    '2026-03-21 600.00',
    '2026-03-21 660.00',
    '2026-03-21 720.00',
  ]);
});

test('days without sunrise or sunset: none, said; or the whole day', () => {
  const tromso = siteAt(69.6, 18.9, 'Europe/Oslo');
  const day = (date: string) => set({ kind: 'day', date, everyMinutes: 60, from: null, to: null });
  expect(() => momentsOf(day('2026-12-21'), tromso)).toThrow('the sun does not rise on 2026-12-21');
  expect(momentsOf(day('2026-06-21'), tromso)).toHaveLength(24);
});

test('a time that the clocks skip or show twice is said', () => {
  const at = (date: string, minutes: number) =>
    momentsOf(set({ kind: 'list', moments: [{ date, minutes }] }), LONDON)[0]!;
  expect(at('2026-03-29', 90)).toMatchObject({ minutes: 150, note: expect.stringContaining('skip') });
  expect(at('2026-10-25', 90).note).toContain('twice');
  expect(clockAt(at('2026-10-25', 90).atMs, 'Europe/London').offsetMinutes).toBe(60);
  expect(at('2026-06-01', 90).note).toBeNull();
});

test('a set that is too long is refused, and so is an empty one', () => {
  const dense = set({ kind: 'day', date: '2026-03-21', everyMinutes: 1, from: 0, to: 1440 });
  expect(momentsOf(dense, LONDON)).toHaveLength(1441);
  expect(() => momentsOf(set({ kind: 'list', moments: [] }), LONDON)).toThrow('its list is empty');
  expect(() =>
    momentsOf({ ...dense, source: { ...dense.source, from: 800, to: 700 } as never }, LONDON),
  ).toThrow('it ends before it begins');
});

const READ: [string, string[]][] = [
  ['2026-03-21 09:30', ['2026-03-21 570']],
  ['2026-03-21T09:30', ['2026-03-21 570']],
  ['21 March: 9, 12, 15', ['2026-03-21 540', '2026-03-21 720', '2026-03-21 900']],
  ['21.3.2027 9:30', ['2027-03-21 570']],
  ['Jun 21 3 pm', ['2026-06-21 900']],
  ['June 21st, 2025 12 am', ['2025-06-21 0']],
  ['21-Dec-2026 0900', ['2026-12-21 540']],
  ['21/12 9h30', ['2026-12-21 570']],
  ['12/21 9h', ['2026-12-21 540']],
  ['21 Mar, 21 Jun\n9 am, 12 pm', ['2026-03-21 540', '2026-03-21 720', '2026-06-21 540', '2026-06-21 720']],
  ['21 Mar 9; 22 Mar 10', ['2026-03-21 540', '2026-03-22 600']],
];

test.each(READ)('“%s” is read', (text, wanted) => {
  const { moments } = readMoments(text, 2026);
  expect(moments.map(({ date, minutes }) => `${date} ${minutes}`)).toEqual(wanted);
});

test('a day and month that could be either is said, and goes by the habit asked for', () => {
  const day = readMoments('3/4 9:00', 2026);
  expect(day.moments[0]!.date).toBe('2026-04-03');
  expect(day.notes[0]).toContain('day 3 of month 4');
  expect(readMoments('3/4 9:00', 2026, true).moments[0]!.date).toBe('2026-03-04');
  expect(readMoments('5/5 9:00', 2026).notes).toEqual([]);
});

test.each([
  ['', 'no date'],
  ['21 March', 'has no time of day'],
  ['9:30', 'without a date'],
  ['29 Feb 9:00', 'no date of 2026'],
  ['31.4.2026 9:00', 'no date'],
  ['21 March 25:00', 'no time of day'],
  ['21 March 13 pm', 'no time of day'],
  ['21 March at dawn', 'neither a date nor a time'],
])('“%s” is refused: %s', (text, says) => {
  expect(() => readMoments(text, 2026)).toThrow(says);
});

test('29 February is a date of a leap year', () => {
  expect(readMoments('29 Feb 9:00', 2028).moments[0]!.date).toBe('2028-02-29');
});
