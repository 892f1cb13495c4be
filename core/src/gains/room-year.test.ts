import { block, opening, rect } from '../../testing/blocks';
import { addMass } from '../document';
import { emptyProject, type Project, type Study } from '../project';
import { roomsIn } from '../shade';
import { planStudy, runStudy, summarize } from '../study';
import { climateAt, makeUpYear } from '../weather';
import { ROOM_PRESETS } from './assumptions';
import { roomEnvelope, zoneOf } from './room-envelope';
import { roomYear } from './room-year';

const NONE = new Map();
const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);

/** Two storeys of 10 × 8 × 3 m, a window of 2 × 1.5 m to the south in each; a partition halves the upper one. */
function house(devices = false): Project {
  const made = emptyProject('P', 2026);
  made.site.place = { ...made.site.place, ...PLACE, zone: 'Etc/GMT-1' };
  const window = (id: string, storey: number) =>
    opening(id, rect(2, 1, 2, 1.5), { host: { on: 'wall', ring: 0, edge: 0, storey } });
  const mass = {
    ...block('m', 0, 0, 10, 8),
    openings: [window('low', 0), window('high', 1)],
    partitions: [
      {
        id: 'p',
        storey: 1,
        path: [
          [5, 0],
          [5, 8],
        ] as [number, number][],
      },
    ],
  };
  const project = addMass('a', mass)(made);
  const option = project.options.find(({ id }) => id === 'a')!;
  option.schemes = [
    {
      id: 's',
      name: 'S',
      devices: [
        {
          id: 'd',
          name: 'Overhang',
          scope: { owners: null, sectors: null, storeys: null },
          openings: null,
          make: { kind: 'overhang', depthM: 1, aboveM: 0, sideM: 1, thicknessM: 0.1, tiltDeg: 0 },
        },
      ],
    },
  ];
  option.scheme = devices ? 's' : null;
  return project;
}

const project = house();
const rooms = roomsIn(project, 'a', NONE);
const room = (storey: number, withWindow = true) =>
  rooms.find(({ shape, openings }) => shape.storey === storey && openings.length > 0 === withWindow)!;

test('the envelope of a room by hand', () => {
  // All of the lowest storey: 36 m of wall 3 m high, less the window; no roof, all of the ground.
  expect(roomEnvelope(project, 'a', NONE, room(0))).toMatchObject({
    floorM2: 80,
    volumeM3: 240,
    windowsM2: 3,
    wallsM2: 105,
    roofM2: 0,
    groundM2: 80,
  });
  // The western half above: 5 + 8 + 5 m of outer wall; the partition is none.
  const west = roomEnvelope(project, 'a', NONE, room(1));
  expect(west).toMatchObject({ floorM2: 40, volumeM3: 120, windowsM2: 3, roofM2: 40, groundM2: 0 });
  expect(west.wallsM2).toBeCloseTo(18 * 3 - 3, 6);
  expect(roomEnvelope(project, 'a', NONE, room(1, false)).wallsM2).toBeCloseTo(18 * 3, 6);
  const zone = zoneOf(west, ROOM_PRESETS.new);
  expect(zone.hWindows).toBeCloseTo(3.3, 9);
  expect(zone.hOpaque).toBeCloseTo(51 * 0.2 + 40 * 0.15, 6);
  expect(zone.hVentilation).toBeCloseTo(0.33 * 0.6 * 120, 9);
});

test('gains hour by hour add up to the solar gain of the study, month by month', () => {
  const year = roomYear(project, 'a', NONE, room(0), ROOM_PRESETS.new, WEATHER);
  expect(year.outdoorC).toHaveLength(8760);
  const target = {
    id: 't',
    name: 'Window',
    kind: 'openings' as const,
    among: 'option' as const,
    scope: { owners: null, sectors: null, storeys: [0], walls: null, except: [] },
    withinM: null,
    facing: false,
    at: 'grid' as const,
    spacingM: 0.25,
    offsetM: 0.01,
  };
  const study: Study = {
    id: 's',
    name: 'Gain',
    kind: 'solar-gain',
    targets: ['t'],
    window: { from: '2026-01-01', to: '2026-12-31', startMinutes: 0, endMinutes: 1440 },
    stepMinutes: 60,
    criterion: { atLeast: 0, share: 0, source: '' },
    scale: null,
  };
  const asked = { ...project, targets: [target], studies: [study] };
  const plan = planStudy(asked, 'a', study, NONE, WEATHER);
  const { energy } = summarize(plan, runStudy(asked, plan, NONE));
  // By other points of the same glass: within what both may be off by.
  expect(Math.abs(year.solar.reduce((all, kWh) => all + kWh, 0) - energy!.kWh)).toBeLessThan(
    year.error.solar + energy!.error!,
  );
  year.solar.forEach((kWh, m) => expect(Math.abs(kWh / energy!.months[m]! - 1)).toBeLessThan(0.005));
  const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);
  expect(sum(year.heating)).toBeCloseTo(year.heatingW.reduce((all, one) => all + one, 0) / 1000, 6);
});

