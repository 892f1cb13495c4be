import fc from 'fast-check';
import { onOpenGround } from '../../../testing/blocks';
import { instantOf, RAD } from '../../civil';
import { add, addMass } from '../../document';
import {
  defaultMass,
  emptyProject,
  type Project,
  type Study,
  type Target,
  type WindowOfTime,
} from '../../project';
import { hourSky, skyVault } from '../../sky';
import { sunVector } from '../../sun';
import { climateAt, makeUpYear, shareInWindow, sunOfHours, type WeatherYear } from '../../weather';
import { planStudy, runStudy } from '../run-study';
import { STUDY_KINDS } from '.';

const NONE = new Map();
const YEAR: WindowOfTime = { from: '2026-01-01', to: '2026-12-31', startMinutes: 0, endMinutes: 1440 };
const PLACE = { name: 'Nowhere', latitudeDeg: 51.48, longitudeDeg: -0.1, standardTimeH: 0, elevationM: 20 };
const WEATHER = makeUpYear(PLACE, climateAt(51.48), 5, 2026);
const HOURS = sunOfHours(WEATHER, PLACE, 0, 2026).hours;
const sum = (values: ArrayLike<number>) => Array.from(values).reduce((a, b) => a + b, 0);

/** A square of 1 m², level, or tilted by so much from the level towards an azimuth. */
function plane(tiltDeg: number, azimuthDeg: number): Target {
  const [t, a] = [tiltDeg * RAD, azimuthDeg * RAD];
  const u: [number, number, number] = [-Math.cos(a), Math.sin(a), 0];
  const v: [number, number, number] = [-Math.sin(a) * Math.cos(t), -Math.cos(a) * Math.cos(t), Math.sin(t)];
  const outline: [number, number][] = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ];
  return {
    id: 't',
    name: 'Plane',
    kind: 'plane',
    origin: [0, 0, 30],
    u,
    v,
    outline,
    holes: [],
    spacingM: 1,
    offsetM: 0.01,
    of: null,
  };
}

/** Three weeks about the equinox: as much as a test needs of the sky. */
const MARCH: WindowOfTime = { ...YEAR, from: '2026-03-12', to: '2026-04-01' };

function project(kind: Study['kind'], target: Target, window = MARCH): Project {
  const made = emptyProject('P', 2026);
  made.site.place = { ...made.site.place, ...PLACE, zone: 'Europe/London' };
  const study: Study = {
    id: 's',
    name: 'Study',
    kind,
    targets: ['t'],
    window,
    stepMinutes: 10,
    criterion: { atLeast: 1, share: 0.5, source: '' },
    scale: null,
  };
  return add('studies', study)(add('targets', target)(made));
}

const inMarch = ({ record }: { record: number }) => {
  const day = WEATHER.month[record]! * 100 + WEATHER.day[record]!;
  return day >= 312 && day <= 401;
};

function run(p: Project, weather: WeatherYear | null = WEATHER) {
  const plan = planStudy(p, 'a', p.studies[0]!, NONE, weather);
  const values = runStudy(p, plan, NONE);
  return { plan, at: Object.fromEntries(Object.entries(values).map(([key, all]) => [key, all[0]!])) };
}

test('an open level plane gets the sums of the file', () => {
  const { at, plan } = run(project('insolation', plane(0, 180), YEAR));
  const { global, beam, diffuse } = WEATHER.values;
  expect(at.insolation! / (sum(global) / 1000)).toBeCloseTo(1, 2);
  expect(Math.abs(at.insolation! / (sum(global) / 1000) - 1)).toBeLessThan(0.005);
  expect(Math.abs(at.sky! / (sum(diffuse) / 1000) - 1)).toBeLessThan(0.001);
  expect(at.ground).toBeCloseTo(0, 6);
  expect(at.beam! + at.sky! + at.ground!).toBeCloseTo(at.insolation!, 3);
  expect(plan.directions.count).toBeGreaterThan(4000);
  expect(sum(beam)).toBeGreaterThan(0);
});

