import { anglesAt, at, house, NONE, OVERHANG } from '../../testing/shaded-house';
import { opening, rect } from '../../testing/blocks';
import { RAD } from '../civil';
import { cutOffOf, deviceStations, glazedPlaces, placesOfDevice, withoutDevices } from '../devices';
import type { Device, DeviceMake, Project } from '../project';
import { parseProject, splitBodyEdge } from '../document';
import { assembleScene, type Piece } from '../scene';
import { glassInSun } from './glass-sun';

/** Share of the window in sun. */
function lit(make: DeviceMake | null, ms: number, revealM = 0): number {
  const [found] = glassInSun(house(make, revealM), 'a', NONE, ms);
  return found!.sunlitM2 / found!.areaM2;
}

/** The device of the house, changed. */
function withDevice(project: Project, change: Partial<Device>): Project {
  Object.assign(project.options.find(({ id }) => id === 'a')!.schemes[0]!.devices[0]!, change);
  return project;
}

const plate = (outline: [number, number][], more: object = {}): DeviceMake => ({
  kind: 'plate',
  aboveM: 0.1,
  offM: 0,
  tiltDeg: 0,
  thicknessM: 0.05,
  outlines: [{ outer: outline, holes: [] }],
  ...more,
});
const box = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

test('a plate of the outline of an overhang shades as that does, either way round, and with a hole less', () => {
  const overhang: DeviceMake = { ...OVERHANG, sideM: 0.5 };
  for (const hour of [10, 12, 14.5]) {
    const whole = lit(overhang, at(hour));
    const outline = box(-1.5, 0, 1.5, 0.6);
    expect(lit(plate(outline), at(hour))).toBeCloseTo(whole, 4);
    expect(lit(plate([...outline].reverse()), at(hour))).toBeCloseTo(whole, 4);
    const holed = plate(outline, { outlines: [{ outer: outline, holes: [box(-1, 0.2, 1, 0.4)] }] });
    expect(lit(holed, at(hour))).toBeGreaterThan(whole);
  }
});

test('a plate in front of the glass, straight down, is a closed solid whose shadow is its outline moved along the sun', () => {
  const ms = at(12);
  const { hsaDeg, vsaDeg } = anglesAt(ms, house(null));
  // From the head down 0.4 m, half a metre off the face; its thickness away from it.
  const make = plate(box(-4, 0, 4, 0.4), { aboveM: 0, offM: 0.5, tiltDeg: 90, thicknessM: 0.001 });
  const drop = 0.5 * Math.tan(vsaDeg! * RAD);
  expect(Math.abs(hsaDeg)).toBeLessThan(20);
  const shaded = Math.max(0, Math.min(1, drop + 0.4) - drop);
  expect(lit(make, ms)).toBeCloseTo(1 - shaded, 2);
  const { owners, pieces } = assembleScene(house(make), 'a', NONE);
  expect(volumeOf(pieces[owners.findIndex(({ layer }) => layer === 'devices')]!)).toBeCloseTo(
    8 * 0.4 * 0.001,
    6,
  );
});

/** Volume under the triangles of a closed solid whose faces look outwards. */
function volumeOf({ positions: p, opaque }: Piece): number {
  let six = 0;
  for (let t = 0; t < opaque; t++) {
    const [a, b, c] = [0, 3, 6].map((o) => [
      p[t * 9 + o]!,
      p[t * 9 + o + 1]!,
      p[t * 9 + o + 2]!,
    ]) as number[][];
    six +=
      a![0]! * (b![1]! * c![2]! - b![2]! * c![1]!) +
      a![1]! * (b![2]! * c![0]! - b![0]! * c![2]!) +
      a![2]! * (b![0]! * c![1]! - b![1]! * c![0]!);
  }
  return six / 6;
}

test('the volume of a plate with a hole in it, at any tilt', () => {
  for (const tiltDeg of [-90, -30, 0, 45, 90]) {
    const outlines = [{ outer: box(-1, 0, 1, 1), holes: [box(-0.5, 0.25, 0.5, 0.5)] }];
    const { owners, pieces } = assembleScene(house(plate([], { tiltDeg, outlines })), 'a', NONE);
    const piece = pieces[owners.findIndex(({ layer }) => layer === 'devices')]!;
    expect(volumeOf(piece)).toBeCloseTo((2 - 0.25) * 0.05, 6);
  }
});

test('a reveal: what of the glass is in sun is (W − D tan HSA)(H − D tan VSA)', () => {
  for (const hour of [9.5, 11, 13, 15]) {
    const { hsaDeg, vsaDeg } = anglesAt(at(hour), house(null));
    const depthM = 0.3;
    const across = Math.max(0, 2 - depthM * Math.abs(Math.tan(hsaDeg * RAD)));
    const down = Math.max(0, 1 - depthM * Math.tan(vsaDeg! * RAD));
    expect(lit({ kind: 'reveal', depthM, thicknessM: 0.05 }, at(hour))).toBeCloseTo((across * down) / 2, 3);
  }
  expect(
    cutOffOf({ kind: 'reveal', depthM: 0.5, thicknessM: 0.05 }, { u0: 0, v0: 0, u1: 1, v1: 1, revealM: 0.5 }),
  ).toEqual({
    vsaDeg: expect.closeTo(45, 6),
    hsaRightDeg: expect.closeTo(45, 6),
    hsaLeftDeg: expect.closeTo(45, 6),
  });
});

