import { kelpLane } from '@dial-shade/samples';
import fc from 'fast-check';
import { addMass, moveOwner } from '../document';
import { massFigures, massLevels } from '../form';
import { placedMesh, signedArea } from '../geometry';
import { defaultMass, emptyProject, type Ground, type Mass } from '../project';
import { groundLevel, groundNormal } from '../site';
import { firstBlock, TriangleTree } from '../trace';
import { massSolid } from './mass-solid';
import type { Piece } from './piece';
import { assembleScene } from './scene';

const LEVEL: Ground = { kind: 'level', levelM: 0 };
const SLOPE: Ground = { kind: 'plane', levelM: 10, slopeDeg: 5, fallsTowardsDeg: 90 };

/** Volume enclosed by outward triangles, by the divergence theorem. */
function volume({ positions: p }: Piece): number {
  let sum = 0;
  for (let i = 0; i < p.length; i += 9)
    sum +=
      p[i]! * (p[i + 4]! * p[i + 8]! - p[i + 5]! * p[i + 7]!) -
      p[i + 1]! * (p[i + 3]! * p[i + 8]! - p[i + 5]! * p[i + 6]!) +
      p[i + 2]! * (p[i + 3]! * p[i + 7]! - p[i + 4]! * p[i + 6]!);
  return sum / 6;
}

function tower(roof: Mass['roof']): Mass {
  return {
    ...defaultMass(
      't',
      'Tower',
      [
        [0, 0],
        [8, 0],
        [8, 5],
        [0, 5],
      ],
      2,
      3,
    ),
    roof,
  };
}

test('the ground falls where it should', () => {
  expect(groundLevel(SLOPE, [0, 7])).toBeCloseTo(10, 12);
  expect(groundLevel(SLOPE, [10, 0])).toBeCloseTo(10 - 10 * Math.tan((5 * Math.PI) / 180), 12);
  expect(groundNormal(SLOPE)[0]).toBeCloseTo(Math.sin((5 * Math.PI) / 180), 12);
});

test('solids enclose their volume: prism, gable (½) and pyramid (⅓) roofs, courts taken out', () => {
  expect(volume(massSolid(tower({ kind: 'flat', parapetM: 0 }), LEVEL))).toBeCloseTo(240, 9);
  expect(volume(massSolid(tower({ kind: 'flat', parapetM: 1 }), LEVEL))).toBeCloseTo(240, 9);
  expect(volume(massSolid(tower({ kind: 'gable', riseM: 2 }), LEVEL))).toBeCloseTo(240 + 40, 9);
  expect(volume(massSolid(tower({ kind: 'pyramid', riseM: 3 }), LEVEL))).toBeCloseTo(240 + 40, 9);
  const court = tower({ kind: 'flat', parapetM: 0 });
  court.footprint.holes = [
    [
      [2, 1],
      [5, 1],
      [5, 3],
      [2, 3],
    ],
  ];
  expect(volume(massSolid(court, LEVEL))).toBeCloseTo(240 - 36, 9);
  expect(massFigures(court)).toEqual({ footprintM2: 34, floorM2: 68, volumeM3: 204 });
});

test('figures agree with the solid for any convex footprint', () => {
  const radii = fc.array(fc.double({ min: 4, max: 5, noNaN: true }), { minLength: 4, maxLength: 9 });
  fc.assert(
    fc.property(radii, fc.integer({ min: 1, max: 6 }), (sizes, storeys) => {
      const outer = sizes.map((r, i): [number, number] => {
        const a = (i / sizes.length) * 2 * Math.PI;
        return [20 + r * Math.cos(a), r * Math.sin(a)];
      });
      const mass = defaultMass('m', 'M', outer, storeys, 2.75);
      const figures = massFigures(mass);
      expect(figures.footprintM2).toBeCloseTo(Math.abs(signedArea(outer)), 9);
      expect(volume(massSolid(mass, LEVEL))).toBeCloseTo(figures.volumeM3, 6);
    }),
    { numRuns: 50 },
  );
});

test('a mass on a slope stands on its highest corner and reaches down to its lowest', () => {
  const levels = massLevels(tower({ kind: 'flat', parapetM: 0 }), SLOPE);
  expect(levels.floorM).toBeCloseTo(10, 12);
  expect(levels.bottomM).toBeCloseTo(groundLevel(SLOPE, [8, 0]), 12);
  expect(levels.eavesM).toBeCloseTo(16, 12);
});

test('from inside a closed mass no sky is seen', () => {
  for (const roof of [
    { kind: 'flat', parapetM: 0 },
    { kind: 'gable', riseM: 2 },
    { kind: 'pyramid', riseM: 3 },
  ] as const) {
    const tree = TriangleTree.build(massSolid(tower(roof), SLOPE).positions);
    fc.assert(
      fc.property(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }),
        (z, turn) => {
          const r = Math.sqrt(1 - z * z);
          expect(
            firstBlock(tree, 4, 2.5, 12, r * Math.cos(turn), r * Math.sin(turn), z),
          ).toBeGreaterThanOrEqual(0);
        },
      ),
      { numRuns: 400 },
    );
  }
});

test('a scene holds what stands: demolished things only in Today', () => {
  const names = (option: string) =>
    assembleScene(kelpLane(), option, new Map()).owners.map((owner) => owner.name);
  expect(names('today')).toContain('Old depot');
  expect(names('a')).not.toContain('Old depot');
  expect(names('a')).toEqual(expect.arrayContaining(['Ground', 'Transformer kiosk', 'Bar', 'Chapel tower']));
  expect(names('b')).toContain('Court ring');
  expect(() => names('z')).toThrow('The option “z” does not exist; there are “today” (T Today)');
});

test('moving a mass away and back gives the same triangles', () => {
  const project = addMass(
    'a',
    defaultMass(
      'm',
      'M',
      [
        [0, 0],
        [4, 0],
        [4, 4],
        [0, 4],
      ],
      1,
    ),
  )(emptyProject('E', 2026));
  const there = moveOwner({ optionId: 'a', id: 'm' }, 8, -16)(project);
  const back = moveOwner({ optionId: 'a', id: 'm' }, -8, 16)(there);
  const positions = (p: typeof project) => Array.from(assembleScene(p, 'a', new Map()).positions);
  expect(positions(back)).toEqual(positions(project));
  expect(positions(there)).not.toEqual(positions(project));
});

test('meshes are turned, then moved; a missing one is told', () => {
  const mesh = { positions: Float64Array.of(1, 0, 0, 0, 2, 0, 0, 0, 3), triangles: Uint32Array.of(0, 1, 2) };
  const placed = placedMesh(mesh, [10, 20, 30], 90);
  [10, 21, 30, 8, 20, 30, 10, 20, 33].forEach((v, i) => expect(placed[i]).toBeCloseTo(v, 12));
  const project = kelpLane();
  project.neighbours = [
    {
      kind: 'mesh',
      id: 'm',
      name: 'Pier',
      mesh: 'a'.repeat(64),
      triangles: 1,
      move: [0, 0, 0],
      turnDeg: 0,
      openness: 0,
      openings: [],
      demolished: false,
    },
  ];
  expect(() => assembleScene(project, 'today', new Map())).toThrow('The mesh of “Pier” is missing');
});