test.each([
  [90, 180],
  [90, 0],
  [90, 75],
  [35, 200],
  [60, 310],
])('tilted %d° towards %d° it gets what the same sky gives by direct quadrature', (tilt, azimuth) => {
  const { at } = run(project('insolation', plane(tilt, azimuth)));
  // Plain loops over hours and the finest vault, no tree and no masks; the plane has the sky before it and nothing else.
  const vault = skyVault(4);
  const n = [
    Math.sin(tilt * RAD) * Math.sin(azimuth * RAD),
    Math.sin(tilt * RAD) * Math.cos(azimuth * RAD),
    Math.cos(tilt * RAD),
  ];
  const cosine = (x: number, y: number, z: number) => Math.max(0, n[0]! * x + n[1]! * y + n[2]! * z);
  let [beam, sky, ground] = [0, 0, 0];
  const one = new Float64Array(vault.count);
  for (const hour of HOURS.filter(inMarch)) {
    ground += (0.2 * hour.globalHorizontal * (1 - n[2]!)) / 2;
    if (hour.sun)
      beam += hour.beamNormal * cosine(...sunVector(hour.sun.altitudeDeg, hour.sun.azimuthDeg, 0));
    if (hour.diffuseHorizontal <= 0) continue;
    hourSky(vault, hour, one);
    for (let p = 0; p < vault.count; p++)
      sky += one[p]! * cosine(vault.vectors[p * 3]!, vault.vectors[p * 3 + 1]!, vault.vectors[p * 3 + 2]!);
  }
  expect(at.beam! / (beam / 1000)).toBeCloseTo(1, 4);
  // As it is traced, and as a formula of open ground has it.
  expect(Math.abs(at.ground! / (ground / 1000) - 1)).toBeLessThan(0.002);
  const open = run(onOpenGround(project('insolation', plane(tilt, azimuth)))).at;
  expect(open.ground! / (ground / 1000)).toBeCloseTo(1, 4);
  expect(Math.abs(at.insolation! / ((beam + sky + ground) / 1000) - 1)).toBeLessThan(0.005);
});

test('windows of time add up to the whole, by the clocks of the site', () => {
  const total = (window: Partial<WindowOfTime>) =>
    run(project('insolation', plane(90, 180), { ...MARCH, ...window })).at.insolation!;
  const whole = total({});
  expect(total({ endMinutes: 750 }) + total({ startMinutes: 750 })).toBeCloseTo(whole, 2);
  expect(total({ to: '2026-03-20' }) + total({ from: '2026-03-21' })).toBeCloseTo(whole, 2);
});

test('the share of an hour goes by daylight saving, and a window over the turn of the year by its days', () => {
  const p = project('insolation', plane(0, 180));
  const hour = (iso: string) =>
    ({ startMs: Date.parse(iso) }) as Parameters<ReturnType<typeof shareInWindow>['shareOf']>[0];
  const noon = shareInWindow(
    [{ from: '2026-07-01', to: '2026-07-01', startMinutes: 720, endMinutes: 810 }],
    p.site,
  ).shareOf;
  // 12:00 of summer time is 11:00 UTC.
  expect(instantOf('2026-07-01', 720, 'Europe/London')).toBe(Date.parse('2026-07-01T11:00Z'));
  expect(['10', '11', '12', '13'].map((h) => noon(hour(`2026-07-01T${h}:00Z`)))).toEqual([0, 1, 0.5, 0]);
  const winter = shareInWindow(
    [{ from: '2026-12-01', to: '2027-02-28', startMinutes: 0, endMinutes: 1440 }],
    p.site,
  ).shareOf;
  const hours = HOURS;
  expect(hours.reduce((all, one) => all + winter(one), 0)).toBeCloseTo((31 + 31 + 28) * 24, 6);
});

