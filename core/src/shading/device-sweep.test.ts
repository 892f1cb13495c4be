import { house, NONE, OVERHANG } from '../../testing/shaded-house';
import { stream } from '../../testing/stream';
import { glazedPlaces } from '../devices';
import type { DeviceMake, HourSet } from '../project';
import { deviceSolid } from '../scene';
import { climateAt, makeUpYear } from '../weather';
import { type Candidate, DeviceSweep, frontOf, MAX_CANDIDATES, sweepMakes } from './device-sweep';
import { GlassReader } from './glass-reading';
import { GlassYear } from './glass-year';

const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);
const SETS: HourSet[] = [
  { id: 'warm', name: 'Warm', use: 'unwanted', source: { by: 'temperature', above: true, atC: 20 } },
  { id: 'cold', name: 'Cold', use: 'wanted', source: { by: 'temperature', above: false, atC: 12 } },
];

test('all combinations, but for those that cannot be built', () => {
  const louvres: DeviceMake = {
    kind: 'louvres',
    lie: 'level',
    slatM: 0.1,
    spacingM: 0.1,
    tiltDeg: 0,
    thicknessM: 0.05,
    offM: 0.1,
    aroundM: 0,
  };
  const { makes, leftOut } = sweepMakes([
    { make: louvres, ranges: [{ number: 'spacingM', from: 0.02, to: 0.1, steps: 5 }] },
    { make: { ...OVERHANG, sideM: 3 }, ranges: [{ number: 'depthM', from: 0.2, to: 1, steps: 3 }] },
  ]);
  // Slats of 5 cm do not fit into 2 or 4 cm.
  expect([makes.length, leftOut]).toEqual([6, 2]);
  expect(makes.slice(3).map((make) => (make as typeof OVERHANG).depthM)).toEqual([0.2, 0.6, 1]);
  const range = { number: 'depthM', from: 0.1, to: 2, steps: 5000 };
  expect(() => sweepMakes([{ make: OVERHANG, ranges: [range, { ...range, number: 'sideM' }] }])).toThrow(
    '25,000,000 devices',
  );
  expect(() => sweepMakes([{ make: OVERHANG, ranges: [{ ...range, number: 'spacingM' }] }])).toThrow(
    'has no number “spacingM”',
  );
  expect(() => sweepMakes([{ make: OVERHANG, ranges: [{ ...range, from: 50, to: 90, steps: 3 }] }])).toThrow(
    'None of these devices can be built',
  );
  expect(MAX_CANDIDATES).toBeLessThan(10 ** 7);
});

test('a candidate is what the same device reads when it is hung; the others of its scheme stay', () => {
  const project = { ...house(OVERHANG), hourSets: SETS };
  const places = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  const [scheme] = project.options.find(({ id }) => id === 'a')!.schemes;
  const fins: DeviceMake = {
    kind: 'fins',
    at: 'both',
    depthM: 0.4,
    gapM: 0.05,
    aboveM: 0,
    belowM: 0,
    thicknessM: 0.03,
    turnDeg: 0,
  };
  const device = { ...scheme!.devices[0]!, id: 'fin', make: fins };
  scheme!.devices.push(device);
  const asked = { project, optionId: 'a', meshes: NONE, weather: WEATHER };
  const against = { unwanted: SETS[0]!, wanted: SETS[1]! };
  const found = new DeviceSweep(asked, places[0]!, device, against).read(fins);
  const bare = { ...house(null), hourSets: SETS };
  const year = new GlassYear({ ...asked, project: bare }, places);
  const both = [OVERHANG, fins].map((make) => deviceSolid({ make }, places));
  const { sets, skyPercent } = new GlassReader(year, bare, WEATHER).read(year.past(both));
  // By other points: within what both may be off by.
  const within = (a: number, b: number, set: (typeof sets)[0], off: number) =>
    expect(Math.abs(a - b)).toBeLessThanOrEqual(off + set.error / set.whole + 1e-9);
  within(found.keptOut, 1 - sets[0]!.shaded / sets[0]!.whole, sets[0]!, found.error.keptOut);
  within(found.letIn!, sets[1]!.shaded / sets[1]!.whole, sets[1]!, found.error.letIn);
  expect(found.sky * 39.6).toBeCloseTo(skyPercent.shaded, 1);
});

test('hours in which no sun comes before the window are refused', () => {
  const project = { ...house(OVERHANG), hourSets: SETS };
  const [place] = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  const [device] = project.options.find(({ id }) => id === 'a')!.schemes[0]!.devices;
  const night = { from: '2026-01-01', to: '2026-12-31', startMinutes: 0, endMinutes: 120 };
  expect(
    () =>
      new DeviceSweep({ project, optionId: 'a', meshes: NONE }, place!, device!, {
        unwanted: { source: { by: 'windows', windows: [night] } },
        wanted: null,
      }),
  ).toThrow('In none of the unwanted hours');
});

test('hours by the temperature need a weather year', () => {
  const project = { ...house(OVERHANG), hourSets: SETS };
  const [place] = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  const [device] = project.options.find(({ id }) => id === 'a')!.schemes[0]!.devices;
  const asked = { project, optionId: 'a', meshes: NONE };
  expect(() => new DeviceSweep(asked, place!, device!, { unwanted: SETS[0]!, wanted: null })).toThrow(
    'go by the temperature outside, and the project has no weather year',
  );
});

test('the front: nothing beats what is on it, and something on it beats everything else', () => {
  const random = stream(11);
  const candidates = Array.from({ length: 300 }, (): Omit<Candidate, 'make'> => {
    const keptOut = Math.round(random() * 40) / 40;
    const letIn = Math.round((1 - keptOut * random()) * 40) / 40;
    return { keptOut, letIn, sky: random(), error: { keptOut: 0, letIn: 0, sky: 0 } };
  });
  const isFront = frontOf(candidates, 'wanted');
  const beats = (a: (typeof candidates)[0], b: (typeof candidates)[0]) =>
    a.keptOut >= b.keptOut && a.letIn! >= b.letIn! && (a.keptOut > b.keptOut || a.letIn! > b.letIn!);
  candidates.forEach((one, i) => {
    const isBeaten = candidates.some((other) => beats(other, one));
    expect(isFront[i]).toBe(!isBeaten);
  });
});

test('a front does not choose between candidates that are nearer than their errors, and does beyond them', () => {
  const one = (keptOut: number, letIn: number, off: number): Omit<Candidate, 'make'> => ({
    ...{ keptOut, letIn, sky: letIn },
    error: { keptOut: off, letIn: off, sky: off },
  });
  const all = (off: number) => [
    one(0.6, 0.5, off),
    one(0.603, 0.501, off),
    one(0.605, 0.4, off),
    one(0.5, 0.3, off),
  ];
  for (const by of ['wanted', 'sky'] as const) {
    expect(frontOf(all(0), by)).toEqual([false, true, true, false]);
    // Off by half a point, the first two are one; the third lets in less for sure and keeps out no more for sure.
    expect(frontOf(all(0.005), by)).toEqual([true, true, true, false]);
    expect(frontOf(all(0.002), by)).toEqual([false, true, true, false]);
  }
});
