import './browser-stand-in';
import {
  assembleScene,
  type Camera,
  type CameraOf,
  migrate,
  parseProject,
  projectSchema,
  type Viewpoint,
} from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { cutOf, parallelFrame } from '../src/board/cut';
import { looked, stepped } from '../src/board/eye-controls';
import { beginCamera, CAMERA_KINDS, floorsOf, sectionCamera, viewTrouble } from '../src/board/pane-cameras';

const BOX = { centre: [10, 20, 5] as [number, number, number], radius: 30, lowM: 0, highM: 15 };
const EYE: CameraOf<'eye'> = { kind: 'eye', at: [0, 0, 1.6], bearingDeg: 90, pitchDeg: 0, fovDeg: 45 };

test('walking goes the way one looks, sideways square to it; turning and rising stay in place', () => {
  expect(stepped(EYE, 'w')!.at[0]).toBeCloseTo(0.5, 12);
  expect(stepped(EYE, 'W')!.at[1]).toBeCloseTo(0, 12);
  // Looking east, right is south.
  expect(stepped(EYE, 'd')!.at[1]).toBeCloseTo(-0.5, 12);
  expect(stepped(EYE, 'a')!.at[1]).toBeCloseTo(0.5, 12);
  expect(stepped(EYE, 's')!.at[0]).toBeCloseTo(-0.5, 12);
  expect(stepped(EYE, 'e')).toMatchObject({ bearingDeg: 95, at: EYE.at });
  expect(stepped(EYE, 'q')).toMatchObject({ bearingDeg: 85 });
  expect(stepped(EYE, 'r')!.at[2]).toBeCloseTo(1.7, 12);
  expect(stepped(EYE, 'f')!.at[2]).toBeCloseTo(1.5, 12);
  expect(stepped(EYE, 'x')).toBeNull();
});

test('dragging over the whole height turns by the field of view, and never over the zenith', () => {
  expect(looked(EYE, 0, 100, 100).pitchDeg).toBeCloseTo(45, 9);
  expect(looked(EYE, -100, 0, 100).bearingDeg).toBeCloseTo(135, 9);
  expect(looked({ ...EYE, bearingDeg: 170 }, -100, 0, 100).bearingDeg).toBeCloseTo(-145, 9);
  expect(looked(EYE, 0, 9999, 100).pitchDeg).toBe(89);
});

test('a plan is cut over its floor and looked at from above, up on the screen being north as asked', () => {
  const level: CameraOf<'level'> = {
    kind: 'level',
    floorM: 3,
    aboveM: 0.85,
    centre: [4, 5],
    heightM: 40,
    northUp: false,
  };
  expect(cutOf(level)).toMatchObject({ origin: [0, 0, 3.85], n: [0, 0, 1] });
  const drawn = parallelFrame(level, null, 30);
  expect(drawn.lookAt).toEqual([4, 5, 3.85]);
  // The eye leans against what is up: drawing north, or true north, 30° clockwise of it.
  expect(drawn.way[0]).toBeCloseTo(0, 12);
  expect(drawn.way[1]).toBeLessThan(0);
  const [x, y] = parallelFrame({ ...level, northUp: true }, null, 30).way;
  expect(Math.atan2(-x, -y) * (180 / Math.PI)).toBeCloseTo(30, 6);
});

test('a section is looked at square, with what lies right of the line taken away', () => {
  const camera = sectionCamera([0, 0], [10, 0], BOX);
  const plane = cutOf(camera)!;
  // Walking east, south is on the right: there the eye stands.
  expect(plane.n[1]).toBe(-1);
  expect(parallelFrame(camera, null, 0).way).toEqual(plane.n);
  expect(camera.alongM).toBe(5);
  expect(sectionCamera([-40, 0], [60, 0], BOX).alongM).toBeCloseTo(50, 12);
});

