import { gridIn, nearEdge } from '../../testing/points-in';
import { instantOf, RAD } from '../civil';
import { areaWithHoles, contains, type Point3 } from '../geometry';
import { defaultMass, emptyProject, type Mass, type Opening, type Project } from '../project';
import { assembleScene } from '../scene';
import { shadowAngles, sunPosition, sunVector } from '../sun';
import { firstObstruction, sceneObstacles } from '../trace';
import { deepestSun, type RoomSun, sunInRooms } from './sun-in-rooms';

const NONE = new Map();
const rectangle = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

const SILL = 0.8;
const HEAD = 2.4;
const WIDTH = 2;

const window = (id: string, more: Partial<Opening> = {}): Opening => ({
  id,
  name: '',
  kind: 'window',
  host: { on: 'wall', ring: 0, edge: 0, storey: 0 },
  outline: { kind: 'rectangle', u: 3, v: SILL, widthM: WIDTH, heightM: HEAD - SILL },
  glazing: 'double',
  revealM: 0,
  openable: true,
  grid: null,
  ...more,
});

/** A room 8 m wide, so many deep, 3 m high, its window in the wall to the south. */
function withRoom(depthM: number, more: Partial<Mass> = {}, others: Mass[] = []): Project {
  const project = emptyProject('P', 2026);
  const mass: Mass = {
    ...defaultMass('m', 'House', rectangle(0, 0, 8, depthM), 1, 3),
    openings: [window('w')],
    ...more,
  };
  project.options[1]!.masses = [mass, ...others];
  return project;
}

function sunAt({ site }: Project, atMs: number) {
  const sun = sunPosition(atMs, site.place);
  const vector = sunVector(sun.altitudeDeg, sun.azimuthDeg, site.north.trueNorthDeg);
  const { hsaDeg, vsaDeg } = shadowAngles(sun.altitudeDeg, sun.azimuthDeg, 180);
  return { ...sun, vector, hsaDeg, tanVsa: vsaDeg === null ? NaN : Math.tan(vsaDeg * RAD), vsaDeg };
}
const at = (project: Project, date: string, minutes: number) =>
  instantOf(date, minutes, project.site.place.zone);
const sums = ({ surfaces }: RoomSun) => {
  const of = (kind: string) => surfaces.filter(({ surface }) => surface.kind === kind);
  const sum = (list: RoomSun['surfaces']) => list.reduce((all, { litM2 }) => all + litM2, 0);
  return {
    floor: sum(of('floor')),
    wall: sum(of('wall')),
    furniture: sum(of('furniture')),
    reveal: sum(of('reveal')),
  };
};

