import fc from 'fast-check';
import { boxMesh, HASH, modelAt, SOUTH } from '../../testing/meshes';
import { moveOwners, placeModel } from '../document';
import { flipTarget, meshFace, onFace, shiftBy, targetOfFace, turnAbout } from '../form';
import { dot } from '../geometry';
import { faceOfOwner } from '../openings';
import { emptyProject, type PlaneTarget, type Project, projectSchema, type Study } from '../project';
import { cellAt, cellShape, layGrid } from './sensor-grid';
import { planStudy, runStudy } from './run-study';
import { targetAreaM2, targetSurface } from './target-surface';

const GROUND = { kind: 'level', levelM: 0 } as const;
const MESH = boxMesh(6, 4, 3);
const MESHES = new Map([[HASH, MESH]]);
const KIOSK = { optionId: 'a', id: 'kiosk' };
const south = () => targetOfFace(meshFace(modelAt([0, 0, 0]), MESH, SOUTH)!, 'south', 'South', KIOSK);

test('a face becomes a target of its size that faces outwards', () => {
  const target = south();
  expect(targetAreaM2(target)).toBeCloseTo(18, 12);
  const { at, normal } = targetSurface(target, GROUND);
  expect(normal([0, 0])).toEqual([0, -1, 0]);
  expect(at([1, 2], 0.5)).toEqual([1, -0.5, 2]);
  expect(flipTarget(flipTarget(target))).toEqual(target);
});

test('flipped, it covers the same points and faces the other side', () => {
  const [one, other] = [south(), flipTarget(south())].map((target) => layGrid([target], GROUND, []));
  expect(other!.count).toBe(one!.count);
  const places = (grid: typeof one, lift: number) =>
    Array.from({ length: grid!.count }, (_, i) =>
      [0, 1, 2]
        .map((k) => (grid!.positions[i * 3 + k]! - lift * grid!.normals[i * 3 + k]!).toFixed(6))
        .join(),
    ).sort();
  expect(places(other, 0.01)).toEqual(places(one, 0.01));
  expect([...other!.normals.subarray(0, 3)].map((v) => v + 0)).toEqual([0, 1, 0]);
});

test('cells of a target with a hole sum to what is left, and no point stands in the hole', () => {
  const size = fc.double({ min: 0.3, max: 2.5, noNaN: true });
  const place = fc.double({ min: 0.1, max: 2, noNaN: true });
  fc.assert(
    fc.property(place, place, size, size, fc.constantFrom(0.25, 0.7, 1.3), (u, v, w, h, spacingM) => {
      const x1 = Math.min(5.9, u + w);
      const y1 = Math.min(2.9, v + h);
      const holes: PlaneTarget['holes'] = [
        [
          [u, v],
          [u, y1],
          [x1, y1],
          [x1, v],
        ],
      ];
      const target: PlaneTarget = { ...south(), holes, spacingM };
      const grid = layGrid([target], GROUND, []);
      const left = 18 - (x1 - u) * (y1 - v);
      expect(grid.areas.reduce((a, b) => a + b, 0)).toBeCloseTo(left, 6);
      const { under } = targetSurface(target, GROUND);
      const wrong: unknown[] = [];
      for (let i = 0; i < grid.count; i++) {
        const { p, offM } = under([
          grid.positions[i * 3]!,
          grid.positions[i * 3 + 1]!,
          grid.positions[i * 3 + 2]!,
        ]);
        const inHole = p[0] > u + 1e-9 && p[0] < x1 - 1e-9 && p[1] > v + 1e-9 && p[1] < y1 - 1e-9;
        const { column, row } = cellAt(target, p);
        const itsOwn = column === grid.cells[i * 2] && row === grid.cells[i * 2 + 1];
        if (Math.abs(offM - 0.01) > 5e-10 || inHole || !itsOwn || !cellShape(target, column, row).length)
          wrong.push({ p, offM, column, row });
      }
      expect(wrong).toEqual([]);
    }),
    { numRuns: 40 },
  );
});

function project(targets: PlaneTarget[]): Project {
  const made = emptyProject('Kiosk', 2026);
  made.site.place = { ...made.site.place, latitudeDeg: 52, longitudeDeg: 0, zone: 'UTC', elevationM: 0 };
  made.options.find(({ id }) => id === 'a')!.models.push(modelAt([0, 0, 0]));
  made.targets.push(...targets);
  made.studies.push(STUDY);
  return projectSchema.parse(made);
}

const STUDY: Study = {
  id: 'hours',
  name: 'Hours',
  kind: 'sun-hours',
  targets: ['south', 'north'],
  window: { from: '2026-03-20', to: '2026-03-20', startMinutes: 0, endMinutes: 1440 },
  stepMinutes: 2,
  criterion: { atLeast: 2, share: 0.5, source: '' },
  scale: null,
};

test('at the equinox a south wall has all of the day, a north wall none', () => {
  const north = targetOfFace(meshFace(modelAt([0, 0, 0]), MESH, SOUTH + 4)!, 'north', 'North', KIOSK);
  const made = project([south(), north]);
  const plan = planStudy(made, 'a', made.studies[0]!, MESHES);
  const hours = runStudy(made, plan, MESHES).hours!;
  for (let i = 0; i < plan.grid.count; i++) {
    // The centre of the sun is up for 12 h and some minutes of refraction; before and after it the wall is grazed.
    if (plan.grid.target[i] === 0) expect(Math.abs(hours[i]! - 12.1)).toBeLessThan(0.25);
    else expect(hours[i]!).toBeLessThan(0.15);
  }
});

test('a target goes along with the mesh that it was taken from, and only then', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -50, max: 50 }),
      fc.integer({ min: -50, max: 50 }),
      fc.double({ min: -180, max: 180, noNaN: true }),
      fc.integer({ min: -3, max: 9 }),
      (x, y, turnDeg, raiseM) => {
        const start = project([south(), { ...south(), id: 'north', of: null }]);
        const turned = moveOwners([KIOSK], turnAbout([3, 2], turnDeg))(start);
        const moved = moveOwners([KIOSK], shiftBy(x, y))(turned);
        const { move, turnDeg: now } = moved.options.find(({ id }) => id === 'a')!.models[0]!;
        const placed = placeModel(KIOSK, { move: [move[0], move[1], raiseM], turnDeg: now - 30 })(moved);
        const face = faceOfOwner(placed, KIOSK, `mesh/${SOUTH}`, MESHES)!;
        const target = placed.targets[0] as PlaneTarget;
        const { at, normal } = targetSurface(target, GROUND);
        expect(dot(normal([0, 0]), face.normal)).toBeCloseTo(1, 9);
        onFace(face, [6, 3]).forEach((value, k) => expect(value).toBeCloseTo(at([6, 3])[k]!, 6));
        expect(placed.targets[1]).toBe(start.targets[1]);
        expect(projectSchema.safeParse(placed).success).toBe(true);
      },
    ),
    { numRuns: 50 },
  );
});

test('a plane whose axes are no unit vectors, or not square to each other, is refused', () => {
  const refused = (fields: Partial<PlaneTarget>) =>
    projectSchema.safeParse({ ...emptyProject('P', 2026), targets: [{ ...south(), ...fields }] }).error
      ?.issues[0]?.message;
  expect(refused({ u: [2, 0, 0] })).toBe(
    'u and v of a plane must be unit vectors at a right angle to each other.',
  );
  expect(refused({ v: [1, 0, 0] })).toBe(
    'u and v of a plane must be unit vectors at a right angle to each other.',
  );
});