test('a screen lets its openness through, and what the depth of its holes leaves of it under a slanting sun', () => {
  const screen: DeviceMake = { kind: 'screen', openness: 0.4, holeDepth: 0, offM: 0.2, aroundM: 20 };
  expect(lit(screen, at(10))).toBeCloseTo(0.4, 3);
  const ms = at(12);
  const { altitudeDeg, hsaDeg } = anglesAt(ms, house(null));
  const incidence = Math.acos(Math.cos(altitudeDeg * RAD) * Math.cos(hsaDeg * RAD));
  const expected = 0.4 * Math.max(0, 1 - 0.2 * Math.tan(incidence));
  expect(lit({ ...screen, holeDepth: 0.2 }, ms)).toBeCloseTo(expected, 3);
});

test('a perforated panel as geometry and as a screen agree within 2 %', () => {
  // Square holes of 36 mm every 40 mm, as deep as a quarter of their width; the sun as square as it comes.
  let ms = at(12);
  for (let step = 0; step < 120 && Math.abs(anglesAt(ms, house(null)).hsaDeg) > 0.3; step++) ms += 60_000;
  const [hole, web, depthM] = [0.036, 0.004, 0.009];
  const panel: DeviceMake = {
    kind: 'eggcrate',
    depthM,
    columnM: hole + web,
    rowM: hole + web,
    thicknessM: web,
  };
  const openness = (hole / (hole + web)) ** 2;
  const geometry = lit(panel, ms);
  const screen = lit({ kind: 'screen', openness, holeDepth: depthM / hole, offM: 0, aroundM: 1 }, ms);
  expect(Math.abs(geometry - screen)).toBeLessThan(0.02);
  expect(geometry).toBeLessThan(openness - 0.1);
});

test('an overhang of slats: upright they shade what their shadows cover, closed they shade as the plate', () => {
  const closed: DeviceMake = {
    ...OVERHANG,
    sideM: 5,
    thicknessM: 0.01,
    slats: { slatM: 0.1, spacingM: 0.1, turnDeg: 0 },
  };
  expect(lit(closed, at(11))).toBeCloseTo(lit({ ...OVERHANG, sideM: 5, thicknessM: 0.01 }, at(11)), 2);
  const open: DeviceMake = { ...closed, slats: { slatM: 0.05, spacingM: 0.1, turnDeg: 0 } };
  const plateShade = 1 - lit({ ...OVERHANG, sideM: 5, thicknessM: 0.01 }, at(11));
  const slatShade = 1 - lit(open, at(11));
  expect(slatShade).toBeGreaterThan(0.3 * plateShade);
  expect(slatShade).toBeLessThan(0.8 * plateShade);
});

test('a canopy shades as an overhang, but for its posts; a balcony over the window as one at its slab', () => {
  const canopy: DeviceMake = {
    kind: 'canopy',
    depthM: 0.6,
    aboveM: 0.1,
    sideM: 2,
    thicknessM: 0.05,
    tiltDeg: 0,
    postM: 0.05,
    downM: 1,
  };
  expect(lit(canopy, at(12))).toBeCloseTo(lit({ ...OVERHANG, sideM: 2 }, at(12)), 4);
  expect(lit(canopy, at(9))).toBeLessThanOrEqual(lit({ ...OVERHANG, sideM: 2 }, at(9)) + 1e-6);
  const rail = (railOpenness: number): DeviceMake => ({
    kind: 'balcony',
    depthM: 1,
    belowM: 0,
    sideM: 1,
    thicknessM: 0.2,
    railM: 0.9,
    railOpenness,
  });
  const winter = Date.parse('2026-12-20T12:00:00+01:00');
  const [solid, open, without] = [rail(0), rail(0.5), { ...rail(0), railM: 0 } as DeviceMake].map((make) =>
    lit(make, winter),
  );
  expect(without).toBeCloseTo(1, 6);
  expect(solid!).toBeLessThan(open!);
  expect(open! - solid!).toBeCloseTo(0.5 * (without! - solid!), 1);
});

/** The house with three windows in its storey and one above. */
function row(device: Partial<Device>, make: DeviceMake): Project {
  const project = withDevice(house(make), device);
  const [mass] = project.options.find(({ id }) => id === 'a')!.masses;
  mass!.openings = [0.5, 4, 8].map((u, i) => opening(`o${i}`, rect(u, 1, 1.5, 1)));
  mass!.openings.push(
    opening('up', rect(4, 1, 1.5, 1), { host: { on: 'wall', ring: 0, edge: 0, storey: 1 } }),
  );
  return project;
}

