import { areaWithHoles } from '../geometry';
import { defaultMass, emptyProject, type Mass } from '../project';
import { massSolid } from './mass-solid';
import { assembleScene } from './scene';
import { levelPlane, sectionOf, uprightPlane } from './section';

const GROUND = { kind: 'level', levelM: 0 } as const;
const SQUARE: [number, number][] = [
  [0, 0],
  [10, 0],
  [10, 8],
  [0, 8],
];
const box = (change: Partial<Mass> = {}): Mass => ({ ...defaultMass('m', 'M', SQUARE, 2, 3), ...change });
const areaOf = (faces: ReturnType<typeof sectionOf>['faces']) =>
  faces.reduce((sum, face) => sum + areaWithHoles(face), 0);
const lengthOf = (lines: readonly number[]) => {
  let sum = 0;
  for (let i = 0; i < lines.length; i += 4)
    sum += Math.hypot(lines[i + 2]! - lines[i]!, lines[i + 3]! - lines[i + 1]!);
  return sum;
};

test('a level cut of a box is its footprint, an upright one its profile', () => {
  const piece = massSolid(box(), GROUND);
  const level = sectionOf(piece, levelPlane(1.5));
  expect(level.faces).toHaveLength(1);
  expect(areaOf(level.faces)).toBeCloseTo(80, 3);
  expect(lengthOf(level.lines)).toBeCloseTo(36, 9);
  const upright = sectionOf(piece, uprightPlane([-5, 4], [20, 4]));
  expect(areaOf(upright.faces)).toBeCloseTo(60, 3);
  const [low, high] = [Math.min, Math.max].map((of) => of(...upright.faces[0]!.outer.map(([u]) => u)));
  // Along the line from its beginning: the box stands from 5 to 15.
  expect([low, high].map((u) => Math.round(u! * 1e3) / 1e3)).toEqual([5, 15]);
});

test('a court is a hole in the face', () => {
  const court: [number, number][] = [
    [3, 3],
    [7, 3],
    [7, 5],
    [3, 5],
  ];
  const piece = massSolid(box({ footprint: { outer: SQUARE, holes: [court] } }), GROUND);
  const { faces } = sectionOf(piece, levelPlane(4));
  expect(faces).toHaveLength(1);
  expect(faces[0]!.holes).toHaveLength(1);
  expect(areaOf(faces)).toBeCloseTo(72, 3);
});

test('a gable cut square to its ridge is a rectangle under a triangle', () => {
  const piece = massSolid(box({ roof: { kind: 'gable', riseM: 4 } }), GROUND);
  // The ridge runs along the longer side, x; so the profile is seen along x.
  const { faces } = sectionOf(piece, uprightPlane([5, -3], [5, 12]));
  expect(areaOf(faces)).toBeCloseTo(8 * 6 + (8 * 4) / 2, 2);
});

test.each([6, 3, 0, -1, 6.5])(
  'a level of %d m that touches the box or meets nothing gives sound faces',
  (z) => {
    const { faces } = sectionOf(massSolid(box(), GROUND), levelPlane(z));
    const expected = z >= 0 && z < 6 ? 80 : 0;
    expect(areaOf(faces)).toBeCloseTo(expected, 3);
  },
);

test('what is hollow has lines and no face: its walls, and the partition in it', () => {
  const partitions = [
    {
      id: 'p',
      storey: 0,
      path: [
        [5, 0],
        [5, 8],
      ] as [number, number][],
    },
  ];
  const piece = massSolid(box({ partitions }), GROUND);
  const { faces, lines } = sectionOf(piece, levelPlane(1));
  expect(faces).toEqual([]);
  expect(lengthOf(lines)).toBeGreaterThanOrEqual(36 + 8 - 1e-6);
});

test('a cut through every piece of a project agrees with the volume: slices add up to the body', () => {
  const project = emptyProject('P', 2026);
  project.options[1]!.masses = [box({ roof: { kind: 'hip', pitchDeg: 30 } })];
  const scene = assembleScene(project, 'a', new Map());
  const piece = scene.pieces[1]!;
  const p = piece.positions;
  let volume = 0;
  for (let o = 0; o < p.length; o += 9)
    volume +=
      (p[o]! * (p[o + 4]! * p[o + 8]! - p[o + 5]! * p[o + 7]!) +
        p[o + 1]! * (p[o + 5]! * p[o + 6]! - p[o + 3]! * p[o + 8]!) +
        p[o + 2]! * (p[o + 3]! * p[o + 7]! - p[o + 4]! * p[o + 6]!)) /
      6;
  const steps = 400;
  const top = 6 + 4 * Math.tan(Math.PI / 6);
  let sum = 0;
  for (let i = 0; i < steps; i++)
    sum += (areaOf(sectionOf(piece, levelPlane(((i + 0.5) * top) / steps)).faces) * top) / steps;
  expect(Math.abs(sum - volume) / volume).toBeLessThan(1e-3);
});
