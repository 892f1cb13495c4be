import { defaultMass, emptyProject, type Project } from '../project';
import { assembleScene } from '../scene';
import { shadowAngles, sunPosition } from '../sun';
import { sceneObstacles } from '../trace';
import { momentsCsv, readMomentsTable } from './moment-table';

const DAY = Date.UTC(2026, 2, 21);
const moments = Array.from({ length: 24 }, (_, h) => ({
  atMs: DAY + h * 3_600_000,
  date: '2026-03-21',
  minutes: h * 60,
  note: null,
}));

/** A tower south of the origin. */
function withTower(): Project {
  const project = emptyProject('P', 2026);
  project.options[1]!.masses = [
    defaultMass(
      't',
      'Tower',
      [
        [-5, -20],
        [5, -20],
        [5, -10],
        [-5, -10],
      ],
      10,
    ),
  ];
  return project;
}

test('a stick casts its height over the tangent of the altitude; nothing at night', () => {
  const { site } = emptyProject('P', 2026);
  for (const r of readMomentsTable(site, moments, { stickM: 2.5 })) {
    if (r.altitudeDeg <= 0) {
      expect(r.shadowM).toBeNull();
      expect(r.note).toContain('below the horizon');
    } else {
      // Twice the height casts twice the length, and height, shadow and ray make a right triangle.
      expect(Math.hypot(2.5, r.shadowM!) * Math.sin((r.altitudeDeg * Math.PI) / 180)).toBeCloseTo(2.5, 9);
    }
  }
});

test('shadow angles are those of the sun to the facade; the vertical one is null behind it and at night', () => {
  const { site } = emptyProject('P', 2026);
  for (const [i, r] of readMomentsTable(site, moments, { facadeAzimuthDeg: 200 }).entries()) {
    const sun = sunPosition(moments[i]!.atMs, site.place);
    const wanted = shadowAngles(sun.altitudeDeg, sun.azimuthDeg, 200);
    expect(r.hsaDeg).toBe(wanted.hsaDeg);
    expect(r.vsaDeg).toBe(sun.altitudeDeg > 0 ? wanted.vsaDeg : null);
  }
});

test('a point behind a tower has sun in the morning and evening, and the tower takes it at noon', () => {
  const project = withTower();
  const scene = assembleScene(project, 'a', new Map());
  const point = {
    at: [0, 0, 0.1] as const,
    normal: null,
    obstacles: sceneObstacles(scene),
    owners: { surfaceOf: scene.surfaceOf, ownerOf: scene.ownerOf, count: scene.owners.length },
  };
  const found = readMomentsTable(project.site, moments, { point });
  const at = (hour: number) => found[hour]!;
  expect(at(12)).toMatchObject({ sun: 0 });
  expect(scene.owners[at(12).owner!]!.name).toBe('Tower');
  for (const hour of [8, 16]) expect(at(hour)).toMatchObject({ sun: 1, owner: null });
  expect(at(2)).toMatchObject({ sun: 0, owner: null });
  const csv = momentsCsv(found, (owner) => `“${scene.owners[owner]!.name}”, the "one"`);
  const lines = csv.trimEnd().split('\n');
  expect(lines[0]).toBe('date,clock,solar,utc,altitude_deg,azimuth_deg,shadow_m,sun,shaded_by');
  expect(lines).toHaveLength(25);
  expect(lines[13]).toContain('"“Tower”, the ""one"""');
});

test('a point on a face that looks away from the sun has none', () => {
  const project = withTower();
  const scene = assembleScene(project, 'a', new Map());
  const owners = { surfaceOf: scene.surfaceOf, ownerOf: scene.ownerOf, count: scene.owners.length };
  const point = {
    at: [50, 0, 3] as const,
    normal: [0, 1, 0] as const,
    obstacles: sceneObstacles(scene),
    owners,
  };
  const noon = readMomentsTable(project.site, [moments[12]!], { point })[0]!;
  expect(noon).toMatchObject({ sun: 0, owner: null });
});
