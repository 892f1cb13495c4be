import fc from 'fast-check';
import { areaWithHoles, insetRing, type Point2, signedArea } from '../geometry';
import { defaultMass, type Ground, type Mass, type Roof } from '../project';
import { massSolid, type Piece } from '../scene';
import { firstBlock, TriangleTree } from '../trace';
import { roofFaces } from './faces';
import { massFigures } from './figures';
import { massLevels } from './levels';
import { footprintProblem, storeyPlate, storeyProblem } from './plates';
import {
  footprintFromEdge,
  moveCorner,
  offsetRing,
  pushBottom,
  pushTop,
  pushWall,
  removeCorner,
  setBack,
  splitEdge,
  splitStoreys,
  uniteMasses,
} from './reshape';
import { roofProblem, roofShape } from './roof-shape';
import { mirrorIn, moveShape, shiftBy, turnAbout } from './transform';

const LEVEL: Ground = { kind: 'level', levelM: 0 };
const SLOPE: Ground = { kind: 'plane', levelM: 10, slopeDeg: 5, fallsTowardsDeg: 90 };

const box = (x: number, y: number, w: number, d: number): Point2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + d],
  [x, y + d],
];
const L_SHAPE: Point2[] = [
  [0, 0],
  [12, 0],
  [12, 4],
  [5, 4],
  [5, 10],
  [0, 10],
];
const T_SHAPE: Point2[] = [
  [0, 0],
  [15, 0],
  [15, 4],
  [10, 4],
  [10, 12],
  [5, 12],
  [5, 4],
  [0, 4],
];

/** Volume enclosed by outward triangles, by the divergence theorem; sheets with two sides add nothing. */
function volume({ positions: p }: Piece): number {
  let sum = 0;
  for (let i = 0; i < p.length; i += 9)
    sum +=
      p[i]! * (p[i + 4]! * p[i + 8]! - p[i + 5]! * p[i + 7]!) -
      p[i + 1]! * (p[i + 3]! * p[i + 8]! - p[i + 5]! * p[i + 6]!) +
      p[i + 2]! * (p[i + 3]! * p[i + 7]! - p[i + 4]! * p[i + 6]!);
  return sum / 6;
}

function mass(outer: Point2[], roof: Roof, storeys = 2): Mass {
  return { ...defaultMass('m', 'M', outer, storeys, 3), roof };
}

function darkInside(piece: Piece, from: [number, number, number]): void {
  const tree = TriangleTree.build(piece.positions);
  fc.assert(
    fc.property(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }),
      (z, turn) => {
        const r = Math.sqrt(1 - z * z);
        expect(firstBlock(tree, ...from, r * Math.cos(turn), r * Math.sin(turn), z)).toBeGreaterThanOrEqual(
          0,
        );
      },
    ),
    { numRuns: 300 },
  );
}

