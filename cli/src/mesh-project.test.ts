import { emptyProject, type Project } from '@dial-shade/core';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { boxMesh, HASH, modelAt, SOUTH } from '../../core/testing/meshes';
import { SMALL_IFC } from '../../core/testing/small-ifc';
import { dial } from '../testing/dial';

const folder = mkdtempSync(join(tmpdir(), 'dial-mesh-'));

function file(name: string, project: unknown): string {
  const path = join(folder, name);
  writeFileSync(path, JSON.stringify(project));
  return path;
}

/** A kiosk of 6 × 4 × 3 m with a window and a door by rule, its south face measured at the March equinox. */
function kiosk(): Project & { meshes: unknown } {
  const project = emptyProject('Kiosk', 2026);
  const { positions, triangles } = boxMesh(6, 4, 3);
  project.site.place = {
    ...project.site.place,
    latitudeDeg: 52,
    longitudeDeg: 0,
    zone: 'UTC',
    elevationM: 0,
  };
  const option = project.options.find(({ id }) => id === 'a')!;
  const host = { on: 'mesh' as const, face: SOUTH };
  option.models.push(
    modelAt([0, 0, 0], {
      openings: [
        {
          id: 'w',
          name: 'Window',
          host,
          outline: { kind: 'rectangle', u: 1, v: 0.9, widthM: 2, heightM: 1.5 },
          kind: 'window',
          glazing: 'double',
          revealM: 0,
          openable: true,
          grid: null,
        },
      ],
    }),
  );
  option.rules.push({
    id: 'gate',
    name: 'Gate',
    scope: { owners: null, sectors: null, storeys: null, walls: ['kiosk/mesh/6'], except: [] },
    make: { by: 'door', widthM: 1, heightM: 2.1, jambM: 0.3, opaque: true },
    glazing: 'double',
    revealM: 0.1,
    openable: true,
  });
  project.targets.push({
    kind: 'plane',
    id: 'south',
    name: 'South face',
    origin: [0, 0, 0],
    u: [1, 0, 0],
    v: [0, 0, 1],
    outline: [
      [0, 0],
      [6, 0],
      [6, 3],
      [0, 3],
    ],
    holes: [],
    spacingM: 1.5,
    offsetM: 0.01,
    of: { optionId: 'a', id: 'kiosk' },
  });
  project.studies.push({
    id: 'equinox',
    name: 'Equinox',
    kind: 'sun-hours',
    targets: ['south'],
    window: { from: '2026-03-20', to: '2026-03-20', startMinutes: 540, endMinutes: 900 },
    stepMinutes: 10,
    criterion: { atLeast: 2, share: 0.5, source: '' },
    scale: null,
  });
  return { ...project, meshes: { [HASH]: { positions: [...positions], triangles: [...triangles] } } };
}

test('openings in faces of a mesh are listed with those of masses; figures and check know them', () => {
  const path = file('kiosk.json', kiosk());
  expect(dial('check', path).status).toBe(0);
  const { bodies } = JSON.parse(dial('openings', path, '--option', 'A').stdout);
  expect(bodies).toHaveLength(1);
  expect(bodies[0]).toMatchObject({ owner: 'kiosk', option: 'a', misfits: [], gaveWay: [] });
  expect(bodies[0].openings.map((o: { face: string; rule: string | null }) => [o.face, o.rule])).toEqual([
    ['mesh/4', null],
    ['mesh/6', 'gate'],
  ]);
  const [window, door] = bodies[0].openings;
  expect(window).toMatchObject({ leftM: 1, sillM: 0.9, widthM: 2, headM: 2.4, areaM2: expect.closeTo(3, 9) });
  // In the middle of the east face, 4 m wide.
  expect(door).toMatchObject({ kind: 'door', glazing: null, leftM: 1.5, widthM: 1 });
});

test('a study on a plane: the sensors stand off the face and look out of it', () => {
  const path = file('kiosk.json', kiosk());
  const out = join(folder, 'out');
  expect(dial('run', path, '--study', 'Equinox', '--option', 'A', '--out', out).status).toBe(0);
  const [head, ...rows] = readFileSync(join(out, 'sensors.csv'), 'utf8').trim().split('\n');
  expect(head).toMatch(/^x,y,z,nx,ny,nz,area/);
  expect(rows).toHaveLength(8);
  // From nine to three the sun stands in the south of the wall, and nothing is in its way.
  expect(rows[0]).toBe('0.75,-0.01,0.75,0,-1,0,2.25,6,6,09:00,15:00');
  const summary = JSON.parse(readFileSync(join(out, 'summary.json'), 'utf8'));
  expect(summary).toMatchObject({ areaM2: 18, builtOverM2: 0, hours: { min: 6, mean: 6, max: 6 } });
});

