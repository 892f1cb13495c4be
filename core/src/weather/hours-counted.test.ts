import { emptyProject, type Site, type WindowOfTime } from '../project';
import { degreeHours, hoursInSet } from './hour-sets';
import { climateAt, makeUpYear } from './index';
import { sunOfHours } from './sun-of-hours';
import { ROSE_SPEEDS, windRose } from './wind-rose';
import { shareInWindow } from './windows-of-time';

const PLACE = { name: 'Nowhere', latitudeDeg: 48, longitudeDeg: 2, standardTimeH: 0, elevationM: 20 };
const MADE = makeUpYear(PLACE, climateAt(48), 3, 2026);
const year = () => structuredClone(MADE);
const always = () => true;
const total = (values: ArrayLike<number>) => Array.from(values).reduce((a, b) => a + b, 0);

/** A site on the standard time of Greenwich all year. */
function site(): Site {
  const made = emptyProject('P', 2026).site;
  return { ...made, year: 2026, place: { ...made.place, zone: 'UTC' } };
}

describe('the wind rose', () => {
  function of(winds: readonly (readonly [number, number])[]) {
    const weather = year();
    weather.values.windSpeed.fill(NaN);
    winds.forEach(([speed, direction], i) => {
      weather.values.windSpeed[i] = speed;
      weather.values.windDirection[i] = direction;
    });
    return windRose(weather, always);
  }
  const classes = ROSE_SPEEDS.length - 1;

  test.each([
    // Sectors of 22.5° about their direction; north is on both sides of 0°.
    [1, 0, 0, 0],
    [1, 360, 0, 0],
    [1, 355, 0, 0],
    [1, 11, 0, 0],
    [1, 12, 1, 0],
    [2, 90, 4, 1],
    [3.99, 180, 8, 1],
    [7.9, 270, 12, 3],
    [8, 348, 15, 4],
    [40, 225, 10, 4],
  ])('%d m/s from %d° lies in sector %d, class %d', (speed, direction, sector, k) => {
    const { byDirection, hours, calmHours, meanSpeed } = of([[speed, direction]]);
    expect(byDirection[sector * classes + k]).toBe(1);
    expect(total(byDirection)).toBe(1);
    expect([hours, calmHours, meanSpeed]).toEqual([1, 0, speed]);
  });

  test('calm is from nowhere, but counts in the mean; what is missing counts nowhere', () => {
    const { byDirection, hours, calmHours, meanSpeed } = of([
      [0.4, 200],
      [3.6, 200],
      [5, NaN],
    ]);
    expect([hours, calmHours, total(byDirection)]).toEqual([2, 1, 1]);
    expect(meanSpeed).toBeCloseTo(2, 12);
  });

  test('every hour of a whole year is calm or blows from somewhere, and parts of the year make the year', () => {
    const weather = year();
    const whole = windRose(weather, always);
    expect(whole.calmHours + total(whole.byDirection)).toBe(8760);
    const summer = windRose(weather, (month) => month > 3 && month < 10);
    const winter = windRose(weather, (month) => month <= 3 || month >= 10);
    expect(summer.hours).toBe(183 * 24);
    expect(Array.from(summer.byDirection, (n, i) => n + winter.byDirection[i]!)).toEqual([
      ...whole.byDirection,
    ]);
    expect(windRose(weather, (_, hour) => hour === 0).hours).toBe(365);
  });
});

test('degree hours are sums of what is above and below; their difference is the mean against the temperature', () => {
  const weather = year();
  const { dryBulb } = weather.values;
  const [above, below] = [degreeHours(weather, 15, true), degreeHours(weather, 15, false)];
  expect(above - below).toBeCloseTo(total(dryBulb) - 15 * 8760, 6);
  dryBulb.fill(NaN);
  dryBulb.set([10, 15, 21.5, 30]);
  expect(degreeHours(weather, 15, true)).toBe(6.5 + 15);
  expect(degreeHours(weather, 15, false)).toBe(5);
});

describe('hours in windows of time', () => {
  const { hours } = sunOfHours(year(), PLACE, 0, 2026);
  const june: WindowOfTime = {
    from: '2026-06-01',
    to: '2026-06-30',
    startMinutes: 8 * 60,
    endMinutes: 18 * 60,
  };
  const sum = (...windows: WindowOfTime[]) => {
    const { shareOf } = shareInWindow(windows, site());
    return hours.reduce((all, hour) => all + shareOf(hour), 0);
  };

  test('a window has its own hours, also where it begins and ends within one', () => {
    expect(sum(june)).toBeCloseTo(30 * 10, 9);
    expect(sum({ ...june, startMinutes: 8 * 60 + 20, endMinutes: 8 * 60 + 50 })).toBeCloseTo(15, 9);
  });

  test('what lies in two windows counts once', () => {
    const later = {
      ...june,
      from: '2026-06-21',
      to: '2026-07-10',
      startMinutes: 12 * 60,
      endMinutes: 20 * 60,
    };
    // Ten days in both: 12 h from 8 to 20 there.
    expect(sum(june, later)).toBeCloseTo(20 * 10 + 10 * 12 + 10 * 8, 9);
    expect(sum(june, june)).toBeCloseTo(300, 9);
    expect(shareInWindow([june, later], site()).days).toBe(40);
  });

  test('no hour counts more than once or less than not', () => {
    const { shareOf } = shareInWindow(
      [june, { ...june, startMinutes: 17 * 60 + 30, endMinutes: 19 * 60 }],
      site(),
    );
    const wrong = hours.filter((hour) => !(shareOf(hour) >= 0 && shareOf(hour) <= 1));
    expect(wrong).toEqual([]);
  });
});

test('a set of hours by temperature has those at it, and none where it is missing', () => {
  const weather = year();
  const { hours } = sunOfHours(weather, PLACE, 0, 2026);
  weather.values.dryBulb.fill(NaN);
  const shown = hours.slice(0, 4);
  shown.forEach(({ record }, i) => (weather.values.dryBulb[record] = 18 + i));
  const set = (above: boolean) =>
    [...hoursInSet(site(), weather, hours, { source: { by: 'temperature', above, atC: 20 } })].slice(0, 5);
  expect(set(true)).toEqual([0, 0, 1, 1, 0]);
  expect(set(false)).toEqual([1, 1, 1, 0, 0]);
});
