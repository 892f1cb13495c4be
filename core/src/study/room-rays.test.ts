import {
  NONE,
  SILL,
  HEAD,
  WIDTH,
  HEIGHT,
  house,
  ASKED,
  NOON,
  sunAt,
  total,
  lands,
} from '../../testing/room-with-window';
import { RAD } from '../civil';
import type { Point3 } from '../geometry';
import { defaultMass } from '../project';
import { glassFactor } from '../scene';
import { sunInRooms } from '../shade';
import type { RaysAsked } from './rays-asked';
import { roomRays } from './room-rays';

test('what enters is the window × cosine; without reflections the floor gets what its sunlit patch says', () => {
  const project = house();
  const at = NOON(project);
  const { hsaDeg, altitudeDeg } = sunAt(project, at);
  const found = roomRays(project, 'a', NONE, at, { ...ASKED, spacingM: 0.05 })!;
  const cosine = Math.cos(altitudeDeg * RAD) * Math.cos(hsaDeg * RAD);
  expect(found.enters).toBeCloseTo(WIDTH * (HEAD - SILL) * cosine, 9);
  expect(found.rays).toBe(Math.round((WIDTH / 0.05) * ((HEAD - SILL) / 0.05)));
  // A sunlit patch of A m² takes A sin h of the beam.
  const [room] = sunInRooms(project, 'a', NONE, at);
  const patch = room!.surfaces.find(({ surface }) => surface.kind === 'floor')!.litM2;
  expect(lands(found, 'floor', 0) / (patch * Math.sin(altitudeDeg * RAD))).toBeCloseTo(1, 2);
  expect(total(found)).toBeCloseTo(found.enters, 9);
});

test('behind a reveal what enters is the glass in sun, however wide the grid is', () => {
  const project = house();
  project.options[1]!.masses[0]!.openings[0]!.kind = 'window';
  project.options[1]!.masses[0]!.openings[0]!.revealM = 0.3;
  project.glazings = project.glazings.map((one) => ({ ...one, visibleTransmittance: 1, frameShare: 0 }));
  const at = NOON(project, '2026-06-10', 14 * 60);
  const { hsaDeg, vsaDeg, altitudeDeg } = sunAt(project, at);
  const cosine = Math.cos(altitudeDeg * RAD) * Math.cos(hsaDeg * RAD);
  // Head and jamb of the reveal take (D tan HSA) and (D tan VSA) off the pane.
  const lit = (WIDTH - 0.3 * Math.tan(Math.abs(hsaDeg) * RAD)) * (HEAD - SILL - 0.3 * Math.tan(vsaDeg * RAD));
  const glass = Math.min(1, glassFactor(cosine));
  for (const spacingM of [0.05, 0.2, 0.33, 0.8]) {
    const found = roomRays(project, 'a', NONE, at, { ...ASKED, spacingM })!;
    expect(found.enters / (lit * cosine * glass)).toBeCloseTo(1, 3);
    expect(total(found)).toBeCloseTo(found.enters, 9);
  }
});

test('glass takes its share at the angle of incidence', () => {
  const at = NOON(house());
  const { hsaDeg, altitudeDeg } = sunAt(house(), at);
  const bare = roomRays(house(), 'a', NONE, at, ASKED)!;
  const glazed = house({}, 'double');
  const through = roomRays(glazed, 'a', NONE, at, ASKED)!;
  const glass = glazed.glazings.find(({ id }) => id === 'double')!;
  const cosine = Math.cos(altitudeDeg * RAD) * Math.cos(hsaDeg * RAD);
  const share = glass.visibleTransmittance * (1 - glass.frameShare) * glassFactor(cosine);
  expect(through.enters / bare.enters).toBeCloseTo(share, 9);
});

test.each([
  [0, 0.6, 0],
  [1, 0.6, 1],
  [2, 0.5, 0],
  [3, 0.7, 0.4],
  [3, 1, 1],
])(
  '%d reflections with a reflectance of %d, %d of it mirror-like: all that enters is accounted for',
  (bounces, reflectance, mirror) => {
    const project = house({
      furniture: [
        {
          id: 'd',
          name: 'Desk',
          storey: 0,
          at: [4, 2],
          widthM: 1.6,
          depthM: 0.8,
          heightM: 0.74,
          turnDeg: 15,
        },
      ],
    });
    const asked = { ...ASKED, spacingM: bounces > 2 ? 0.8 : 0.4, bounces, surfaces: { reflectance, mirror } };
    for (const [date, minutes] of [
      ['2026-03-21', 600],
      ['2026-12-21', 735],
      ['2026-06-21', 900],
    ] as const) {
      const found = roomRays(project, 'a', NONE, NOON(project, date, minutes), asked)!;
      expect(found.rays).toBeGreaterThan(3);
      expect(Math.abs(total(found) - found.enters)).toBeLessThan(1e-9);
      expect(found.misses).toBe(0);
    }
  },
);

