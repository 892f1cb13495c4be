import fc from 'fast-check';
import { areaWithHoles, type Point2, subdivide } from '../geometry';
import { defaultMass, type Ground, type Mass } from '../project';
import { massSolid, type Piece } from '../scene';
import { firstBlock, TriangleTree } from '../trace';
import { massFigures } from './figures';
import { roomsOf } from './rooms';

const LEVEL: Ground = { kind: 'level', levelM: 0 };

const box = (x: number, y: number, w: number, d: number): Point2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + d],
  [x, y + d],
];
function mass(outer: Point2[], roof: Mass['roof'], storeys: number): Mass {
  return { ...defaultMass('m', 'M', outer, storeys, 3), roof };
}

describe('rooms', () => {
  const hall = {
    ...mass(box(0, 0, 12, 8), { kind: 'flat', parapetM: 0 }, 2),
    partitions: [
      {
        id: 'p1',
        storey: 0,
        path: [
          [5, 0],
          [5, 8],
        ] as [number, number][],
      },
      {
        id: 'p2',
        storey: 0,
        path: [
          [5.01, 4],
          [12, 4],
        ] as [number, number][],
      },
    ],
  };

  test('partitions divide a storey; parts sum to the plate; facades are told', () => {
    const rooms = roomsOf(hall);
    const ground = rooms.filter((room) => room.storey === 0);
    expect(ground.map((room) => room.areaM2).sort((a, b) => a - b)).toEqual(
      [28, 28, 40].map((a) => expect.closeTo(a, 6)),
    );
    expect(rooms.filter((room) => room.storey === 1)).toHaveLength(1);
    const west = ground.find((room) => room.areaM2 > 30)!;
    expect(west.facades.map(({ edge, lengthM }) => [edge, Math.round(lengthM)])).toEqual([
      [0, 5],
      [2, 5],
      [3, 8],
    ]);
  });

  test('a partition that ends within the room divides nothing; an island makes a ring', () => {
    const area = { outer: box(0, 0, 10, 10), holes: [] };
    expect(
      subdivide(area, [
        [
          [0, 5],
          [6, 5],
        ],
      ]),
    ).toHaveLength(1);
    const parts = subdivide(area, [[...box(3, 3, 2, 2), [3, 3]]]);
    expect(parts.map(areaWithHoles).sort((a, b) => a - b)).toEqual([4, 96].map((a) => expect.closeTo(a, 9)));
    const withCourt = subdivide({ outer: box(0, 0, 10, 10), holes: [box(4, 4, 2, 2)] }, [
      [
        [0, 5],
        [4, 5],
      ],
      [
        [6, 5],
        [10, 5],
      ],
    ]);
    expect(withCourt.map(areaWithHoles)).toEqual([48, 48].map((a) => expect.closeTo(a, 9)));
  });

  test('any straight cuts across a plate leave parts that sum to it', () => {
    const at = fc.double({ min: 0.5, max: 9.5, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(at, at), { minLength: 1, maxLength: 5 }), (cuts) => {
        const lines = cuts.map(([a, b]): Point2[] => [
          [a, 0],
          [b, 10],
        ]);
        const parts = subdivide({ outer: box(0, 0, 10, 10), holes: [] }, lines);
        expect(parts.reduce((sum, part) => sum + areaWithHoles(part), 0)).toBeCloseTo(100, 2);
        expect(parts.length).toBeGreaterThan(1);
      }),
      { numRuns: 60 },
    );
  });

  test('a double-height room takes its floor from the storey above, and light falls through', () => {
    const room = { id: 'r', name: 'Waiting', storey: 0, at: [2, 2] as [number, number], doubleHeight: true };
    const open = { ...hall, rooms: [room] };
    expect(massFigures(open).floorM2).toBeCloseTo(192 - 40, 6);
    const up = (piece: Piece, x: number) => {
      const hit = firstBlock(TriangleTree.build(piece.positions), x, 2, 1, 1e-4, 2e-4, 1);
      return piece.positions[hit * 9 + 2]!;
    };
    expect(up(massSolid(open, LEVEL), 2)).toBe(6);
    expect(up(massSolid(open, LEVEL), 8)).toBe(3);
    expect(up(massSolid(hall, LEVEL), 2)).toBe(3);
  });
});
