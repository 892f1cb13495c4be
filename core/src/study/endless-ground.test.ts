import fc from 'fast-check';
import { planeTarget } from '../../testing/targets';
import { RAD } from '../civil';
import { addMass } from '../document';
import type { Mesh } from '../geometry';
import { defaultMass, emptyProject, type Ground, type Project, type Study } from '../project';
import { assembleScene } from '../scene';
import { sunPosition } from '../sun';
import { DirectionSet, firstObstruction, isOpen, LayerTracer, maskWords, sceneObstacles } from '../trace';
import { pointSky } from './point-year';
import { summarize } from './summary';
import { planStudy, runStudy } from './run-study';
import { sunSamples } from './sun-samples';

const study = (targets: string[]): Study => ({
  id: 's',
  name: 'S',
  kind: 'sun-hours',
  targets,
  window: { from: '2026-06-21', to: '2026-06-21', startMinutes: 0, endMinutes: 1440 },
  stepMinutes: 5,
  criterion: { atLeast: 2, share: 0.5, source: '' },
  scale: null,
});

/** A wall 4 m wide that looks north at 10 to 14 m above the origin, over ground that rises to the north. */
function overSlope(slopeDeg: number, latitudeDeg = 68): Project {
  const project = emptyProject('Slope', 2026);
  project.site.place = { ...project.site.place, latitudeDeg, longitudeDeg: 0, zone: 'UTC' };
  project.site.ground = { kind: 'plane', levelM: 0, slopeDeg, fallsTowardsDeg: 180 };
  const outline: [number, number][] = [
    [-2, 10],
    [2, 10],
    [2, 14],
    [-2, 14],
  ];
  project.targets.push({ ...planeTarget(outline, [], 2), id: 'wall', u: [-1, 0, 0] });
  project.studies.push(study(['wall']));
  return project;
}

function hours(project: Project, option = 'a') {
  const plan = planStudy(project, option, project.studies[0]!, new Map());
  return { plan, values: runStudy(project, plan, new Map()) };
}

test('no sun comes through the hill: tan altitude under tan slope × cos bearing, however far away', () => {
  for (const slopeDeg of [2, 5, 12, 30]) {
    const project = overSlope(slopeDeg);
    const { plan, values } = hours(project);
    const suns = sunSamples(project.site, [project.studies[0]!.window], 5);
    let expected = 0;
    for (let d = 0; d < suns.count; d++) {
      const [x, y, z] = [0, 1, 2].map((k) => suns.vectors[d * 3 + k]!);
      const level = Math.hypot(x!, y!);
      const faces = y! > 0;
      if (faces && z! / level >= (Math.tan(slopeDeg * RAD) * y!) / level) expected += suns.minutes[d]! / 60;
    }
    for (let i = 0; i < plan.grid.count; i++) expect(values.hours![i]).toBeCloseTo(expected, 4);
    expect(expected).toBeLessThan(suns.count / 12);
  }
});

test('what stands far away changes nothing', () => {
  const project = overSlope(6);
  const hut = defaultMass(
    'hut',
    'Hut',
    [
      [400, -420],
      [404, -420],
      [404, -416],
      [400, -416],
    ],
    1,
  );
  expect(hours(addMass('a', hut)(project)).values.hours!).toEqual(hours(project).values.hours!);
});

