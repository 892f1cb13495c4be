import { Body, Observer, SearchHourAngle, SearchRiseSet, Seasons } from 'astronomy-engine';
import { clockAt } from '../civil';
import { seasons } from './seasons';
import { shadowAngles } from './shadow-angles';
import { solarMinutes, sunDay } from './sun-day';
import { altitudeTable, analemma, dayArc } from './sun-paths';
import { sunPosition } from './sun-position';

const PLACES = [
  { latitudeDeg: 55.87, longitudeDeg: -4.32, elevationM: 0, zone: 'Europe/London' },
  { latitudeDeg: -33.1, longitudeDeg: -70.9, elevationM: 0, zone: 'America/Santiago' },
  { latitudeDeg: 0.3, longitudeDeg: 32.6, elevationM: 0, zone: 'Africa/Kampala' },
  { latitudeDeg: 27.7, longitudeDeg: 85.3, elevationM: 0, zone: 'Asia/Kathmandu' },
];

test('sunrise, transit and sunset agree with an independent ephemeris within 10 s', () => {
  for (const place of PLACES) {
    const observer = new Observer(place.latitudeDeg, place.longitudeDeg, 0);
    for (const date of ['1962-02-11', '2026-01-05', '2026-03-29', '2026-06-21', '2026-10-25', '2049-12-01']) {
      const day = sunDay(date, place, place.zone);
      const transit = SearchHourAngle(Body.Sun, observer, 0, new Date(day.transitMs - 3_600_000)).time.date;
      const rise = SearchRiseSet(Body.Sun, observer, +1, new Date(day.transitMs - 43_000_000), 1)!.date;
      const set = SearchRiseSet(Body.Sun, observer, -1, new Date(day.transitMs), 1)!.date;
      expect(Math.abs(day.transitMs - transit.getTime())).toBeLessThan(10_000);
      expect(Math.abs(day.sunriseMs! - rise.getTime())).toBeLessThan(10_000);
      expect(Math.abs(day.sunsetMs! - set.getTime())).toBeLessThan(10_000);
      expect(day.dayLengthHours).toBeCloseTo((day.sunsetMs! - day.sunriseMs!) / 3_600_000, 9);
      expect(clockAt(day.transitMs, place.zone).date).toBe(date);
    }
  }
});

test('polar day and night are said', () => {
  const tromso = { latitudeDeg: 69.65, longitudeDeg: 18.96, elevationM: 0 };
  const summer = sunDay('2026-06-21', tromso, 'Europe/Oslo');
  expect(summer).toMatchObject({ sunriseMs: null, sunsetMs: null, polar: 'day', dayLengthHours: 24 });
  const winter = sunDay('2026-12-21', tromso, 'Europe/Oslo');
  expect(winter).toMatchObject({ sunriseMs: null, sunsetMs: null, polar: 'night', dayLengthHours: 0 });
  expect(dayArc('2026-12-21', tromso, 'Europe/Oslo')).toEqual([]);
});

test('equinoxes and solstices agree with an independent ephemeris within a minute', () => {
  for (const year of [1951, 2000, 2026, 2049]) {
    const theirs = Seasons(year);
    const ours = seasons(year);
    const pairs = [
      [ours['march-equinox'], theirs.mar_equinox],
      [ours['june-solstice'], theirs.jun_solstice],
      [ours['september-equinox'], theirs.sep_equinox],
      [ours['december-solstice'], theirs.dec_solstice],
    ] as const;
    for (const [mine, other] of pairs) expect(Math.abs(mine - other.date.getTime())).toBeLessThan(60_000);
  }
});

test('shadow angles by their definition', () => {
  // Sun square to the facade: VSA is the altitude.
  expect(shadowAngles(40, 180, 180)).toEqual({ hsaDeg: 0, vsaDeg: expect.closeTo(40, 10) });
  // tan VSA = tan 30° / cos 60° = 2 / √3.
  const side = shadowAngles(30, 240, 180);
  expect(side.hsaDeg).toBeCloseTo(60, 10);
  expect(Math.tan((side.vsaDeg! * Math.PI) / 180)).toBeCloseTo(2 / Math.sqrt(3), 10);
  expect(shadowAngles(30, 90, 180)).toEqual({ hsaDeg: -90, vsaDeg: null });
  expect(shadowAngles(30, 350, 10).hsaDeg).toBeCloseTo(-20, 10);
});

test('the sun is due south in the north and due north in the south at solar noon', () => {
  const north = sunDay('2026-03-29', PLACES[0]!, PLACES[0]!.zone);
  expect(north.transitAzimuthDeg).toBeCloseTo(180, 3);
  const south = sunDay('2026-03-29', PLACES[1]!, PLACES[1]!.zone);
  expect(Math.min(south.transitAzimuthDeg, 360 - south.transitAzimuthDeg)).toBeCloseTo(0, 3);
  expect(solarMinutes(sunPosition(north.transitMs, PLACES[0]!))).toBeCloseTo(720, 3);
});

test('an arc begins and ends at the horizon and its altitudes rise to transit', () => {
  const place = PLACES[0]!;
  const arc = dayArc('2026-05-01', place, place.zone);
  const day = sunDay('2026-05-01', place, place.zone);
  expect(arc[0]!.atMs).toBe(day.sunriseMs);
  expect(arc.at(-1)!.atMs).toBe(day.sunsetMs);
  expect(Math.max(...arc.map((sun) => sun.altitudeDeg))).toBeLessThanOrEqual(day.transitAltitudeDeg + 1e-6);
  expect(arc[0]!.altitudeDeg).toBeCloseTo(-0.83, 1);
});

test('the figure of eight closes and crosses itself between the solstices', () => {
  const place = PLACES[0]!;
  const eight = analemma(720, 2026, place, place.zone);
  expect(eight[0]!.altitudeDeg).toBeCloseTo(eight.at(-1)!.altitudeDeg, 0);
  const swing =
    Math.max(...eight.map((s) => s.declinationDeg)) - Math.min(...eight.map((s) => s.declinationDeg));
  // Twice the obliquity of the ecliptic, 23.44°.
  expect(swing).toBeCloseTo(46.87, 0);
});

test('the altitude table follows the clock through daylight saving', () => {
  const place = PLACES[0]!;
  const table = altitudeTable(2026, place, place.zone, 24);
  const noonOf = (day: number) => {
    const row = Array.from(table.altitudeDeg.subarray(day * 24, day * 24 + 24));
    return row.indexOf(Math.max(...row));
  };
  // Clocks go forward on 29 March 2026 (day 87): the highest sun moves from the 12 o'clock hour to the 13 o'clock hour.
  expect(noonOf(80)).toBe(12);
  expect(noonOf(95)).toBe(13);
  expect(table.days).toBe(365);
});
