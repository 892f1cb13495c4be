import { block, opening, rect, rule } from '../../testing/blocks';
import { NONE } from '../../testing/shaded-house';
import { addMass } from '../document';
import {
  type Device,
  type DeviceMake,
  emptyProject,
  type Mass,
  type Opening,
  type Project,
} from '../project';
import {
  glazedPlaces,
  placesBeside,
  placesOfDevice,
  standingScheme,
  tooManyBoxes,
  tooManyDevices,
  withoutDevices,
} from './device-places';
import { deviceStations } from './device-stations';

// A bar of 10 × 8 m, two storeys of 3 m: three windows and a gap in its south wall, one each to the east and upstairs.
const host = (edge: number, storey: number) => ({ on: 'wall' as const, ring: 0, edge, storey });
const WINDOWS: Opening[] = [
  opening('west', rect(0.5, 1, 1.5, 1.5), { revealM: 0.1 }),
  opening('middle', rect(3, 0.5, 2, 2), { revealM: 0.3 }),
  opening('gap', rect(6, 0.1, 1, 2.4), { kind: 'void', glazing: null }),
  opening('leaf', rect(7.5, 0.1, 0.5, 2.4), { kind: 'door', glazing: null }),
  opening('high', rect(8.5, 2.6, 1, 0.3)),
  opening('up', rect(2, 1, 4, 1), { host: host(0, 1), revealM: 0.2 }),
  opening('east', rect(2, 1, 1, 1), { host: host(1, 0) }),
];

function bar(more: Partial<Mass> = {}): Project {
  const empty = emptyProject('P', 2026);
  const mass: Mass = { ...block('bar', 0, 0, 10, 8), openings: WINDOWS, ...more };
  const other: Mass = { ...block('other', 40, 0, 10, 8), openings: [opening('own', rect(1, 1, 2, 1))] };
  return addMass('a', other)(addMass('a', mass)(empty));
}

const LOUVRES: DeviceMake = {
  kind: 'louvres',
  lie: 'level',
  slatM: 0.1,
  spacingM: 0.1,
  tiltDeg: 0,
  thicknessM: 0.002,
  offM: 0,
  aroundM: 0,
};
const device = (
  more: Partial<Omit<Device, 'scope'>> & { scope?: Partial<Device['scope']> } = {},
): Device => ({
  id: 'd',
  name: 'Device',
  openings: null,
  make: LOUVRES,
  ...more,
  scope: { owners: null, sectors: null, storeys: null, ...more.scope },
});

const bodies = (project = bar()) => glazedPlaces(project, 'a', NONE);
const meant = (of: Device, project = bar(), north = 0) =>
  placesOfDevice(of, bodies(project), north).map(({ opening: { id } }) => id);

test('a device hangs on what is glazed of the option itself, in the order of its bodies and walls', () => {
  expect(meant(device())).toEqual(['west', 'middle', 'high', 'up', 'east', 'own']);
  expect(meant(device({ scope: { owners: ['other'] } }))).toEqual(['own']);
  expect(meant(device({ scope: { storeys: [1] } }))).toEqual(['up']);
  expect(meant(device({ scope: { walls: ['bar/0/1'] } }))).toEqual(['east']);
  expect(meant(device({ scope: { sectors: ['east'] } }))).toEqual(['east']);
  // Where the drawing's top is west, its right-hand wall faces north.
  expect(meant(device({ scope: { sectors: ['north'] } }), bar(), 90)).toEqual(['east']);
});

test('openings are taken one by one, or left alone, by body and by name', () => {
  const one = { owner: 'bar', opening: 'middle' };
  expect(meant(device({ openings: [one] }))).toEqual(['middle']);
  expect(meant(device({ openings: [] }))).toEqual([]);
  expect(meant(device({ openings: [{ owner: 'other', opening: 'middle' }] }))).toEqual([]);
  expect(meant(device({ except: [one, { owner: 'bar', opening: 'own' }] }))).toEqual([
    'west',
    'high',
    'up',
    'east',
    'own',
  ]);
  expect(meant(device({ openings: [one], scope: { storeys: [1] } }))).toEqual([]);
});