test('a wrong host, plane or exception is told with its place in the document', () => {
  const project = kiosk();
  const option = project.options.find(({ id }) => id === 'a')!;
  (option.models[0]!.openings[0]!.host as unknown as { on: string }).on = 'window';
  option.rules[0]!.scope.except = ['kiosk'];
  (project.targets[0] as { u: number[] }).u = [0, 0, 1];
  const { status, stderr } = dial('check', file('wrong.json', project));
  expect(status).toBe(1);
  expect(stderr).toContain(
    'model “Kiosk”, opening “Window”: An opening sits in a “wall”, in a “roof” or in a “mesh”.',
  );
  expect(stderr).toContain('An exception is named owner/ring/edge/storey.');
  expect(stderr).toContain('Target “South face”: u and v of a plane must be unit vectors');
});

test('spaces of a building model come in as rooms of the masses they lie in, else as areas', () => {
  const ifc = join(folder, 'clinic.ifc');
  writeFileSync(ifc, SMALL_IFC);
  const empty = file('empty.json', emptyProject('E', 2026));
  const out = join(folder, 'rooms.json');
  const brought = dial(
    'bring-in',
    empty,
    ifc,
    '--out',
    out,
    '--as',
    'leave',
    '--part',
    'rooms=rooms',
    '--option',
    'a',
  );
  expect(brought.status).toBe(0);
  expect(brought.stdout + brought.stderr).toContain('lies in no mass of the option; it became an area.');
  const { areas } = JSON.parse(readFileSync(out, 'utf8')) as Project;
  expect(areas.map(({ name, use }) => [name, use])).toEqual([['Treatment room', 'room']]);
});

test('a model at the coordinates of a national grid comes in by the survey that it sets, centred, or by a point of it', () => {
  const box = boxMesh(12, 8, 6);
  const [x0, y0] = [691_234, 5_334_567];
  const vertices: string[] = [];
  for (let i = 0; i < box.positions.length; i += 3)
    vertices.push(`v ${box.positions[i]! + x0} ${box.positions[i + 1]! + y0} ${box.positions[i + 2]!}`);
  const faces: string[] = [];
  for (let t = 0; t < box.triangles.length; t += 3)
    faces.push(`f ${[0, 1, 2].map((k) => box.triangles[t + k]! + 1).join(' ')}`);
  const path = join(folder, 'grid.obj');
  writeFileSync(path, ['o Store', ...vertices, ...faces, ''].join('\n'));
  const into = file('empty.json', emptyProject('Grid', 2026));
  // What is guessed, and what would be moved, is told before it comes in.
  const { notes } = JSON.parse(dial('model', path).stdout);
  expect(notes.join(' ')).toContain('The file states no unit; by its size it is taken as metres.');
  expect(notes.join(' ')).toContain('in the coordinates of a survey');
  const out = join(folder, 'grid.json');
  const brought = dial('bring-in', into, path, '--out', out);
  expect(brought.status).toBe(0);
  expect(brought.stdout).toContain('In metres (guessed by size): 12 × 8 m in plan, 6 m high.');
  expect(brought.stdout).toContain('in the coordinates of a survey');
  const { site } = JSON.parse(readFileSync(out, 'utf8')) as Project;
  expect(site.survey).toEqual({ x: x0 + 6, y: y0 + 4, z: 0, system: null });
  for (const more of [['--centre'], ['--origin', `${x0},${y0}`]]) {
    expect(dial('bring-in', into, path, ...more, '--out', out).status).toBe(0);
    expect(dial('check', out).status).toBe(0);
  }
  // What reaches further than a project does is refused, and nothing is written.
  const none = join(folder, 'none.json');
  const far = join(folder, 'far.obj');
  writeFileSync(far, ['o A', ...vertices, ...faces, `v ${x0 + 300_000} ${y0} 0`, 'f 1 2 9', ''].join('\n'));
  const refused = dial('bring-in', into, far, '--out', none);
  expect(refused.status).toBe(1);
  expect(refused.stderr).toContain('this model would be 300 km long');
  expect(existsSync(none)).toBe(false);
});