test('devices let in less, cool less and heat more; a room without a window says so', () => {
  const bare = roomYear(project, 'a', NONE, room(1), ROOM_PRESETS.new, WEATHER);
  const shaded = roomYear(house(true), 'a', NONE, room(1), ROOM_PRESETS.new, WEATHER);
  const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);
  expect(sum(shaded.solar)).toBeLessThan(sum(bare.solar) * 0.9);
  expect(sum(shaded.cooling)).toBeLessThan(sum(bare.cooling));
  expect(sum(shaded.heating)).toBeGreaterThanOrEqual(sum(bare.heating));
  expect(shaded.tooWarmH).toBeLessThanOrEqual(bare.tooWarmH);
  // Kept between its set-points where there is power enough.
  expect(Math.max(...bare.insideC)).toBeLessThan(26.0001);
  expect(Math.min(...bare.insideC)).toBeGreaterThan(19.9999);
  const dark = roomYear(project, 'a', NONE, room(1, false), ROOM_PRESETS.old, WEATHER);
  expect(sum(dark.solar)).toBe(0);
  expect(dark.notes.join()).toContain('has no window');
});

test('blinds come down in the hours of strong sun, and let their share of those pass', () => {
  const open = roomYear(project, 'a', NONE, room(0), ROOM_PRESETS.new, WEATHER);
  const blinds = { ...ROOM_PRESETS.new, blindsWm2: 200, blindsPass: 0.25 };
  const shut = roomYear(project, 'a', NONE, room(0), blinds, WEATHER);
  const windowsM2 = open.envelope.windowsM2;
  let down = 0;
  open.beamW.forEach((beam, i) => {
    const whole = beam + open.skyW[i]! + open.groundW[i]!;
    const isDown = whole > 200 * windowsM2;
    if (isDown) down++;
    expect(shut.beamW[i]! + shut.skyW[i]! + shut.groundW[i]!).toBeCloseTo(whole * (isDown ? 0.25 : 1), 6);
  });
  expect(down).toBeGreaterThan(50);
  expect([open.blindsDownH, shut.blindsDownH]).toEqual([0, down]);
  const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);
  expect(sum(shut.cooling)).toBeLessThan(sum(open.cooling));
});

test('hours are of local standard time, and a missing temperature is that of the hour before', () => {
  const holed = { ...WEATHER, values: { ...WEATHER.values, dryBulb: WEATHER.values.dryBulb.slice() } };
  const { dryBulb } = holed.values;
  for (const record of [0, 1, 2, 100]) dryBulb[record] = NaN;
  const dark = roomYear(project, 'a', NONE, room(1, false), ROOM_PRESETS.old, holed);
  const { month, day, hour, outdoorC } = dark;
  expect([month[0], day[0], hour[0]]).toEqual([1, 1, 0]);
  expect([month[8759], day[8759], hour[8759]]).toEqual([12, 31, 23]);
  expect([month[24 * 31 + 5], day[24 * 31 + 5], hour[24 * 31 + 5]]).toEqual([2, 1, 5]);
  expect([...outdoorC.slice(0, 4)]).toEqual([0, 1, 2, 3].map(() => dryBulb[3]));
  expect(outdoorC[100]).toBe(dryBulb[99]);
  expect(dark.notes.join(' ')).toContain('In 4 hours the file has no temperature');
  const whole = roomYear(project, 'a', NONE, room(1, false), ROOM_PRESETS.old, WEATHER);
  expect(whole.notes.join(' ')).not.toContain('no temperature');
  // Without glass there are no points that it could be off by.
  expect(whole.error).toEqual({ heating: 0, cooling: 0, solar: 0 });
});

test('what sums may be off by is a small part of them, and goes with the blinds; too warm is told without cooling', () => {
  const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);
  const open = roomYear(project, 'a', NONE, room(0), ROOM_PRESETS.new, WEATHER);
  expect(open.notes.join(' ')).not.toContain('has no window');
  for (const what of ['solar', 'heating', 'cooling'] as const) {
    expect(open.error[what]).toBeGreaterThan(sum(open[what]) * 1e-6);
    expect(open.error[what]).toBeLessThan(sum(open[what]) * 0.02);
  }
  // Blinds that are down whenever there is any light let their share of each part through.
  const always = { ...ROOM_PRESETS.new, blindsWm2: 0, blindsPass: 0.25 };
  const shut = roomYear(project, 'a', NONE, room(0), always, WEATHER);
  expect(shut.error.solar / open.error.solar).toBeCloseTo(0.25, 6);
  const lit = open.beamW.filter((beam, i) => beam + open.skyW[i]! + open.groundW[i]! > 0).length;
  expect(shut.blindsDownH).toBe(lit);
  const never = { ...ROOM_PRESETS.new, coolC: 1000 };
  const warm = roomYear(project, 'a', NONE, room(0), never, WEATHER);
  expect(open.tooWarmH).toBe(warm.insideC.filter((air) => air > 26).length);
  expect(open.tooWarmH).toBeGreaterThan(10);
});