test('the way to the next opening goes to the nearest that stands as high; voids and doors count', () => {
  const next = Object.fromEntries(
    bodies().flatMap(({ places }) => places.map(({ opening: { id }, box }) => [id, box.nextM])),
  );
  expect(next).toEqual({ west: 1, middle: 1, high: null, up: null, east: null, own: null });
  const [first] = bodies();
  expect(first!.places.map(({ box }) => box.revealM)).toEqual([0.1, 0.3, 0.1, 0.2, 0.1]);
  expect(first!.places[1]!.box).toMatchObject({ u0: 3, v0: 0.5, u1: 5, v1: 2.5 });
  // One that ends at the sill or begins at the head does not stand as high.
  const close = bar({
    openings: [
      opening('a', rect(1, 1, 1, 1)),
      opening('over', rect(2.5, 2, 1, 0.5)),
      opening('under', rect(2.5, 0.1, 1, 0.9)),
      opening('b', rect(4, 1.5, 1, 1)),
      opening('c', rect(5.5, 0.5, 1, 1.2)),
    ],
  });
  const ways = bodies(close)[0]!.places.map(({ opening: { id }, box }) => [id, box.nextM]);
  expect(ways).toEqual([
    ['a', 2],
    ['over', 0.5],
    ['under', 2],
    ['b', 0.5],
    ['c', null],
  ]);
});

test('a device of some rooms hangs on their openings only, on both storeys of a tall one', () => {
  // A wall from south to north at x = 5.5 on both storeys.
  const partition = (storey: number) => ({
    id: `p${storey}`,
    storey,
    path: [
      [5.5, 0],
      [5.5, 8],
    ] as [number, number][],
  });
  const rooms = (doubleHeight: boolean) => [
    { id: 'left', name: 'Left', storey: 0, at: [2, 4] as [number, number], doubleHeight },
    { id: 'right', name: 'Right', storey: 0, at: [8, 4] as [number, number], doubleHeight: false },
  ];
  const project = (doubleHeight: boolean) =>
    bar({ partitions: [partition(0), partition(1)], rooms: rooms(doubleHeight) });
  const of = (owner: string, room: string) => device({ scope: { rooms: [{ owner, room }] } });
  expect(meant(of('bar', 'left'), project(false))).toEqual(['west', 'middle']);
  expect(meant(of('bar', 'right'), project(false))).toEqual(['high', 'east']);
  // Open to the storey above: its window up there too (its middle at 4 m lies on the left).
  expect(meant(of('bar', 'left'), project(true))).toEqual(['west', 'middle', 'up']);
  expect(meant(of('other', 'left'), project(true))).toEqual([]);
  expect(meant(of('bar', 'nowhere'), project(true))).toEqual([]);
  expect(meant(device({ scope: { rooms: null } }), project(true))).toHaveLength(6);
  const both = [
    { owner: 'bar', room: 'left' },
    { owner: 'bar', room: 'right' },
  ];
  expect(meant(device({ scope: { rooms: both } }), project(false))).toEqual([
    'west',
    'middle',
    'high',
    'east',
  ]);
});

test('what hangs beside is on the same storey of the wall, or on the whole wall where it runs along that', () => {
  const found = bodies();
  const middle = found[0]!.places.find(({ opening: { id } }) => id === 'middle')!;
  const beside = (of: Device) => placesBeside(of, middle, found, 0).map(({ opening: { id } }) => id);
  expect(beside(device())).toEqual(['west', 'middle', 'high']);
  expect(beside(device({ along: 'storey' }))).toEqual(['west', 'middle', 'high']);
  expect(beside(device({ along: 'facade' }))).toEqual(['west', 'middle', 'high', 'up']);
  // That one is always among them, though the device leaves it alone.
  expect(beside(device({ openings: [{ owner: 'bar', opening: 'west' }] }))).toEqual(['west', 'middle']);
});

test('a station at each opening; or one along a storey, one along a wall: from end to end, over all its openings', () => {
  const places = placesOfDevice(device({ scope: { owners: ['bar'] } }), bodies(), 0);
  const each = deviceStations({}, places);
  expect(each.map(({ box }) => box)).toEqual(places.map(({ box }) => box));
  expect(each.map(({ face }) => face.key)).toEqual(places.map(({ face }) => face.key));
  const along = (how: Device['along']) =>
    deviceStations({ along: how }, places).map(({ face, box }) => ({ key: face.key, ...box }));
  expect(along('opening')).toHaveLength(5);
  const storey = along('storey');
  expect(storey).toEqual([
    // The least reveal of those it runs over: in none of them may it begin behind the pane.
    { key: 'wall/0/0/0', u0: 0, u1: 10, v0: 0.5, v1: 2.9, revealM: 0.1 },
    { key: 'wall/0/0/1', u0: 0, u1: 10, v0: 1, v1: 2, revealM: 0.2 },
    { key: 'wall/0/1/0', u0: 0, u1: 8, v0: 1, v1: 2, revealM: 0.1 },
  ]);
  const [south, east] = along('facade');
  // From the lowest floor on: the upper sill and head lie 3 m higher.
  expect(south).toEqual({ key: 'wall/0/0/0', u0: 0, u1: 10, v0: 0.5, v1: 5, revealM: 0.1 });
  expect(east).toEqual(storey[2]);
  // Whichever comes first.
  const [turned] = deviceStations({ along: 'facade' }, [...places].reverse().slice(1));
  expect([turned!.face.key, turned!.box]).toEqual([
    'wall/0/0/0',
    { u0: 0, u1: 10, v0: 0.5, v1: 5, revealM: 0.1 },
  ]);
});

