import { found, plane, rect, type Vector } from '../../testing/one-sensor';
import { type Box, byPaths } from '../../testing/plain-paths';
import { defaultMass, type Mass } from '../project';

const FACADES = 0.3;
const ALBEDO = 0.2;

/** A box as a mass of the project and as what paths meet. */
function boxOf(id: string, x0: number, y0: number, x1: number, y1: number, top: number, base = 0) {
  const mass: Mass = defaultMass(id, id, rect(x0, y0, x1, y1), 1, top - base);
  return {
    mass: base > 0 ? { ...mass, base: { on: 'level', levelM: base } as const } : mass,
    box: { low: [x0, y0, base], high: [x1, y1, top], reflectance: FACADES } as Box,
  };
}

/** Where what is thrown back was asked for: the place, which way it faces, what stands there. */
const PLACES: [string, Vector, number | null, ReturnType<typeof boxOf>[]][] = [
  [
    'a wall with a block ten metres before it',
    [0, -0.002, 4],
    180,
    [boxOf('own', -8, 0, 8, 6, 9), boxOf('opposite', -12, -16, 12, -10, 12)],
  ],
  [
    'a wall under a plate',
    [0.4, -0.002, 2],
    180,
    [boxOf('own', -8, 0, 8, 6, 9), boxOf('plate', -8, -3, 8, 0, 3.2, 3)],
  ],
  [
    'a court of 6 m, on a wall low down',
    [5.998, 2, 1.5],
    270,
    [
      boxOf('s', -1, -1, 7, 0, 12),
      boxOf('n', -1, 6, 7, 7, 12),
      boxOf('w', -1, 0, 0, 6, 12),
      boxOf('e', 6, 0, 7, 6, 12),
    ],
  ],
  [
    'the ground of a street',
    [3, 2.5, 0.02],
    null,
    [boxOf('a', -60, -9, 60, 0, 14), boxOf('b', -60, 9, 60, 18, 11)],
  ],
  [
    'a wall of a street, north side',
    [3, 8.998, 6],
    180,
    [boxOf('a', -60, -9, 60, 0, 14), boxOf('b', -60, 9, 60, 18, 11)],
  ],
  [
    'a roof beside a tower',
    [4, 3, 6.02],
    null,
    [boxOf('roof', -2, -2, 9, 8, 6), boxOf('tower', 2, 8, 12, 16, 30)],
  ],
];

test.each(PLACES)('what is thrown back is that of plain paths: %s', (_, at, facing, bodies) => {
  const { target, normal } = plane(at, facing);
  const own = found(
    target,
    bodies.map(({ mass }) => mass),
  );
  const paths = byPaths(
    at,
    normal,
    bodies.map(({ box }) => box),
    ALBEDO,
  );
  const whole = paths.ground + paths.standing;

  expect(Math.abs(own.ground / whole - 1)).toBeLessThan(0.05);
});

test('what is thrown back goes by the reflectances, and is nothing without any', () => {
  const [, at, facing, bodies] = PLACES[0]!;
  const { target } = plane(at, facing);
  const masses = bodies.map(({ mass }) => mass);
  const as = (albedo: number, facades: number) =>
    found(target, masses, (site) => ({ ...site, albedo, reflectances: { ...site.reflectances, facades } }));
  const usual = as(0.2, 0.3);
  expect(usual.ground).toBeGreaterThan(usual.facing);
  expect(usual.facing).toBeGreaterThan(0);
  expect(as(0, 0).ground).toBe(0);
  expect(as(0, 0.3).ground).toBeCloseTo(usual.facing, 4);
  expect(as(0.4, 0.3).ground).toBeCloseTo(2 * usual.ground - usual.facing, 3);
  expect(as(0.2, 0.6).facing).toBeCloseTo(2 * usual.facing, 3);
  // Beam and sky are their own.
  expect(as(0, 0).insolation).toBeCloseTo(usual.beam + usual.sky, 3);
});

test('what stands and throws nothing back takes from what the ground does', () => {
  const { target } = plane([0, -0.002, 4], 180);
  const black = (masses: Mass[]) =>
    found(target, masses, (site) => ({ ...site, reflectances: { ...site.reflectances, facades: 0 } })).ground;
  const own = boxOf('own', -8, 0, 8, 6, 9).mass;
  let before = black([own]);
  for (const [far, top] of [
    [-30, 6],
    [-12, 6],
    [-12, 20],
    [-4, 20],
  ] as const) {
    const now = black([own, boxOf('opposite', -20, far - 5, 20, far, top).mass]);
    expect(now).toBeLessThan(before);
    before = now;
  }
});
