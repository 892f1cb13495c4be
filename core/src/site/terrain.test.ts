import fc from 'fast-check';
import { editSite, problems } from '../document';
import { massLevels } from '../form';
import { defaultMass, emptyProject, type Terrain } from '../project';
import { assembleScene } from '../scene';
import { firstBlock, sceneObstacles } from '../trace';
import { groundLevel, groundNormal } from './ground';

/** A plane that falls by one in ten towards +x, as scattered spot heights. */
const PLANE: Terrain = {
  kind: 'terrain',
  points: Array.from({ length: 64 }, (_, i): [number, number, number] => {
    const x = (i % 8) * 10 + Math.sin(i * 12.9) * 3;
    const y = Math.floor(i / 8) * 10 + Math.cos(i * 78.2) * 3;
    return [x, y, 20 - x / 10];
  }),
};

/** A ridge along y at x = 0, 12 m high and 40 m wide. */
const RIDGE: Terrain = {
  kind: 'terrain',
  points: [-60, -20, 0, 20, 60].flatMap((x) =>
    [-80, -40, 0, 40, 80].map((y): [number, number, number] => [x, y, x === 0 ? 12 : 0]),
  ),
};

test('between spot heights of a plane the ground is that plane', () => {
  const within = fc.double({ min: 8, max: 62, noNaN: true });
  fc.assert(
    fc.property(within, within, (x, y) => {
      expect(groundLevel(PLANE, [x, y])).toBeCloseTo(20 - x / 10, 9);
      const n = groundNormal(PLANE, [x, y]);
      expect(n[0] / n[2]).toBeCloseTo(0.1, 9);
    }),
  );
});

test('every spot height is kept, and far away the ground goes on', () => {
  for (const [x, y, z] of RIDGE.points) expect(groundLevel(RIDGE, [x, y])).toBeCloseTo(z, 9);
  expect(groundLevel(RIDGE, [900, 0])).toBeCloseTo(0, 6);
  expect(groundLevel(RIDGE, [-900, 300])).toBeCloseTo(0, 6);
});

test('a building sits on the highest ground under its walls and reaches down to the lowest', () => {
  const astride = defaultMass(
    'm',
    'M',
    [
      [-10, -5],
      [10, -5],
      [10, 5],
      [-10, 5],
    ],
    1,
  );
  const levels = massLevels(astride, RIDGE);
  expect(levels.floorM).toBeCloseTo(12, 9);
  expect(levels.bottomM).toBeCloseTo(6, 9);
});

test('a terrain casts: behind the ridge the low sun is hidden, the high sun is not', () => {
  const project = editSite({ ground: RIDGE })(emptyProject('E', 2026));
  const { tree } = sceneObstacles(assembleScene(project, 'today', new Map()));
  const rise = (deg: number) =>
    [-Math.cos((deg * Math.PI) / 180), 0, Math.sin((deg * Math.PI) / 180)] as const;
  // From 40 m east of the crest, 0.1 m above level ground, the crest stands at atan(11.9 / 40) = 16.6°.
  expect(firstBlock(tree, 40, 3, 0.1, ...rise(16.4))).toBeGreaterThanOrEqual(0);
  expect(firstBlock(tree, 40, 3, 0.1, ...rise(16.8))).toBe(-1);
});

test('two heights at one place are refused with the place', () => {
  const bad = { ...RIDGE, points: [...RIDGE.points, [0, 0, 5] as [number, number, number]] };
  const project = editSite({ ground: bad })(emptyProject('E', 2026));
  expect(problems(project)).toEqual(['The terrain has two heights at (0.00, 0.00); keep one of them.']);
});