test('walls of two bodies with the same number are no run', () => {
  const places = placesOfDevice(device(), bodies(), 0).filter(({ face }) => face.key === 'wall/0/0/0');
  for (const along of ['storey', 'facade'] as const) {
    const stations = deviceStations({ along }, places);
    expect(stations.map(({ box: { v0, v1 } }) => [v0, v1])).toEqual([
      [0.5, 2.9],
      [1, 2],
    ]);
    // Each on its own wall, which begins where its body does.
    expect(stations.map(({ face }) => face.origin[0])).toEqual([0, 40]);
  }
});

test('solids are counted over all stations and all positions of what turns, and told beyond what is built', () => {
  const scheme = (make: DeviceMake, along?: Device['along']) => ({
    id: 's',
    name: 'S',
    devices: [device({ make, along }), device({ id: 'e', make, along })],
  });
  const fine: DeviceMake = { ...LOUVRES, spacingM: 0.01, thicknessM: 0.001 };
  expect(tooManyBoxes(scheme(fine), bodies(), 0)).toBeNull();
  // 19.99 m more on each side at 0.01 m: slats for each of six openings, twice.
  const many: DeviceMake = { ...fine, aroundM: 19.99 };
  const heights = [1.5, 2, 0.3, 1, 1, 1];
  const slats = heights.map((height) => Math.round((height + 2 * 19.99) / 0.01) + 1);
  const once = slats.reduce((sum, n) => sum + n);
  expect(once).toBeLessThan(60_000);
  expect(tooManyBoxes(scheme(many), bodies(), 0)).toBeNull();
  // Turning between three tilts, at rest among them, three times as many.
  const turning: DeviceMake = { ...many, turning: { fromDeg: -5, toDeg: 5 } };
  expect(tooManyBoxes(scheme(turning), bodies(), 0)).toBe(2 * 3 * once);
  expect(tooManyDevices(2 * 3 * once)).toContain(
    `come to ${(6 * once).toLocaleString('en')} plates and slats; at most 60,000`,
  );
});

test('the scheme that stands is the one that the option names; without devices there is none, and nothing marked as one', () => {
  const project = bar();
  const option = project.options.find(({ id }) => id === 'a')!;
  expect(standingScheme(project, 'a')).toBeNull();
  const scheme = (id: string) => ({ id, name: id, devices: [device()] });
  const marked: Mass = { ...block('fin', 60, 0, 1, 1), device: true };
  const model = (id: string, device: boolean) => ({
    ...{ id, name: id, mesh: 'f'.repeat(64), triangles: 1, move: [0, 0, 0] as [number, number, number] },
    ...{ turnDeg: 0, openness: 0, openings: [], demolished: false, device },
  });
  const shaded: Project = {
    ...project,
    options: project.options.map((one) =>
      one === option
        ? {
            ...one,
            schemes: [scheme('s'), scheme('t')],
            scheme: 't',
            masses: [...one.masses, marked],
            models: [model('screen', true), model('wing', false)],
          }
        : one,
    ),
  };
  expect(standingScheme(shaded, 'a')?.id).toBe('t');
  const bare = withoutDevices(shaded, 'a');
  expect(standingScheme(bare, 'a')).toBeNull();
  const of = (from: Project) => from.options.find(({ id }) => id === 'a')!;
  expect(of(bare).masses.map(({ id }) => id)).toEqual(['bar', 'other']);
  expect(of(bare).models.map(({ id }) => id)).toEqual(['wing']);
  expect(of(bare).schemes).toBe(of(shaded).schemes);
  for (const one of bare.options) if (one.id !== 'a') expect(shaded.options).toContain(one);
  // Windows by rule are of the option as well; of what only stands around none is.
  const ruled: Project = {
    ...project,
    neighbours: [
      { ...block('next', 80, 0, 4, 4), kind: 'building', openings: [opening('theirs', rect(1, 1, 1, 1))] },
    ],
    options: project.options.map((one) =>
      one === option
        ? {
            ...one,
            rules: [
              rule(
                { by: 'size', widthM: 1, heightM: 1, sillM: 1, spacingM: 4, jambM: 0.5 },
                { owners: ['other'], sectors: ['west'] },
              ),
            ],
          }
        : one,
    ),
  };
  const names = bodies(ruled).flatMap(({ places }) => places.map(({ owner }) => owner.name));
  expect(new Set(names)).toEqual(new Set(['BAR', 'OTHER']));
  expect(names.filter((name) => name === 'OTHER').length).toBeGreaterThan(2);
});
