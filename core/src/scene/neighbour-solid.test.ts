import fc from 'fast-check';
import { LIME } from '../../testing/lime';
import type { FenceNeighbour, Ground, TreeNeighbour, WallNeighbour } from '../project';
import { groundLevel } from '../site';
import { fenceSolid, treeSolid, wallSolid } from './neighbour-solid';
import type { Piece, SurfaceKind } from './piece';

const LEVEL: Ground = { kind: 'level', levelM: 5 };
const SLOPE: Ground = { kind: 'plane', levelM: 5, slopeDeg: 10, fallsTowardsDeg: 90 };
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

function trianglesOf(piece: Piece, kind: SurfaceKind): Float64Array[] {
  return Array.from(piece.surfaceOf, (s, t) =>
    piece.surfaces[s]!.kind === kind ? [piece.positions.subarray(t * 9, t * 9 + 9)] : [],
  ).flat();
}

/** Volume that triangles enclose, positive where they face outwards. */
function volume(triangles: Float64Array[]): number {
  return triangles.reduce((sum, p) => {
    const [ax, ay, az, bx, by, bz, cx, cy, cz] = p as unknown as number[];
    return (
      sum +
      (ax! * (by! * cz! - bz! * cy!) - ay! * (bx! * cz! - bz! * cx!) + az! * (bx! * cy! - by! * cx!)) / 6
    );
  }, 0);
}

/** Edges that are not met by one running the other way. */
function openEdges(triangles: Float64Array[]): number {
  const edges = new Map<string, number>();
  for (const p of triangles)
    for (let k = 0; k < 3; k++) {
      const at = (i: number) => [0, 1, 2].map((n) => p[(i % 3) * 3 + n]!.toFixed(7)).join();
      const [a, b] = [at(k), at(k + 1)];
      edges.set(`${a}|${b}`, (edges.get(`${a}|${b}`) ?? 0) + 1);
      edges.set(`${b}|${a}`, (edges.get(`${b}|${a}`) ?? 0) - 1);
    }
  return [...edges.values()].filter((balance) => balance !== 0).length;
}

function wall(path: [number, number][], heightM = 2, thicknessM = 0.4): WallNeighbour {
  return { kind: 'wall', id: 'w', name: 'Wall', path, heightM, thicknessM, demolished: false };
}

function fence(path: [number, number][], openness: number, heightM = 1.5): FenceNeighbour {
  return { kind: 'fence', id: 'f', name: 'Fence', path, heightM, openness, demolished: false };
}

const tree = (more: Partial<TreeNeighbour>): TreeNeighbour => ({ ...LIME, at: [3, 4], heightM: 12, ...more });

test('a straight wall is a closed box of its length, thickness and height', () => {
  fc.assert(
    fc.property(
      number(1, 60),
      number(0, 360),
      number(0.3, 6),
      number(0.05, 1),
      (length, turn, height, thick) => {
        const a = (turn * Math.PI) / 180;
        const piece = wallSolid(
          wall(
            [
              [1, 2],
              [1 + length * Math.cos(a), 2 + length * Math.sin(a)],
            ],
            height,
            thick,
          ),
          LEVEL,
        );
        const triangles = trianglesOf(piece, 'wall');
        expect(volume(triangles)).toBeCloseTo(length * height * thick, 6);
        expect(openEdges(triangles)).toBe(0);
        expect(piece.opaque).toBe(piece.surfaceOf.length);
      },
    ),
  );
});

test('on a slope the top of a wall follows the ground, and its foot goes down to the lowest', () => {
  const piece = wallSolid(
    wall([
      [0, 0],
      [10, 0],
    ]),
    SLOPE,
  );
  const z = Array.from(piece.positions).filter((_, i) => i % 3 === 2);
  const low = groundLevel(SLOPE, [10, 0]);
  expect(Math.min(...z)).toBeCloseTo(low, 9);
  expect(Math.max(...z)).toBeCloseTo(5 + 2, 9);
  // Over the lowest ground a wedge of half the fall, and the 2 m above it.
  expect(volume(trianglesOf(piece, 'wall'))).toBeCloseTo(10 * 0.4 * (2 + (5 - low) / 2), 6);
});