describe('the patch of a window on the floor', () => {
  const project = withRoom(30);
  // Hours at which the patch stays clear of the side walls.
  test.each([
    ['2026-03-21', 720],
    ['2026-06-21', 780],
    ['2026-11-02', 700],
  ])('%s at minute %d: width × height / tan VSA, as far in as the head over tan VSA', (date, minutes) => {
    const moment = at(project, date, minutes);
    const { tanVsa, vsaDeg } = sunAt(project, moment);
    const [room] = sunInRooms(project, 'a', NONE, moment);
    expect(Math.abs(sums(room!).floor / ((WIDTH * (HEAD - SILL)) / tanVsa) - 1)).toBeLessThan(1e-3);
    const { deepest } = room!;
    expect(deepest!.depthM).toBeCloseTo(HEAD / tanVsa, 3);
    expect(deepest!.vsaDeg).toBeCloseTo(vsaDeg!, 6);
    expect(deepest!.through[1]).toBeCloseTo(0, 6);
    expect(deepest!.through[2] - room!.room.floorM).toBeCloseTo(HEAD, 3);
    expect(deepest!.reachesWall).toBe(false);
    expect(deepest!.opening.id).toBe('w');
  });

  test('with a pane that stands back, the sill inside and the head outside bound it', () => {
    const deep = withRoom(30, { openings: [window('w', { revealM: 0.3 })] });
    const moment = at(deep, '2026-03-21', 720);
    const { tanVsa, vector } = sunAt(deep, moment);
    const [room] = sunInRooms(deep, 'a', NONE, moment);
    const along = HEAD / tanVsa - (0.3 + SILL / tanVsa);
    // The jamb on the sun's side takes a strip as wide as the pane stands back, times tan HSA.
    const width = WIDTH - 0.3 * Math.abs(vector[0] / vector[1]);
    expect(sums(room!).floor).toBeCloseTo(along * width, 2);
    expect(room!.deepest!.depthM).toBeCloseTo(HEAD / tanVsa, 3);
    expect(sums(room!).reveal).toBeGreaterThan(0);
  });

  test('where the room ends before, the rest of it stands on the back wall', () => {
    const moment = at(project, '2026-12-21', 720);
    const { tanVsa } = sunAt(project, moment);
    const depth = 5;
    expect(HEAD / tanVsa).toBeGreaterThan(depth);
    expect(SILL / tanVsa).toBeLessThan(depth);
    const [room] = sunInRooms(withRoom(depth), 'a', NONE, moment);
    const { floor, wall } = sums(room!);
    expect(floor).toBeCloseTo(WIDTH * (depth - SILL / tanVsa), 2);
    expect(wall).toBeCloseTo(WIDTH * (HEAD - depth * tanVsa), 2);
    expect(room!.deepest).toMatchObject({ reachesWall: true });
    expect(room!.deepest!.depthM).toBeCloseTo(depth, 3);
  });

  test('a desk in it takes its own light from the floor', () => {
    const moment = at(project, '2026-03-21', 720);
    const { tanVsa, vector } = sunAt(project, moment);
    // A desk 0.7 m high, with its foot and all its shadow on the floor within the patch.
    const y = (SILL + (HEAD - SILL - 0.7) / 2) / tanVsa;
    const x = 4 - (vector[0] / -vector[1]) * y;
    const desk = {
      id: 'd',
      name: 'Desk',
      storey: 0,
      at: [x, y] as [number, number],
      widthM: 0.6,
      depthM: 0.4,
      heightM: 0.7,
      turnDeg: 0,
    };
    const plain = sums(sunInRooms(project, 'a', NONE, moment)[0]!);
    const [room] = sunInRooms(withRoom(30, { furniture: [desk] }), 'a', NONE, moment);
    const { floor, furniture } = sums(room!);
    expect(furniture).toBeGreaterThan(0.6 * 0.4 - 1e-3);
    // What its top and its front take is missing on the floor behind: all rays are parallel.
    const onFloor = 0.6 * (0.4 + 0.7 / tanVsa) + 0.4 * 0.7 * Math.abs(vector[0] / vector[2]);
    expect(plain.floor - floor).toBeCloseTo(onFloor, 2);
  });
});

test('sunlit and shaded make the surface; what stands before the window takes from it', () => {
  const moment = at(withRoom(8), '2026-12-21', 720);
  const [open] = sunInRooms(withRoom(8), 'a', NONE, moment);
  for (const { surface, areaM2, litM2 } of open!.surfaces) {
    const whole = surface.parts.reduce(
      (sum, { regions }) => sum + regions.reduce((all, polygon) => all + areaWithHoles(polygon), 0),
      0,
    );
    expect(areaM2).toBeCloseTo(whole, 6);
    expect(litM2).toBeLessThanOrEqual(areaM2 + 1e-9);
  }
  expect(open!.surfaces.find(({ surface }) => surface.kind === 'floor')!.areaM2).toBeCloseTo(64, 6);
  const walls = open!.surfaces.filter(({ surface }) => surface.kind === 'wall');
  expect(walls.reduce((sum, { areaM2 }) => sum + areaM2, 0)).toBeCloseTo(
    4 * 8 * 3 - WIDTH * (HEAD - SILL),
    3,
  );
  const tower = defaultMass('t', 'Tower', rectangle(-20, -30, 30, -20), 1, 60);
  const [dark] = sunInRooms(withRoom(8, {}, [tower]), 'a', NONE, moment);
  expect(sums(dark!)).toEqual({ floor: 0, wall: 0, furniture: 0, reveal: 0 });
  expect(dark!.deepest).toBeNull();
});

test('the same house drawn turned against true north has the same sun in it', () => {
  const plain = withRoom(8);
  const turned = withRoom(8);
  turned.site.north.trueNorthDeg = 25;
  const turn = ([x, y]: [number, number]): [number, number] => {
    const [c, s] = [Math.cos(-25 * RAD), Math.sin(-25 * RAD)];
    return [x * c - y * s, x * s + y * c];
  };
  const [mass] = turned.options[1]!.masses;
  turned.options[1]!.masses = [
    { ...mass!, footprint: { ...mass!.footprint, outer: rectangle(0, 0, 8, 8).map(turn) } },
  ];
  for (const minutes of [600, 720, 860]) {
    const moment = at(plain, '2026-10-10', minutes);
    const [a] = sunInRooms(plain, 'a', NONE, moment);
    const [b] = sunInRooms(turned, 'a', NONE, moment);
    expect(sums(b!).floor).toBeCloseTo(sums(a!).floor, 2);
    expect(b!.deepest!.depthM).toBeCloseTo(a!.deepest!.depthM, 3);
  }
});