describe('roofs', () => {
  const EACH: [string, Roof, number][] = [
    // Volumes above the eaves of a 12 × 8 footprint in closed form.
    ['flat', { kind: 'flat', parapetM: 0.5 }, 0],
    ['gable', { kind: 'gable', riseM: 2 }, (12 * 8 * 2) / 2],
    ['pyramid', { kind: 'pyramid', riseM: 3 }, (12 * 8 * 3) / 3],
    ['mono', { kind: 'mono', riseM: 2, fallsTowardsDeg: 180 }, (12 * 8 * 2) / 2],
    // Hip at 45°: a prism of length 12 − 8 with a triangle of 8 × 4, and a pyramid of 8 × 8 × 4.
    ['hip', { kind: 'hip', pitchDeg: 45 }, (4 * 8 * 4) / 2 + (8 * 8 * 4) / 3],
    ['sawtooth', { kind: 'sawtooth', riseM: 2, teeth: 4, facesDeg: 0 }, (12 * 8 * 2) / 2],
  ];
  test.each(EACH)('%s: body, figures and closed form agree, and inside it is dark', (_, roof, above) => {
    const m = mass(box(0, 0, 12, 8), roof);
    expect(roofProblem(m)).toBeNull();
    const piece = massSolid(m, LEVEL);
    expect(volume(piece)).toBeCloseTo(12 * 8 * 6 + above, 6);
    expect(massFigures(m).volumeM3).toBeCloseTo(12 * 8 * 6 + above, 6);
    darkInside(piece, [4.1, 3.3, 2.2]);
    darkInside(massSolid(m, SLOPE), [4.1, 3.3, 12.2]);
  });

  test('hips over concave footprints enclose what their faces say', () => {
    for (const outer of [L_SHAPE, T_SHAPE]) {
      const m = mass(outer, { kind: 'hip', pitchDeg: 35 });
      const piece = massSolid(m, LEVEL);
      expect(volume(piece)).toBeCloseTo(massFigures(m).volumeM3, 6);
      darkInside(piece, [2, 2, 1]);
    }
  });

  test('a slope turned any way rises by what was asked and lies in one plane', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 359 }), (fallsTowardsDeg) => {
        const m = mass(L_SHAPE, { kind: 'mono', riseM: 2.5, fallsTowardsDeg }, 1);
        const shape = roofShape(storeyPlate(m, 0)!, m.roof);
        const heights = shape.faces[0]!.points.map((p) => p[2]);
        expect(Math.min(...heights)).toBeCloseTo(0, 9);
        expect(Math.max(...heights)).toBeCloseTo(2.5, 9);
        expect(volume(massSolid(m, LEVEL))).toBeCloseTo(massFigures(m).volumeM3, 6);
      }),
      { numRuns: 40 },
    );
  });

  test('what a footprint cannot carry is said', () => {
    expect(roofProblem(mass(L_SHAPE, { kind: 'gable', riseM: 2 }))).toContain('four corners');
    expect(roofProblem(mass(L_SHAPE, { kind: 'sawtooth', riseM: 2, teeth: 3, facesDeg: 0 }))).toContain(
      'without inward corners',
    );
    const court = mass(box(0, 0, 12, 8), { kind: 'hip', pitchDeg: 30 });
    court.footprint.holes = [box(4, 2, 3, 3) as [number, number][]];
    expect(roofProblem(court)).toContain('cannot stand over a footprint with courts');
  });
});

describe('storeys', () => {
  test('setbacks move edges by what was asked, and the area follows in closed form', () => {
    const m = setBack(mass(box(0, 0, 12, 8), { kind: 'flat', parapetM: 0 }, 3), 2, [1, 2], 3);
    expect(areaWithHoles(storeyPlate(m, 0)!)).toBe(96);
    expect(areaWithHoles(storeyPlate(m, 1)!)).toBeCloseTo(12 * 5, 9);
    expect(massFigures(m)).toEqual({ footprintM2: 96, floorM2: 216, volumeM3: 648 });
    expect(volume(massSolid(m, LEVEL))).toBeCloseTo(648, 9);
    darkInside(massSolid(m, LEVEL), [5, 2, 7]);
    expect(setBack(m, 2, [1, 2], -3).storeys.every((s) => s.setbacksM === undefined)).toBe(true);
  });

  test('a negative setback is a cantilever over the storey below', () => {
    const m = setBack(mass(box(0, 0, 12, 8), { kind: 'flat', parapetM: 0 }, 2), 0, [1], -2);
    expect(massFigures(m).floorM2).toBeCloseTo(96 + 120, 9);
    expect(volume(massSolid(m, LEVEL))).toBeCloseTo(3 * 96 + 3 * 120, 9);
    darkInside(massSolid(m, LEVEL), [5, -1, 4]);
  });

  test('setbacks that leave nothing are refused with the storey', () => {
    const m = setBack(mass(box(0, 0, 12, 8), { kind: 'flat', parapetM: 0 }, 2), 2, [1], 9);
    expect(storeyProblem(m)).toMatch(/^The setbacks of storey 2 leave no sound outline/);
    expect(footprintProblem({ outer: box(0, 0, 9, 9), holes: [box(5, 5, 9, 2)] })).toContain('Court 1');
  });

  test('insets of any triangle keep its angles: area shrinks as (1 − d/r)²', () => {
    const tri: Point2[] = [
      [0, 0],
      [9, 0],
      [2, 7],
    ];
    const sides = [9, Math.hypot(7, 7), Math.hypot(2, 7)];
    const r = (2 * signedArea(tri)) / (sides[0]! + sides[1]! + sides[2]!);
    const inner = insetRing(tri, [r / 2, r / 2, r / 2])!;
    expect(signedArea(inner)).toBeCloseTo(signedArea(tri) / 4, 9);
    expect(insetRing(tri, [r * 1.01, r * 1.01, r * 1.01])).toBeNull();
  });
});

