import { house, NONE, OVERHANG } from '../../testing/shaded-house';
import { glazedPlaces } from '../devices';
import { openingsYear, openingTargetId, roomYear, ROOM_PRESETS } from '../gains';
import type { DeviceMake, HourSet, Project } from '../project';
import { deviceSolid } from '../scene';
import { glassInSun, roomsIn } from '../shade';
import { partsError, planStudy, POINT_PARTS, runStudy, summarize } from '../study';
import { climateAt, makeUpYear } from '../weather';
import { DeviceSweep } from './device-sweep';
import { GlassReader } from './glass-reading';
import { AT_REST, type GlassPrecision, GlassYear, IN_MOTION } from './glass-year';
import { windowYears } from './window-years';

const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);
const SETS: HourSet[] = [
  { id: 'warm', name: 'Warm', use: 'unwanted', source: { by: 'temperature', above: true, atC: 20 } },
  { id: 'cold', name: 'Cold', use: 'wanted', source: { by: 'temperature', above: false, atC: 12 } },
];
const louvres = (spacingM: number): DeviceMake => ({
  kind: 'louvres',
  lie: 'level',
  slatM: 0.15,
  spacingM,
  tiltDeg: 20,
  thicknessM: 0.01,
  offM: 0.1,
  aroundM: 0,
});
const FINS: DeviceMake = {
  ...{
    kind: 'fins',
    at: 'both',
    depthM: 0.5,
    gapM: 0.02,
    aboveM: 0,
    belowM: 0,
    thicknessM: 0.04,
    turnDeg: 0,
  },
};
const SHELF: DeviceMake = { kind: 'shelf', heightM: 0.7, outM: 0.6, inM: 0.3, thicknessM: 0.05 };
const GRATE: DeviceMake = { kind: 'eggcrate', depthM: 0.3, columnM: 0.4, rowM: 0.4, thicknessM: 0.03 };

/** A window of 3 × 1.5 m in a wall that faces south. */
function wide(make: DeviceMake | null, revealM = 0): Project {
  const project = { ...house(make, revealM), hourSets: SETS };
  const [mass] = project.options.find(({ id }) => id === 'a')!.masses;
  Object.assign(mass!.openings[0]!.outline, { u: 3, v: 0.8, widthM: 3, heightM: 1.5 });
  return project;
}

const asked = (project: Project) => ({ project, optionId: 'a', meshes: NONE, weather: WEATHER });
const placesOf = (project: Project) => glazedPlaces(project, 'a', NONE).flatMap(({ places }) => places);

function read(make: DeviceMake, precision: GlassPrecision, revealM = 0) {
  const project = wide(null, revealM);
  const places = placesOf(project);
  const year = new GlassYear(asked(project), places, precision);
  return {
    year,
    reading: new GlassReader(year, project, WEATHER).read(year.past([deviceSolid({ make }, places)])),
  };
}

/** Shares of both sets of hours that reach the glass, by the exact polygon of the glass in sun at every sun of them. */
function exactShares(make: DeviceMake, revealM = 0): [number, number] {
  const shaded = wide(make, revealM);
  const { year } = read(make, IN_MOTION, revealM);
  const { samples, hours, hourOf, weight } = year.sky;
  const warm = hours.map(({ record }) => WEATHER.values.dryBulb[record]!);
  const [lit, whole] = [
    [0, 0],
    [0, 0],
  ] as [number[], number[]];
  for (let d = 0; d < samples.suns; d++) {
    const cosine = -samples.vectors[d * 3 + 1]!;
    const celsius = warm[hourOf[d]!]!;
    const set = celsius > 20 ? 0 : celsius < 12 ? 1 : null;
    if (set === null || !(cosine > 0) || !(weight[d]! > 0)) continue;
    const [glass] = glassInSun(shaded, 'a', NONE, hours[hourOf[d]!]!.sun!.atMs);
    whole[set]! += weight[d]! * cosine;
    lit[set]! += (weight[d]! * cosine * glass!.sunlitM2) / glass!.areaM2;
  }
  return [lit[0]! / whole[0]!, lit[1]! / whole[1]!];
}

test.each<[string, DeviceMake, number]>([
  ['louvres as close as they are deep', louvres(0.15), 0],
  ['fins', FINS, 0.12],
  ['an eggcrate', GRATE, 0.12],
])(
  '%s: shares of the year within 0.5 points of exact polygons at every sun, 2 points in motion',
  (_, make, revealM) => {
    const exact = exactShares(make, revealM);
    for (const [precision, points] of [
      [AT_REST, 0.005],
      [IN_MOTION, 0.02],
    ] as const) {
      const { reading } = read(make, precision, revealM);
      reading.sets.forEach(({ shaded, whole, error }, k) => {
        const off = Math.abs(shaded / whole - exact[k]!);
        expect(off).toBeLessThan(points);
        // The error that is told holds, but for what a polygon at the edge of a slat and a ray differ by.
        expect(off).toBeLessThan(error / whole + 0.0008);
      });
    }
  },
);