test('a mirrored house has the mirrored sun: morning in one is afternoon in the other', () => {
  const left = withRoom(8, {
    openings: [window('w', { outline: { kind: 'rectangle', u: 1, v: SILL, widthM: 2, heightM: 1.6 } })],
  });
  const right = withRoom(8, {
    openings: [window('w', { outline: { kind: 'rectangle', u: 5, v: SILL, widthM: 2, heightM: 1.6 } })],
  });
  // Bearings of the sun and its mirror image, by turning the hour about solar noon through the azimuth.
  const { site } = left;
  const noon = at(left, '2026-06-21', 0);
  const azimuthAt = (ms: number) => sunPosition(ms, site.place).azimuthDeg;
  const minuteOf = (azimuth: number) => {
    let [low, high] = [4 * 60, 21 * 60];
    while (high - low > 1e-4) {
      const middle = (low + high) / 2;
      if (azimuthAt(noon + middle * 60_000) < azimuth) low = middle;
      else high = middle;
    }
    return low;
  };
  const [am, pm] = [150, 210].map((azimuth) => noon + minuteOf(azimuth) * 60_000) as [number, number];
  const a = sunInRooms(left, 'a', NONE, am)[0]!;
  const b = sunInRooms(right, 'a', NONE, pm)[0]!;
  expect(sums(b).floor).toBeCloseTo(sums(a).floor, 1);
  expect(sums(a).floor).toBeGreaterThan(0.1);
});

describe('rooms', () => {
  test('behind a partition stay dark, and have the partition as a wall of theirs', () => {
    const project = withRoom(12, {
      partitions: [
        {
          id: 'p',
          storey: 0,
          path: [
            [0, 4],
            [8, 4],
          ],
        },
      ],
      rooms: [{ id: 'r', name: 'Ward', storey: 0, at: [4, 2], doubleHeight: false }],
    });
    const moment = at(project, '2026-12-21', 720);
    const [front, back] = sunInRooms(project, 'a', NONE, moment);
    expect([front!.room.name, back!.room.name]).toEqual(['Ward', 'Room 1.2']);
    expect([front!.room.key, back!.room.key]).toEqual(['m/0/0', 'm/0/1']);
    expect(sums(front!).floor).toBeGreaterThan(1);
    expect(sums(front!).wall).toBeGreaterThan(0.5);
    expect(sums(back!)).toMatchObject({ floor: 0, wall: 0 });
    expect(back!.room.openings).toEqual([]);
  });

  test('on both sides of a partition that a window straddles have the depth of the sun on their floor', () => {
    const path: [number, number][] = [
      [4, 0],
      [4, 12],
    ];
    const project = withRoom(12, { partitions: [{ id: 'p', storey: 0, path }] });
    const moment = at(project, '2026-12-21', 720);
    const { tanVsa } = sunAt(project, moment);
    const rooms = sunInRooms(project, 'a', NONE, moment);
    expect(rooms).toHaveLength(2);
    // One of them has the window by its middle; the sun of the other comes by the same.
    expect(rooms.map(({ room }) => room.openings.length + room.shared.length)).toEqual([1, 1]);
    for (const one of rooms) {
      expect(sums(one).floor).toBeGreaterThan(0.5);
      expect(one.deepest!.depthM).toBeCloseTo(Math.min(12, HEAD / tanVsa), 2);
    }
  });

  test('open to the storey above have walls two storeys high, and no floor stands over them', () => {
    const two = (doubleHeight: boolean) =>
      withRoom(8, {
        storeys: [{ heightM: 3 }, { heightM: 3 }],
        openings: [window('high', { host: { on: 'wall', ring: 0, edge: 0, storey: 1 } })],
        rooms: [{ id: 'r', name: 'Hall', storey: 0, at: [4, 4], doubleHeight }],
      });
    const moment = at(two(true), '2026-06-21', 780);
    const [hall, ...above] = sunInRooms(two(true), 'a', NONE, moment);
    expect(hall!.room.ceilingM - hall!.room.floorM).toBeCloseTo(6, 9);
    expect(hall!.room.openings.map(({ id }) => id)).toEqual(['high']);
    const { tanVsa } = sunAt(two(true), moment);
    expect(hall!.deepest!.depthM).toBeCloseTo((3 + HEAD) / tanVsa, 3);
    expect(above).toEqual([]);
    const [closed] = sunInRooms(two(false), 'a', NONE, moment);
    expect(sums(closed!).floor).toBe(0);
  });

  test('lit by a rooflight have a patch of its size, and no facade to measure from', () => {
    const project = withRoom(8, {
      openings: [
        window('top', {
          host: { on: 'roof', face: 0 },
          outline: { kind: 'rectangle', u: 3, v: 3, widthM: 1.5, heightM: 1 },
        }),
      ],
    });
    const [room] = sunInRooms(project, 'a', NONE, at(project, '2026-06-21', 780));
    expect(sums(room!).floor).toBeCloseTo(1.5, 3);
    expect(room!.deepest).toBeNull();
  });

  test('of what has no opening are none: it is solid', () => {
    expect(sunInRooms(withRoom(8, { openings: [] }), 'a', NONE, at(withRoom(8), '2026-06-21', 780))).toEqual(
      [],
    );
    expect(sunInRooms(withRoom(8), 'a', NONE, at(withRoom(8), '2026-06-21', 60))).toEqual([]);
  });
});