test('a mirrored floor throws the patch to the ceiling where the mirrored ray meets it', () => {
  const project = house();
  const at = NOON(project, '2026-06-21', 780);
  const { vsaDeg } = sunAt(project, at);
  const found = roomRays(project, 'a', NONE, at, {
    ...ASKED,
    bounces: 1,
    surfaces: { reflectance: 1, mirror: 1 },
  })!;
  const up = found.stretches.filter(({ bounce }) => bounce === 1);
  expect(up.length).toBeGreaterThan(20);
  for (const { from, to } of up) {
    expect(to[2] - from[2]).toBeCloseTo(HEIGHT, 3);
    expect(to[1] - from[1]).toBeCloseTo(HEIGHT / Math.tan(vsaDeg * RAD), 2);
  }
  expect(lands(found, 'ceiling', 1)).toBeCloseTo(lands(found, 'floor', 0), 9);
});

describe('a strip', () => {
  const level = (y0: number, y1: number, z0: number, z1 = z0) => ({
    from: [4, y0, z0] as Point3,
    to: [4, y1, z1] as Point3,
    widthM: 0.5,
    reflectance: 0.9,
    mirror: 1,
  });
  const at = NOON(house(), '2026-06-21', 780);
  const sun = sunAt(house(), at);

  test('inside, level, throws what falls on it to the ceiling, H / tan VSA farther in', () => {
    const found = roomRays(house(), 'a', NONE, at, {
      ...ASKED,
      spacingM: 0.05,
      bounces: 1,
      strip: level(0.05, 0.5, 1.6),
    })!;
    const off = found.stretches.filter(({ from, bounce }) => bounce === 1 && Math.abs(from[2] - 1.6) < 0.01);
    expect(off.length).toBeGreaterThan(5);
    for (const { from, to } of off) {
      expect(to[2]).toBeCloseTo(HEIGHT, 3);
      expect(to[1] - from[1]).toBeCloseTo((HEIGHT - 1.6) / Math.tan(sun.vsaDeg * RAD), 2);
    }
    expect(lands(found, 'ceiling', 1)).toBeGreaterThan(0);
    expect(total(found)).toBeCloseTo(found.enters, 9);
  });

  test('tilted about the facade by β turns the projected angle by 2 β', () => {
    const beta = 10;
    const rise = 0.45 * Math.tan(beta * RAD);
    const found = roomRays(house(), 'a', NONE, at, {
      ...ASKED,
      spacingM: 0.05,
      bounces: 1,
      strip: level(0.05, 0.5, 1.6, 1.6 + rise),
    })!;
    // Rising inwards, the strip throws steeper: VSA′ = VSA + 2 β.
    const off = found.stretches.filter(
      ({ from, to, bounce }) => bounce === 1 && from[2] > 1.55 && from[2] < 1.75 && to[2] > HEIGHT - 0.01,
    );
    expect(off.length).toBeGreaterThan(5);
    for (const { from, to } of off)
      expect(Math.atan2(to[2] - from[2], to[1] - from[1]) / RAD).toBeCloseTo(sun.vsaDeg + 2 * beta, 1);
  });

  test('outside below the head throws in through the opening above it, reflected once', () => {
    const found = roomRays(house(), 'a', NONE, at, {
      ...ASKED,
      spacingM: 0.05,
      bounces: 1,
      strip: level(-0.6, -0.1, 1.2),
    })!;
    const plain = roomRays(house(), 'a', NONE, at, { ...ASKED, spacingM: 0.05, bounces: 1 })!;
    const inside = found.counts.reduce((sum, { lands: by }) => sum + by[1]!, 0);
    expect(inside).toBeGreaterThan(0);
    expect(lands(found, 'ceiling', 1)).toBeGreaterThan(lands(plain, 'ceiling', 1));
    // It takes from the direct sun what it stands before.
    expect(lands(found, 'floor', 0)).toBeLessThan(lands(plain, 'floor', 0));
    expect(total(found)).toBeCloseTo(found.enters, 9);
    const without = roomRays(house(), 'a', NONE, at, {
      ...ASKED,
      bounces: 0,
      strip: level(-0.6, -0.1, 1.2),
    })!;
    expect(without.misses).toBe(0);
  });

  test('that cannot be is refused in a sentence', () => {
    const ask = (more: Partial<RaysAsked>) => () => roomRays(house(), 'a', NONE, at, { ...ASKED, ...more });
    expect(ask({ spacingM: 0.001 })).toThrow('0.02 to 5 m');
    expect(ask({ bounces: 4 })).toThrow('0 to 3 reflections');
    expect(ask({ surfaces: { reflectance: 1.2, mirror: 0 } })).toThrow('from 0 to 1');
    expect(ask({ strip: level(1, 1, 1) })).toThrow('1 cm apart');
    expect(ask({ strip: { ...level(0, 1, 1), to: [5, 0, 1] } })).toThrow('must not run along the facade');
    expect(ask({ room: 'm/7/0' })).toThrow('no room');
    expect(ask({ opening: 'x' })).toThrow('has no opening “x”');
    expect(() =>
      roomRays(
        house({
          openings: house().options[1]!.masses[0]!.openings.map((o) => ({
            ...o,
            outline: { kind: 'rectangle', u: 0.3, v: 0.3, widthM: 7.4, heightM: 2.4 },
          })),
        }),
        'a',
        NONE,
        at,
        { ...ASKED, spacingM: 0.02 },
      ),
    ).toThrow('take a wider spacing');
  });
});