test('louvres farther and farther apart: what a sweep lets in rises as the exact curve does', () => {
  const project = wide(louvres(0.2));
  const [place] = placesOf(project);
  const [device] = project.options.find(({ id }) => id === 'a')!.schemes[0]!.devices;
  const sweep = new DeviceSweep(asked(project), place!, device!, { unwanted: SETS[0]!, wanted: SETS[1]! });
  const spacings = Array.from({ length: 21 }, (_, i) => 0.15 + i * 0.01);
  const found = spacings.map((spacingM) => sweep.read(louvres(spacingM)));
  found.forEach((one, i) => {
    expect(one.error.keptOut).toBeLessThan(0.02);
    if (i % 10 !== 0) return;
    const [unwanted, wanted] = exactShares(louvres(spacings[i]!));
    expect(Math.abs(1 - unwanted - one.keptOut)).toBeLessThan(0.005);
    expect(Math.abs(wanted - one.letIn!)).toBeLessThan(0.005);
  });
});

test('the same window has the same gain, whoever is asked: the study, its room, the reading, four thousand points', () => {
  const hung = wide(SHELF, 0.12);
  const places = placesOf(hung);
  const id = openingTargetId(places[0]!);
  const reference = new GlassYear(asked(hung), places, {
    together: 4096,
    least: 4096,
    most: 4096,
    parts: 4096,
    rays: { together: 8192, least: 8192, most: 8192 },
  });
  const exact = new GlassReader(reference, hung, WEATHER).gainsOf(reference.bare).get(id)!;
  const gain = windowYears(hung, 'a', NONE, places, WEATHER).get(id)!;
  const room = roomYear(
    hung,
    'a',
    NONE,
    roomsIn(hung, 'a', NONE).find(({ openings }) => openings.length > 0)!,
    { ...ROOM_PRESETS.new, blindsPass: 1 },
    WEATHER,
  );
  const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);
  const figures: [number, number][] = [
    [gain.kWh, gain.error],
    [sum(room.solar), room.error.solar],
  ];
  for (const spacingM of [0.1, 3]) {
    const { asked: measured, study } = openingsYear(hung, 'a', { owners: null }, {}, spacingM);
    const plan = planStudy(measured, 'a', study, NONE, WEATHER);
    const { energy } = summarize(plan, runStudy(measured, plan, NONE));
    figures.push([energy!.kWh, energy!.error!]);
  }
  for (const [kWh, error] of figures) {
    expect(Math.abs(kWh / exact.kWh - 1)).toBeLessThan(0.01);
    expect(Math.abs(kWh - exact.kWh)).toBeLessThan(error + exact.error);
    expect(error / exact.kWh).toBeLessThan(0.02);
  }
  gain.months.forEach((kWh, m) => expect(Math.abs(kWh / exact.months[m]! - 1)).toBeLessThan(0.02));
});

test('a shelf that is moved takes no area of the glass with it: its gains change no more than they do', () => {
  const gains = [0.6, 0.65, 0.7, 0.75, 0.8].map((heightM) => {
    const hung = wide({ ...SHELF, heightM });
    const [gain] = windowYears(hung, 'a', NONE, placesOf(hung), WEATHER).values();
    return gain!.kWh;
  });
  gains.forEach((kWh, i) => i > 0 && expect(Math.abs(kWh / gains[i - 1]! - 1)).toBeLessThan(0.02));
});

test('with twice the points the error falls, and the error that is told holds for nineteen in twenty', () => {
  const makes = [louvres(0.15), louvres(0.2), louvres(0.35), FINS, SHELF, GRATE, { ...OVERHANG, sideM: 0.3 }];
  const project = wide(null, 0.12);
  const places = placesOf(project);
  const sharesOf = (points: number) => {
    const precision = { together: points, least: points, most: points, parts: 1024, rays: IN_MOTION.rays };
    const year = new GlassYear(asked(project), places, precision);
    const reader = new GlassReader(year, project, WEATHER);
    return makes.flatMap((make) =>
      reader
        .read(year.past([deviceSolid({ make }, places)]))
        .sets.map(({ shaded, whole, error }) => ({ share: shaded / whole, error: error / whole })),
    );
  };
  const converged = sharesOf(4096);
  const off = (points: number) =>
    sharesOf(points).map(({ share, error }, i) => ({ off: Math.abs(share - converged[i]!.share), error }));
  const rounds = [32, 128, 512].map(off);
  const root = (all: { off: number }[]) =>
    Math.sqrt(all.reduce((s, one) => s + one.off ** 2, 0) / all.length);
  expect(root(rounds[1]!)).toBeLessThan(root(rounds[0]!) / 2);
  expect(root(rounds[2]!)).toBeLessThan(root(rounds[1]!) / 2);
  const all = rounds.flat();
  const held = all.filter((one) => one.off <= one.error + 1e-4);
  expect(held.length / all.length).toBeGreaterThanOrEqual(0.95);
});

test('the error of equal parts is nothing, and of parts that differ it is twice that of all of them', () => {
  expect(partsError(new Float64Array(POINT_PARTS).fill(3))).toBe(0);
  // Parts of 1 ± 0.1: eight times one of them is off by 0.8, all together by 0.8/8^¾, twice that is told.
  const parts = Float64Array.from({ length: 8 }, (_, b) => 1 + (b % 2 ? 0.1 : -0.1));
  const deviation = 0.8 * Math.sqrt(8 / 7);
  expect(partsError(parts)).toBeCloseTo((2 * deviation) / 8 ** 0.75, 12);
});