test('polygons on floor and walls agree with rays from a fine grid', () => {
  const project = withRoom(
    7,
    {
      openings: [
        window('w', { revealM: 0.2 }),
        window('e', {
          host: { on: 'wall', ring: 0, edge: 1, storey: 0 },
          outline: { kind: 'arch', u: 1, v: 0.9, widthM: 1.2, heightM: 1.7, riseM: 0.6 },
        }),
      ],
      partitions: [
        {
          id: 'p',
          storey: 0,
          path: [
            [5.5, 0],
            [5.5, 4],
            [8, 4],
          ],
        },
      ],
      furniture: [
        {
          id: 'd',
          name: 'Desk',
          storey: 0,
          at: [4, 1.5],
          widthM: 1.6,
          depthM: 0.8,
          heightM: 0.74,
          turnDeg: 20,
        },
      ],
    },
    [defaultMass('t', 'Tree house', rectangle(1, -9, 3, -7), 1, 5)],
  );
  const obstacles = sceneObstacles(assembleScene(project, 'a', NONE));
  const differing: unknown[] = [];
  let asked = 0;
  let lit = 0;
  for (const [date, minutes] of [
    ['2026-12-21', 660],
    ['2026-03-21', 620],
    ['2026-09-10', 800],
  ] as const) {
    const moment = at(project, date, minutes);
    const { vector } = sunAt(project, moment);
    for (const { surfaces } of sunInRooms(project, 'a', NONE, moment))
      for (const { surface, lit: polygons } of surfaces)
        for (const { normal, regions, lift, flat } of surface.parts) {
          if (normal[0] * vector[0] + normal[1] * vector[1] + normal[2] * vector[2] <= 1e-6) continue;
          for (const { outer } of regions)
            for (const p of gridIn(outer, 0.11)) {
              const [x, y, z] = lift(p);
              const from: Point3 = [x + normal[0] * 1e-5, y + normal[1] * 1e-5, z + normal[2] * 1e-5];
              const rings = polygons.map((one) => [one.outer, ...one.holes].map((ring) => ring.map(flat)));
              if (rings.flat().some((ring) => nearEdge(ring, p))) continue;
              const isLit = rings.some(
                ([out, ...holes]) => contains(out!, p) && !holes.some((hole) => contains(hole, p)),
              );
              if (isLit !== firstObstruction(obstacles, ...from, ...vector) < 0)
                differing.push([date, surface.name, ...p]);
              asked++;
              if (isLit) lit++;
            }
        }
  }
  expect(differing).toEqual([]);
  expect(asked).toBeGreaterThan(8000);
  expect(lit).toBeGreaterThan(150);
});

test('the deepest of a day is at the moment whose head over tan VSA is the greatest', () => {
  const project = withRoom(40);
  const moments = Array.from({ length: 13 }, (_, i) => at(project, '2026-03-21', 540 + i * 30));
  const depths = moments.map((moment) => {
    const { tanVsa } = sunAt(project, moment);
    const [room] = sunInRooms(project, 'a', NONE, moment);
    return room!.deepest && room!.deepest.depthM > HEAD / tanVsa - 0.01
      ? HEAD / tanVsa
      : (room!.deepest?.depthM ?? 0);
  });
  const seen: number[] = [];
  const [found] = deepestSun(project, 'a', NONE, moments, null, (share) => seen.push(share));
  expect(found!.best!.ray.depthM).toBeCloseTo(Math.max(...depths), 3);
  expect(found!.best!.moment).toBe(depths.indexOf(Math.max(...depths)));
  expect(found!.most!.litM2).toBeGreaterThan(1);
  expect(seen.at(-1)).toBe(1);
  expect(deepestSun(project, 'a', NONE, moments, new Set())).toEqual([]);
});