describe('a wall outside', () => {
  const wall = (y: number) =>
    defaultMass(
      'wall',
      'Wall',
      [
        [2, y],
        [6, y],
        [6, y + 1],
        [2, y + 1],
      ],
      1,
      8,
    );
  /** The house with its window to the north, and a wall 2 m before it that faces south. */
  const facing = () => {
    const [only] = house().options[1]!.masses[0]!.openings;
    const project = house({ openings: [{ ...only!, host: { on: 'wall', ring: 0, edge: 2, storey: 0 } }] });
    project.options[1]!.masses.push(wall(12));
    return project;
  };
  const at = NOON(facing(), '2026-06-21', 780);
  const mirror = (face: string): RaysAsked => ({
    ...ASKED,
    spacingM: 0.1,
    bounces: 1,
    surfaces: { reflectance: 0, mirror: 1 },
    wall: { owner: { optionId: 'a', id: 'wall' }, face, reflectance: 1, mirror: 1 },
  });

  test('that is a mirror lets into a north window what the sun lets into its image, a south window', () => {
    const found = roomRays(facing(), 'a', NONE, at, mirror('wall/0/0/0'))!;
    const image = roomRays(house(), 'a', NONE, at, { ...ASKED, spacingM: 0.05 })!;
    expect(found.enters / image.enters).toBeCloseTo(1, 2);
    expect(lands(found, 'floor', 1) / lands(image, 'floor', 0)).toBeCloseTo(1, 1);
    expect(lands(found, 'floor', 0)).toBe(0);
    expect(total(found)).toBeCloseTo(found.enters, 9);
    // All of the sun on the wall is accounted for: 4 m × 8 m less what the house shades, which is below its roof line.
    const { hsaDeg, vsaDeg, altitudeDeg } = sunAt(facing(), at);
    const lit = 4 * (8 - Math.max(0, HEIGHT - 2 * Math.tan(vsaDeg * RAD)));
    const beam = lit * Math.cos(altitudeDeg * RAD) * Math.cos(hsaDeg * RAD);
    expect((found.enters + found.misses) / beam).toBeCloseTo(1, 2);
  });

  test('turned from the sun gives nothing; its openings reflect nothing; one that is not there is refused', () => {
    expect(roomRays(facing(), 'a', NONE, at, mirror('wall/0/2/0'))!.misses).toBe(0);
    const windowed = facing();
    const whole = roomRays(facing(), 'a', NONE, at, mirror('wall/0/0/0'))!;
    const [only] = house().options[1]!.masses[0]!.openings;
    windowed.options[1]!.masses[1]!.openings = [
      { ...only!, id: 'hole', outline: { kind: 'rectangle', u: 0.5, v: 0.5, widthM: 3, heightM: 7 } },
    ];
    const rest = roomRays(windowed, 'a', NONE, at, mirror('wall/0/0/0'))!;
    expect((rest.enters + rest.misses) / (whole.enters + whole.misses)).toBeCloseTo(1 - 21 / 32, 1);
    expect(() => roomRays(facing(), 'a', NONE, at, mirror('wall/0/9/0'))).toThrow(
      'no wall “wall/wall/0/9/0”',
    );
    expect(() => roomRays(facing(), 'b', NONE, at, mirror('wall/0/0/0'))).toThrow();
    expect(() => {
      const asked = mirror('wall/0/0/0');
      return roomRays(facing(), 'a', NONE, at, { ...asked, wall: { ...asked.wall!, reflectance: 2 } });
    }).toThrow('from 0 to 1');
  });
});

test('at night there are none; a window in shade lets none in; a spread fan goes to every side', () => {
  const project = house();
  expect(roomRays(project, 'a', NONE, NOON(project, '2026-03-21', 60), ASKED)).toBeNull();
  const tower = defaultMass(
    't',
    'Tower',
    [
      [-20, -30],
      [30, -30],
      [30, -20],
      [-20, -20],
    ],
    1,
    90,
  );
  const shaded = house();
  shaded.options[1]!.masses.push(tower);
  expect(roomRays(shaded, 'a', NONE, NOON(project), ASKED)!.enters).toBe(0);
  const found = roomRays(project, 'a', NONE, NOON(project), {
    ...ASKED,
    bounces: 2,
    spacingM: 0.4,
    surfaces: { reflectance: 1, mirror: 0 },
  })!;
  // All sides of the room get some of what the floor spreads, and of what is spread again.
  for (const surface of ['ceiling', 'back wall', 'side walls', 'window wall'])
    expect(lands(found, surface, 1) + lands(found, surface, 2)).toBeGreaterThan(0);
});