describe('reshaping', () => {
  const base = mass(box(0, 0, 12, 8), { kind: 'flat', parapetM: 0 }, 2);
  const shapes = fc.constantFrom(box(0, 0, 12, 8), L_SHAPE, T_SHAPE);

  test('a wall pushed out and pulled back is where it was; its area grows by length × way', () => {
    fc.assert(
      fc.property(shapes, fc.nat(7), fc.double({ min: 0.1, max: 1, noNaN: true }), (outer, pick, way) => {
        const m = mass(outer, { kind: 'flat', parapetM: 0 });
        const edge = pick % outer.length;
        const pushed = pushWall(m, 0, edge, way);
        const [p, q] = [outer[edge]!, outer[(edge + 1) % outer.length]!];
        const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
        expect(signedArea(pushed.footprint.outer) - signedArea(outer)).toBeCloseTo(length * way, 6);
        pushWall(pushed, 0, edge, -way).footprint.outer.forEach(([x, y], i) => {
          expect(x).toBeCloseTo(outer[i]![0], 9);
          expect(y).toBeCloseTo(outer[i]![1], 9);
        });
      }),
      { numRuns: 60 },
    );
    expect(() => pushWall(base, 0, 0, -8)).toThrow('cannot go that far');
  });

  test('top and bottom are pushed by heights', () => {
    expect(pushTop(base, 1.5).storeys.map((s) => s.heightM)).toEqual([3, 4.5]);
    const raised = pushBottom({ ...base, base: { on: 'level', levelM: 4 } }, LEVEL, 1);
    expect(massLevels(raised, LEVEL)).toMatchObject({ floorM: 3, topM: 10 });
    expect(() => pushTop(base, -3)).toThrow('lower than 0.1 m');
  });

  test('corners come, move and go', () => {
    const split = splitEdge(base, 0, 1);
    expect(split.footprint.outer).toHaveLength(5);
    const moved = moveCorner(split, 0, 2, [14, 4]);
    expect(signedArea(moved.footprint.outer)).toBeCloseTo(96 + (8 * 2) / 2, 9);
    expect(removeCorner(moved, 0, 2).footprint.outer).toEqual(base.footprint.outer);
  });

  test('two parts of a split stand where the whole stood', () => {
    const [low, high] = splitStoreys(mass(L_SHAPE, { kind: 'hip', pitchDeg: 30 }, 4), SLOPE, 2, {
      id: 'u',
      name: 'U',
    });
    expect(massLevels(low, SLOPE).eavesM).toBeCloseTo(massLevels(high, SLOPE).floorM, 3);
    expect(low.storeys.length + high.storeys.length).toBe(4);
    expect(high.roof.kind).toBe('hip');
    expect(low.roof.kind).toBe('flat');
  });

  test('masses that touch become one with the area of both; others are refused with the reason', () => {
    const beside = {
      ...base,
      id: 'n',
      name: 'N',
      footprint: { outer: box(12, 2, 4, 4) as [number, number][], holes: [] },
    };
    const one = uniteMasses(base, beside, LEVEL);
    expect(signedArea(one.footprint.outer)).toBeCloseTo(96 + 16, 9);
    expect(one.footprint.outer).toHaveLength(8);
    const apart = { ...beside, footprint: { outer: box(20, 2, 4, 4) as [number, number][], holes: [] } };
    expect(() => uniteMasses(base, apart, LEVEL)).toThrow('do not touch along a wall');
    expect(() => uniteMasses(base, { ...beside, storeys: [{ heightM: 4 }] }, LEVEL)).toThrow(
      'different storeys',
    );
  });

  test('offsets and footprints from edges', () => {
    expect(signedArea(offsetRing(box(0, 0, 10, 6), 1))).toBeCloseTo(12 * 8, 9);
    expect(() => offsetRing(box(0, 0, 10, 6), -3)).toThrow('no sound outline');
    expect(signedArea(footprintFromEdge(box(0, 0, 10, 6), 0, 4))).toBeCloseTo(40, 9);
    expect(Math.min(...footprintFromEdge(box(0, 0, 10, 6), 0, 4).map((p) => p[1]))).toBe(-4);
  });

  test('moving, turning and mirroring keep area and volume, and undo themselves', () => {
    const m: Mass = {
      ...setBack(mass(L_SHAPE, { kind: 'mono', riseM: 2, fallsTowardsDeg: 30 }), 0, [1], 1),
      furniture: [
        {
          id: 'f',
          name: 'Desk',
          storey: 0,
          at: [2, 2],
          widthM: 1.6,
          depthM: 0.8,
          heightM: 0.72,
          turnDeg: 20,
        },
      ],
      partitions: [
        {
          id: 'p',
          storey: 0,
          path: [
            [5, 0],
            [5, 4],
          ],
        },
      ],
      rooms: [{ id: 'r', name: 'Waiting', storey: 0, at: [8, 2], doubleHeight: false }],
    };
    const there = moveShape(m, mirrorIn([0, 0], [3, 7]));
    expect(massFigures(there).volumeM3).toBeCloseTo(massFigures(m).volumeM3, 9);
    expect(volume(massSolid(there, LEVEL))).toBeCloseTo(volume(massSolid(m, LEVEL)), 6);
    const back = moveShape(there, mirrorIn([0, 0], [3, 7]));
    const sorted = (p: Piece) =>
      Array.from(p.positions, (v) => Math.round(v * 1e6) / 1e6 + 0).sort((a, b) => a - b);
    expect(sorted(massSolid(back, LEVEL))).toEqual(sorted(massSolid(m, LEVEL)));
    const turned = moveShape(moveShape(m, turnAbout([4, 5], 90)), turnAbout([4, 5], -90));
    expect(turned).toEqual(m);
    const shifted = moveShape(moveShape(m, shiftBy(4, -8)), shiftBy(-4, 8));
    expect(massSolid(shifted, LEVEL)).toEqual(massSolid(m, LEVEL));
  });
});

test.each([0, 90, 180, 270])('the upright faces of a sawtooth on a box are whole, facing %d°', (facesDeg) => {
  const roof = { kind: 'sawtooth', riseM: 3, teeth: 5, facesDeg } as const;
  const mass: Mass = {
    ...defaultMass(
      'm',
      'M',
      [
        [-24, 0],
        [24, 0],
        [24, 32],
        [-24, 32],
      ],
      1,
      6,
    ),
    roof,
  };
  const upright = roofFaces(mass, { kind: 'level', levelM: 0 }).filter(
    ({ normal }) => Math.abs(normal[2]) < 1e-9,
  );
  const wide = facesDeg % 180 === 0 ? 48 : 32;
  expect(upright.map(({ lengthM, heightM }) => [lengthM, heightM])).toEqual(
    Array.from({ length: 5 }, () => [expect.closeTo(wide, 9), expect.closeTo(3, 9)]),
  );
});