test('obstructions only take, and what is behind the wall does not count', () => {
  const size = fc.integer({ min: 3, max: 25 });
  const open = run(onOpenGround(project('insolation', plane(90, 180)))).at;
  fc.assert(
    fc.property(fc.integer({ min: -25, max: 15 }), size, size, (x, width, distance) => {
      const block = {
        ...defaultMass(
          'b',
          'Block',
          [
            [x, -distance - 5],
            [x + width, -distance - 5],
            [x + width, -distance],
            [x, -distance],
          ],
          1,
          45,
        ),
      };
      const { at } = run(onOpenGround(addMass('a', block)(project('insolation', plane(90, 180)))));
      for (const key of ['beam', 'sky', 'insolation'] as const)
        expect(at[key]!).toBeLessThanOrEqual(open[key]! + 1e-3);
      expect(at.ground).toBeCloseTo(open.ground!, 6);
    }),
    { numRuns: 4, endOnFailure: true },
  );
});

describe('probable sunlight', () => {
  test('is whole on open level ground, and its winter half is the share of the hours of winter', () => {
    const { at, plan } = run(project('probable-sun', plane(0, 180)));
    const shining = HOURS.filter(({ sun, beamNormal }) => sun && beamNormal >= 120);
    const { share } = plan.directions as unknown as { share: Float64Array };
    expect(share.filter((part) => part > 0)).toHaveLength(shining.length);
    expect(at.year).toBe(100);
    const winter = shining.filter(({ record }) => {
      const day = WEATHER.month[record]! * 100 + WEATHER.day[record]!;
      return day >= 921 || day < 321;
    });
    expect(Math.abs(at.winter! - (100 * winter.length) / shining.length)).toBeLessThan(0.2);
  });

  test('walls to the north and south share it; a wall counts the hours with sun before it', () => {
    const shining = HOURS.filter(({ sun, beamNormal }) => sun && beamNormal >= 120);
    const before = shining.filter(({ sun }) => Math.cos((sun!.azimuthDeg - 180) * RAD) > 0);
    const south = run(project('probable-sun', plane(90, 180))).at;
    const north = run(project('probable-sun', plane(90, 0))).at;
    expect(south.year).toBeCloseTo((100 * before.length) / shining.length, 1);
    expect(south.year! + north.year!).toBeCloseTo(100, 1);
    expect(south.winter!).toBeGreaterThan(north.winter!);
  });

  test('in the south the winter half is that of the south', () => {
    const place = { ...PLACE, latitudeDeg: -33 };
    const weather = makeUpYear(place, climateAt(-33), 2, 2026);
    const p = project('probable-sun', plane(0, 0));
    const moved = { ...p, site: { ...p.site, place: { ...p.site.place, latitudeDeg: -33, zone: 'UTC' } } };
    const { at } = run(moved, weather);
    expect(at.winter).toBeGreaterThan(15);
    expect(at.winter).toBeLessThan(50);
  });
});

test('without a weather year they are refused; one from far away is said, and so is a split', () => {
  for (const kind of Object.values(STUDY_KINDS).filter((one) => one.needsWeather && !one.check)) {
    const p = project(kind.kind, plane(0, 180));
    expect(() => run(p, null)).toThrow('has no weather year');
    const far = { ...WEATHER, place: { ...PLACE, latitudeDeg: 55, name: 'Farther' } };
    expect(run(p, far).plan.notes.join(' ')).toMatch(/taken 39\d km from the site, at Farther/);
    const blank = new Float64Array(8760).fill(NaN);
    const globalOnly = { ...WEATHER, values: { ...WEATHER.values, beam: blank, diffuse: blank } };
    expect(run(p, globalOnly).plan.notes.join(' ')).toContain('Erbs');
    const usual = run(p, { ...WEATHER, place: null }).plan.notes;
    const always = /^(The sky is taken in 4,096 directions|What the ground and what stands about throw back)/;
    expect(usual.filter((note) => !always.test(note))).toEqual([]);
  }
});
