import { anglesAt, at, house, NONE, OVERHANG, WINDOW } from '../../testing/shaded-house';
import { RAD } from '../civil';
import { glazedPlaces } from '../devices';
import type { Device, DeviceMake, HourSet } from '../project';
import { climateAt, makeUpYear, sunOfHours } from '../weather';
import { glassInSun } from './glass-sun';
import { beamOfSet } from './hours-of-sun';
import { sizeDevice, WindowShade } from './window-shade';

const make = { ...OVERHANG, depthM: 0.3 } as DeviceMake;
const project = house(make);
const [place] = glazedPlaces(project, 'a', NONE).flatMap(({ places }) => places);
const device: Device = project.options.find(({ id }) => id === 'a')!.schemes[0]!.devices[0]!;
const window = (moments: { atMs: number; weight: number }[]) =>
  new WindowShade(project, 'a', NONE, place!, device, moments);
const overhang = (depthM: number): DeviceMake => ({ ...OVERHANG, depthM });

test('for one moment the depth of a long overhang is (s H + y) / tan VSA', () => {
  for (const [hour, goal] of [
    [10, 1],
    [12, 0.95],
    [14.5, 0.5],
  ] as const) {
    const ms = at(hour);
    const { vsaDeg } = anglesAt(ms, project);
    const expected = (goal * WINDOW.height + OVERHANG.aboveM) / Math.tan(vsaDeg! * RAD);
    const sized = sizeDevice(window([{ atMs: ms, weight: 1 }]), make, {
      number: 'depthM',
      from: 0.02,
      to: 3,
      goal,
      each: true,
    });
    expect(sized.isMet).toBe(true);
    expect(Math.abs(sized.value - expected)).toBeLessThan(0.002);
  }
});

test('what it answers meets the goal, and 2 % less does not; readings are those of the exact shares', () => {
  const moments = [9.5, 11, 12.5, 14, 15].map((hour, i) => ({ atMs: at(hour), weight: 1 + i }));
  const seen = window(moments);
  for (const [goal, each] of [
    [0.8, false],
    [0.7, true],
  ] as const) {
    const asked = { number: 'depthM', from: 0.02, to: 4, goal, each };
    const short = { ...OVERHANG, sideM: 0.5, depthM: 0.3 } as DeviceMake;
    const sized = sizeDevice(seen, short, asked);
    expect(sized.isMet).toBe(true);
    const reached = (depthM: number) => {
      const reading = seen.read({ ...short, depthM } as DeviceMake);
      return each ? reading.least!.share : reading.shaded;
    };
    expect(reached(sized.value)).toBeGreaterThanOrEqual(goal - 1e-6);
    expect(reached(sized.value * 0.98)).toBeLessThan(goal);
  }
  const shares = moments.map(({ atMs }) => {
    const [found] = glassInSun(house(overhang(0.5)), 'a', NONE, atMs);
    return 1 - found!.sunlitM2 / found!.areaM2;
  });
  const mean = shares.reduce((sum, share, i) => sum + share * moments[i]!.weight, 0) / 15;
  expect(seen.read(overhang(0.5)).shaded).toBeCloseTo(mean, 6);
});

test('a low sun from the side: no depth of a short overhang does it, and the best that can be had is told', () => {
  const seen = window([{ atMs: at(8.6), weight: 1 }]);
  const short = { ...OVERHANG, sideM: 0 } as DeviceMake;
  const sized = sizeDevice(seen, short, { number: 'depthM', from: 0.02, to: 3, goal: 1, each: false });
  expect(sized.isMet).toBe(false);
  expect(sized.reading.shaded).toBeLessThan(1);
  expect(sized.reading.shaded).toBeGreaterThanOrEqual(seen.read(null).shaded);
});