test('masks and first obstructions agree on ground of any slope, from above and from below', () => {
  fc.assert(
    fc.property(
      fc.record({
        slopeDeg: fc.integer({ min: 0, max: 45 }),
        fallsTowardsDeg: fc.integer({ min: 0, max: 359 }),
        seed: fc.integer({ min: 1, max: 1e6 }),
        z: fc.double({ min: -30, max: 30, noNaN: true }),
      }),
      ({ slopeDeg, fallsTowardsDeg, seed, z }) => {
        const project = emptyProject('P', 2026);
        project.site.ground = { kind: 'plane', levelM: 1, slopeDeg, fallsTowardsDeg };
        project.options[1]!.masses.push(
          defaultMass(
            'm',
            'M',
            [
              [5, 0],
              [12, 0],
              [12, 6],
              [5, 6],
            ],
            2,
          ),
        );
        const obstacles = sceneObstacles(assembleScene(project, 'a', new Map()));
        const vectors = new Float64Array(64 * 3);
        for (let d = 0; d < 64; d++) {
          const h = 1 - (2 * ((d * 37 + seed) % 64) + 1) / 64;
          const a = d * 2.4 + seed;
          const r = Math.sqrt(1 - h * h);
          vectors.set([r * Math.cos(a), r * Math.sin(a), h], d * 3);
        }
        const mask = new Uint32Array(maskWords(64));
        const at = Float64Array.of(0, 3, z);
        new LayerTracer(obstacles, vectors, new DirectionSet(vectors)).trace(at, null, 0, 1, mask);
        for (let d = 0; d < 64; d++) {
          const [x, y, w] = [vectors[d * 3]!, vectors[d * 3 + 1]!, vectors[d * 3 + 2]!];
          const first = firstObstruction(obstacles, 0, 3, z, x, y, w);
          expect(isOpen(mask, maskWords(64), 0, d)).toBe(first < 0);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('the sky of a point over a slope ends at the plane of the ground', () => {
  const project = overSlope(20);
  const scene = assembleScene(project, 'a', new Map());
  const owners = { surfaceOf: scene.surfaceOf, ownerOf: scene.ownerOf, count: scene.owners.length };
  const sky = pointSky(project.site, [0, 0, 30], sceneObstacles(scene), owners, 360, 90);
  for (let azimuth = 0; azimuth < 360; azimuth += 15)
    for (let altitude = 0; altitude < 90; altitude++) {
      const [a, h] = [(azimuth + 0.5) * RAD, (altitude + 0.5) * RAD];
      const hidden = Math.tan(h) < Math.tan(20 * RAD) * Math.cos(a);
      expect(sky.state[azimuth * 90 + altitude]).toBe(hidden ? 0 : -1);
    }
});

test('the sun over a slope is met where the formula says, by the independent position of the sun', () => {
  const project = overSlope(10);
  const at = Date.UTC(2026, 5, 21, 1, 30);
  const sun = sunPosition(at, project.site.place);
  const obstacles = sceneObstacles(assembleScene(project, 'a', new Map()));
  const ray = (altitudeDeg: number) => {
    const [a, h] = [sun.azimuthDeg * RAD, altitudeDeg * RAD];
    return firstObstruction(
      obstacles,
      0,
      -0.01,
      12,
      Math.sin(a) * Math.cos(h),
      Math.cos(a) * Math.cos(h),
      Math.sin(h),
    );
  };
  const edge = Math.atan(Math.tan(10 * RAD) * Math.cos(sun.azimuthDeg * RAD)) / RAD;
  expect(ray(edge - 0.001)).toBe(0);
  expect(ray(edge + 0.001)).toBe(-1);
});

const LEVEL: Ground = { kind: 'level', levelM: 0 };

/** Area left out of a level target of 10 × 10 m at a height, and what is left. */
function leftOut(project: Project, levelM: number, meshes = new Map<string, Mesh>()) {
  project.targets = [
    {
      id: 't',
      name: 'Deck',
      kind: 'ground',
      outline: [
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ],
      spacingM: 0.5,
      offsetM: 0.1,
      levelM,
    },
  ];
  const plan = planStudy(project, 'a', study(['t']), meshes);
  const summary = summarize(plan, runStudy(project, plan, meshes));
  expect(summary.areaM2 + summary.insideM2 + summary.builtOverM2).toBeCloseTo(100, 6);
  return { insideM2: summary.insideM2, notes: summary.notes };
}

test('a level target under a slope is left out there, with its area said', () => {
  const project = emptyProject('P', 2026);
  // The ground is at 1 m where x = 5.
  project.site.ground = { kind: 'plane', levelM: 0, slopeDeg: Math.atan(0.2) / RAD, fallsTowardsDeg: 270 };
  const { insideM2, notes } = leftOut(project, 0.9);
  expect(insideM2).toBeCloseTo(50, 6);
  expect(notes).toContain('50.0 m² of “Deck” lie inside the ground or a solid and are not counted.');
});

test('of many places that are left out the sum is said and the largest are named, two of one name as one', () => {
  const project = emptyProject('P', 2026);
  project.site.ground = LEVEL;
  // The last lies over the ground.
  const sizes = [4, 6, 3, 2, 5, 1];
  project.targets = sizes.map((size, i) => ({
    ...{ kind: 'ground' as const, id: `t${i}`, name: i === 4 ? 'Deck 0' : `Deck ${i}` },
    outline: [
      [i * 20, 0],
      [i * 20 + size, 0],
      [i * 20 + size, 1],
      [i * 20, 1],
    ] as [number, number][],
    ...{ spacingM: 0.5, offsetM: 0.1, levelM: i === 5 ? 1 : -1 },
  }));
  const { notes } = planStudy(project, 'a', study(project.targets.map(({ id }) => id)), new Map());
  expect(notes).toContain(
    '20.0 m² of 4 places lie inside the ground or a solid and are not counted: “Deck 0” 9.0 m², “Deck 1” 6.0 m², “Deck 2” 3.0 m² and 1 more.',
  );
});

test('what lies inside a solid is left out: a mass, a roof’s slope, a wall, a closed mesh; not inside a room or a sheet', () => {
  const on = (change: (project: Project) => void) => {
    const project = emptyProject('P', 2026);
    project.site.ground = LEVEL;
    change(project);
    return project;
  };
  const block = defaultMass(
    'm',
    'M',
    [
      [2, 2],
      [6, 2],
      [6, 7],
      [2, 7],
    ],
    2,
  );
  const withMass = on((p) => p.options[1]!.masses.push(block));
  expect(leftOut(withMass, 4).insideM2).toBeCloseTo(20, 6);
  expect(leftOut(withMass, 6.1).insideM2).toBe(0);
  const gabled = on((p) => p.options[1]!.masses.push({ ...block, roof: { kind: 'gable', riseM: 2 } }));
  // At half of the rise (less the offset) the roof is half as wide: 2 of 4 m over 5 m.
  expect(leftOut(gabled, 6.9).insideM2).toBeCloseTo(10, 6);
  const wall = on((p) =>
    p.neighbours.push({
      kind: 'wall',
      id: 'w',
      name: 'W',
      path: [
        [0, 5],
        [10, 5],
      ],
      heightM: 3,
      thicknessM: 1,
      demolished: false,
    }),
  );
  expect(leftOut(wall, 1).insideM2).toBeCloseTo(10, 6);
  const roomy = on((p) =>
    p.options[1]!.masses.push({
      ...block,
      partitions: [
        {
          id: 'p',
          storey: 0,
          path: [
            [4, 2],
            [4, 7],
          ],
        },
      ],
    }),
  );
  expect(leftOut(roomy, 1).insideM2).toBe(0);
  const box: Mesh = {
    positions: Float64Array.of(1, 1, 0, 4, 1, 0, 4, 5, 0, 1, 5, 0, 1, 1, 3, 4, 1, 3, 4, 5, 3, 1, 5, 3),
    triangles: Uint32Array.of(
      0,
      2,
      1,
      0,
      3,
      2,
      4,
      5,
      6,
      4,
      6,
      7,
      0,
      1,
      5,
      0,
      5,
      4,
      1,
      2,
      6,
      1,
      6,
      5,
      2,
      3,
      7,
      2,
      7,
      6,
      3,
      0,
      4,
      3,
      4,
      7,
    ),
  };
  const named = (mesh: Mesh) =>
    on((p) =>
      p.options[1]!.models.push({
        id: 'x',
        name: 'X',
        mesh: 'a'.repeat(64),
        triangles: mesh.triangles.length / 3,
        move: [0, 0, 0],
        turnDeg: 0,
        openness: 0,
        openings: [],
        demolished: false,
      }),
    );
  expect(leftOut(named(box), 1, new Map([['a'.repeat(64), box]])).insideM2).toBeCloseTo(12, 6);
  const sheet: Mesh = { ...box, triangles: Uint32Array.of(4, 5, 6, 4, 6, 7, 4, 6, 5, 4, 7, 6) };
  expect(leftOut(named(sheet), 1, new Map([['a'.repeat(64), sheet]])).insideM2).toBe(0);
});