test('an elevation is looked at along the normal of its facade; a view from the sun along its rays', () => {
  const elevation = { kind: 'elevation', centre: [1, 2, 3], bearingDeg: 90, heightM: 20 } as const;
  const { way } = parallelFrame({ ...elevation, centre: [1, 2, 3] }, null, 0);
  expect(way[0]).toBeCloseTo(1, 12);
  expect(way[1]).toBeCloseTo(0, 12);
  const sun = { kind: 'sun' as const, lookAt: [0, 0, 0] as [number, number, number], heightM: 50 };
  expect(parallelFrame(sun, [0.6, 0, 0.8], 0).way).toEqual([0.6, 0, 0.8]);
  expect(parallelFrame(sun, null, 0).way[2]).toBe(1);
});

test('every kind of view begins sound, on the sample', () => {
  const project = kelpLane();
  const kinds = CAMERA_KINDS.map(({ kind }) => kind).filter((kind) => kind !== 'orbit');
  const viewpoints: Viewpoint[] = kinds.map((kind) => ({
    id: kind,
    name: kind,
    camera: beginCamera(kind, project, 'a', null, BOX),
    drawing: { tone: 'white', ink: 1, shade: 0, sunPath: false, grid: true, ghost: true },
    hidden: ['a/bar'],
  }));
  expect(projectSchema.safeParse({ ...project, viewpoints }).success).toBe(true);
  const facade = beginCamera(
    'elevation',
    project,
    'a',
    { id: 'm', optionId: 'a', layer: 'option', wallBearingDeg: -35 },
    BOX,
  );
  expect(facade).toMatchObject({ bearingDeg: -35 });
});

test('floors are listed once for each level, from below', () => {
  const floors = floorsOf(kelpLane(), 'a');
  const levels = floors.map(({ floorM }) => floorM);
  expect(levels.length).toBeGreaterThan(3);
  expect(levels).toEqual([...levels].sort((a, b) => a - b));
  expect(new Set(levels).size).toBe(levels.length);
});

test('viewpoints of version 3 look from outside, as they did', () => {
  const old = {
    ...kelpLane(),
    version: 3,
    viewpoints: [
      {
        id: 'v',
        name: 'Quay',
        projection: 'parallel',
        eye: [1, 2, 3],
        lookAt: [0, 0, 0],
        heightM: 12,
      },
    ],
    momentSets: undefined,
  };
  const { viewpoints, momentSets } = parseProject(migrate(JSON.parse(JSON.stringify(old))));
  expect(viewpoints[0]).toMatchObject({
    name: 'Quay',
    camera: { kind: 'orbit', projection: 'parallel', eye: [1, 2, 3], heightM: 12 },
  });
  expect(momentSets).toEqual([]);
});

test('an eye in the ground or in a solid, and a cut in the air, are told', () => {
  const project = kelpLane();
  const scene = assembleScene(project, 'b', new Map());
  const trouble = (camera: Camera) => viewTrouble(project, 'b', scene, camera);
  const eye = (x: number, y: number, z: number): Camera => ({
    kind: 'eye',
    at: [x, y, z],
    bearingDeg: 0,
    pitchDeg: 0,
    fovDeg: 45,
  });
  expect(trouble(eye(-60, -60, -5))).toContain('under the ground');
  expect(trouble(eye(5, 5, 18))).toBe('The eye is inside “Court ring”, which is solid; stand elsewhere.');
  // In the open court, over the roof, and in a terrace house, which has windows.
  for (const free of [eye(19, 13, 18), eye(5, 5, 40), eye(3, 39, 15)]) expect(trouble(free)).toBeNull();
  const level = (floorM: number): Camera => ({
    kind: 'level',
    floorM,
    aboveM: 1,
    centre: [0, 0],
    heightM: 50,
    northUp: false,
  });
  expect(trouble(level(15))).toBeNull();
  expect(trouble(level(300))).toBe('The cut meets nothing that stands here.');
  const upright = (x: number): Camera => ({
    kind: 'upright',
    from: [x, -50],
    to: [x, 50],
    alongM: 50,
    levelM: 15,
    heightM: 40,
  });
  expect(trouble(upright(19))).toBeNull();
  expect(trouble(upright(900))).toBe('The cut meets nothing that stands here.');
});