test('of numbers that open with more the greatest that does it: the widest spacing, the highest plate', () => {
  const moments = [10, 12, 14].map((hour) => ({ atMs: at(hour), weight: 1 }));
  const louvres: DeviceMake = {
    ...{ kind: 'louvres', lie: 'level', slatM: 0.1, spacingM: 0.1, tiltDeg: 0, thicknessM: 0.004 },
    ...{ offM: 0.02, aroundM: 0.6 },
  };
  for (const [of, number, range] of [
    [louvres, 'spacingM', { from: 0.05, to: 0.95 }],
    [{ ...OVERHANG, depthM: 0.7 } as DeviceMake, 'aboveM', { from: 0, to: 1.5 }],
    [
      { kind: 'screen', openness: 0.2, holeDepth: 0, offM: 0.1, aroundM: 3 },
      'openness',
      { from: 0, to: 0.9 },
    ],
  ] as [DeviceMake, string, { from: number; to: number }][]) {
    const seen = window(moments);
    const sized = sizeDevice(seen, of, { number, ...range, goal: 0.6, each: false });
    expect(sized.isMet).toBe(true);
    const shaded = (value: number) => seen.read({ ...of, [number]: value } as DeviceMake).shaded;
    expect(shaded(sized.value)).toBeGreaterThanOrEqual(0.6 - 1e-6);
    expect(sized.value).toBeGreaterThan(range.from);
    // Bisected to a thousandth.
    expect(shaded(sized.value + 0.002)).toBeLessThan(0.6);
  }
});

test('of two numbers those are found that do it with the least of the device: no pair of a grid does it with less', () => {
  const moments = [9.5, 11, 13].map((hour) => ({ atMs: at(hour), weight: 1 }));
  const seen = window(moments);
  const short = { ...OVERHANG, sideM: 0.1, depthM: 0.3 } as DeviceMake;
  const range = { from: 0.05, to: 2 };
  const side = { number: 'sideM', from: 0, to: 1.6 };
  const asked = { number: 'depthM', ...range, goal: 0.8, each: false, second: side };
  const sized = sizeDevice(seen, short, asked);
  expect(sized.isMet).toBe(true);
  const of = (depthM: number, sideM: number) => ({ ...short, depthM, sideM }) as DeviceMake;
  expect(seen.read(of(sized.value, sized.second!)).shaded).toBeGreaterThanOrEqual(0.8 - 1e-6);
  const least = seen.areaOf(of(sized.value, sized.second!));
  // One plate: both its faces halved, and its edges.
  const wide = WINDOW.width + 2 * sized.second!;
  expect(least).toBeCloseTo(wide * sized.value + (wide + sized.value) * OVERHANG.thicknessM, 6);
  for (let i = 0; i <= 20; i++)
    for (let j = 0; j <= 16; j++) {
      const one = of(0.05 + (i * 1.95) / 20, j / 10);
      if (seen.areaOf(one) < 0.98 * least) expect(seen.read(one).shaded).toBeLessThan(0.8);
    }
  // What no pair does is told with the best of all.
  const seenEarly = window([{ atMs: at(8.6), weight: 1 }]);
  const none = sizeDevice(seenEarly, short, {
    ...asked,
    to: 0.2,
    goal: 1,
    second: { ...side, to: 0.4 },
  });
  expect(none.isMet).toBe(false);
  // Of equal best the least: deeper would shade no more of it, shallower less.
  expect(none.second).toBe(0.4);
  const best = seenEarly.read(of(0.2, 0.4)).shaded;
  expect(seenEarly.read(of(none.value, 0.4)).shaded).toBeCloseTo(best, 6);
  expect(seenEarly.read(of(none.value - 0.005, 0.4)).shaded).toBeLessThan(best - 1e-6);
});

test('without sun before the glass everything is met', () => {
  const sized = sizeDevice(window([{ atMs: at(1), weight: 1 }]), make, {
    number: 'depthM',
    from: 0.1,
    to: 1,
    goal: 1,
    each: true,
  });
  expect(sized).toMatchObject({ value: 0.1, isMet: true });
});

test('hours of a set: the beam on the glass adds up, however many are taken', () => {
  const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
  const weather = makeUpYear(PLACE, climateAt(47), 3, 2026);
  const set: Pick<HourSet, 'source'> = { source: { by: 'temperature', above: true, atC: 12 } };
  const found = beamOfSet(project, set, [0, -1, 0], weather);
  const { dryBulb } = weather.values;
  let [sum, count] = [0, 0];
  for (const { sun, beamNormal, record } of sunOfHours(weather, project.site.place, 1, project.site.year)
    .hours) {
    if (!sun || dryBulb[record]! < 12 || beamNormal <= 0) continue;
    const cosine = -Math.cos(sun.altitudeDeg * RAD) * Math.cos(sun.azimuthDeg * RAD);
    if (cosine <= 0) continue;
    count++;
    sum += (beamNormal * cosine) / 1000;
  }
  expect(count).toBeGreaterThan(360);
  expect(found.length).toBeLessThanOrEqual(360);
  expect(found.reduce((all, { weight }) => all + weight, 0)).toBeCloseTo(sum, 6);
});