test('along a storey or a facade one device stands over all of its openings; between them fins stand midway', () => {
  const places = (project: Project) => glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  const slab = row({ along: 'storey' }, OVERHANG);
  const stations = deviceStations({ along: 'storey' }, places(slab));
  expect(stations.map(({ box: b }) => [b.u0, b.u1, b.v0, b.v1])).toEqual([
    [0, 10, 1, 2],
    [0, 10, 1, 2],
  ]);
  const [whole] = deviceStations({ along: 'facade' }, places(slab));
  expect([whole!.box.u0, whole!.box.u1, whole!.box.v0, whole!.box.v1]).toEqual([0, 10, 1, 5]);
  const fins: DeviceMake = {
    kind: 'fins',
    at: 'between',
    depthM: 0.5,
    gapM: 0,
    aboveM: 0,
    belowM: 0,
    thicknessM: 0.1,
    turnDeg: 0,
  };
  const { owners, pieces } = assembleScene(row({}, fins), 'a', NONE);
  const piece = pieces[owners.findIndex(({ layer }) => layer === 'devices')]!;
  // Two fins below, none above: x of their middles half way between 2 and 4, and between 5.5 and 8.
  expect(piece.opaque).toBe(24);
  const xs = new Set(
    Array.from({ length: piece.opaque * 3 }, (_, i) => Number(piece.positions[i * 3]!.toFixed(6))),
  );
  expect([...xs].sort((a, b) => a - b)).toEqual([2.95, 3.05, 6.7, 6.8]);
});

test('a body marked as a device stands on the layer of devices, and is gone without them', () => {
  const project = house(null);
  const option = project.options.find(({ id }) => id === 'a')!;
  const [mass] = option.masses;
  const hood = { ...mass!, id: 'hood', name: 'Hood', openings: [], device: true };
  hood.footprint = {
    outer: [
      [0, -1],
      [10, -1],
      [10, -0.01],
      [0, -0.01],
    ],
    holes: [],
  };
  hood.base = { on: 'level', levelM: 2.1 };
  hood.storeys = [{ ...mass!.storeys[0]!, heightM: 0.3 }];
  option.masses = [mass!, hood];
  expect(
    parseProject(JSON.parse(JSON.stringify(project))).options.find(({ id }) => id === 'a')!.masses[1]!.device,
  ).toBe(true);
  expect(assembleScene(project, 'a', NONE).owners.find(({ id }) => id === 'hood')!.layer).toBe('devices');
  const [glass] = glassInSun(project, 'a', NONE, at(12));
  expect(glass!.bareM2).toBeCloseTo(2, 6);
  expect(glass!.sunlitM2).toBeLessThan(1.5);
  expect(withoutDevices(project, 'a').options.find(({ id }) => id === 'a')!.masses).toHaveLength(1);
});

test('a device hangs on picked walls, in named rooms, and leaves single openings alone', () => {
  const hung = (change: Partial<Device>) => {
    const project = row(change, OVERHANG);
    const [mass] = project.options.find(({ id }) => id === 'a')!.masses;
    mass!.partitions = [
      {
        id: 'p',
        storey: 0,
        path: [
          [3, 0],
          [3, 8],
        ],
      },
    ];
    mass!.rooms = [{ id: 'small', name: 'Small', storey: 0, at: [1, 4], doubleHeight: false }];
    const [scheme] = project.options.find(({ id }) => id === 'a')!.schemes;
    return placesOfDevice(scheme!.devices[0]!, glazedPlaces(project, 'a', NONE), 0).map(
      ({ opening: { id } }) => id,
    );
  };
  const scope = { owners: null, sectors: null, storeys: null };
  expect(hung({})).toEqual(['o0', 'o1', 'o2', 'up']);
  expect(hung({ scope: { ...scope, walls: ['m/0/1'] } })).toEqual([]);
  expect(hung({ scope: { ...scope, walls: ['m/0/0'], storeys: [1] } })).toEqual(['up']);
  expect(hung({ scope: { ...scope, rooms: [{ owner: 'm', room: 'small' }] } })).toEqual(['o0']);
  expect(hung({ except: [{ owner: 'm', opening: 'o1' }] })).toEqual(['o0', 'o2', 'up']);
});

test('a wall that is split goes on being meant by a device that names it, in both halves', () => {
  const scope = { owners: null, sectors: null, storeys: null, walls: ['m/0/0'] };
  const split = splitBodyEdge({ optionId: 'a', id: 'm' }, 0, 0)(row({ scope }, OVERHANG));
  const { walls } = split.options.find(({ id }) => id === 'a')!.schemes[0]!.devices[0]!.scope;
  expect(walls).toHaveLength(2);
  expect(walls![0]).toBe('m/0/0');
});