test('a wall of several stretches has a box for each', () => {
  const piece = wallSolid(
    wall([
      [0, 0],
      [10, 0],
      [10, 5],
    ]),
    LEVEL,
  );
  expect(volume(trianglesOf(piece, 'wall'))).toBeCloseTo((10 + 5) * 0.4 * 2, 9);
});

test('a fence is as high as it is everywhere, and lets its share pass; one without any blocks', () => {
  const open = fenceSolid(
    fence(
      [
        [0, 0],
        [8, 0],
        [8, 6],
      ],
      0.4,
    ),
    SLOPE,
  );
  const area = trianglesOf(open, 'fence').reduce((sum, p) => {
    const [ux, uz] = [p[3]! - p[0]!, p[5]! - p[2]!];
    const [vx, vz] = [p[6]! - p[0]!, p[8]! - p[2]!];
    const [uy, vy] = [p[4]! - p[1]!, p[7]! - p[1]!];
    return sum + Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
  }, 0);
  expect(area).toBeCloseTo((8 + 6) * 1.5, 6);
  expect(open.opaque).toBe(0);
  expect(open.surfaces[0]!.passing).toEqual({ through: 'fence', share: 0.4 });
  const closed = fenceSolid(
    fence(
      [
        [0, 0],
        [8, 0],
      ],
      0,
    ),
    LEVEL,
  );
  expect(closed.opaque).toBe(closed.surfaceOf.length);
  expect(closed.surfaces[0]!.passing).toBeNull();
});

describe('trees', () => {
  test.each(['round', 'cone', 'column'] as const)(
    'a %s crown is closed, as high and wide as told',
    (crown) => {
      const piece = treeSolid(tree({ crown }), LEVEL);
      const triangles = trianglesOf(piece, 'crown');
      expect(openEdges(triangles)).toBe(0);
      const z = triangles.flatMap((p) => [p[2]!, p[5]!, p[8]!]);
      const x = triangles.flatMap((p) => [p[0]!, p[3]!, p[6]!]);
      expect([Math.min(...z), Math.max(...z)]).toEqual([expect.closeTo(8, 9), expect.closeTo(17, 9)]);
      expect([Math.min(...x), Math.max(...x)]).toEqual([expect.closeTo(0, 9), expect.closeTo(6, 9)]);
      expect(volume(triangles)).toBeGreaterThan(0);
    },
  );

  test('a cone has a third of the prism round it: twelve sides, area 3 r²', () => {
    fc.assert(
      fc.property(number(4, 30), number(1, 12), number(0, 3), (heightM, crownM, clearM) => {
        const made = treeSolid(tree({ crown: 'cone', heightM, crownM, clearM }), LEVEL);
        const base = 3 * (crownM / 2) ** 2;
        expect(volume(trianglesOf(made, 'crown'))).toBeCloseTo((base * (heightM - clearM)) / 3, 6);
      }),
    );
  });

  test('the trunk stands in the ground, reaches into the crown and blocks; leaves pass by the season', () => {
    const piece = treeSolid(tree({}), SLOPE);
    const trunk = trianglesOf(piece, 'trunk');
    expect(openEdges(trunk)).toBe(0);
    const z = trunk.flatMap((p) => [p[2]!, p[5]!, p[8]!]);
    const foot = groundLevel(SLOPE, [3, 4]);
    expect(Math.min(...z)).toBeLessThan(foot);
    expect(Math.max(...z)).toBeGreaterThan(foot + 3);
    expect(piece.opaque).toBe(trunk.length);
    expect(piece.surfaces.find(({ kind }) => kind === 'crown')!.passing).toEqual({
      through: 'leaves',
      leaf: 0.2,
      bare: 0.6,
      from: '04-20',
      until: '10-31',
    });
  });

  test('a crown that would begin above the top still has one', () => {
    const piece = treeSolid(tree({ heightM: 3, clearM: 9 }), LEVEL);
    const z = trianglesOf(piece, 'crown').flatMap((p) => [p[2]!, p[5]!, p[8]!]);
    expect([Math.min(...z), Math.max(...z)]).toEqual([expect.closeTo(7.9, 9), expect.closeTo(8, 9)]);
  });
});
