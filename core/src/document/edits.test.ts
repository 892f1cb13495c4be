import { mirrorIn, shiftBy, turnAbout } from '../form';
import {
  defaultMass,
  emptyProject,
  findBody,
  findOwner,
  meshesNamed,
  type Model,
  type Project,
  rulesFor,
} from '../project';
import { assembleScene } from '../scene';
import { problems } from './check';
import {
  addModel,
  changeOwner,
  copyOwners,
  editRules,
  moveOwners,
  removeOwners,
  renameMeshes,
  reshapeBody,
} from './edits';
import { freeId } from './ids';
import { duplicateOption, shiftOption } from './option-edits';
import { kelpLane } from '@dial-shade/samples';
const MODEL: Model = {
  id: 'sail',
  name: 'Sail',
  mesh: 'a'.repeat(64),
  triangles: 1,
  move: [4, 0, 2],
  turnDeg: 10,
  openness: 0,
  openings: [],
  demolished: false,
};

function withModel(): Project {
  return addModel('a', MODEL)(kelpLane());
}

test('what is not touched is the same object, so that its pieces are kept', () => {
  const before = kelpLane();
  const after = moveOwners([{ optionId: 'a', id: 'bar' }], shiftBy(1, 0))(before);
  expect(after.neighbours).toBe(before.neighbours);
  expect(after.options[2]).toBe(before.options[2]);
  expect(after.options[1]).not.toBe(before.options[1]);
  expect(after.options[1]!.rules).toBe(before.options[1]!.rules);
});

test('everything that stands can be moved and turned; a mesh cannot be mirrored, and says so', () => {
  const project = withModel();
  const all = [
    { optionId: null, id: 'rowan' },
    { optionId: null, id: 'allotment-fence' },
    { optionId: 'a', id: 'sail' },
  ];
  const moved = moveOwners(all, shiftBy(3, -2))(project);
  expect(findOwner(moved, all[0]!)).toMatchObject({ at: [0.5, 22.5] });
  expect(findOwner(moved, all[1]!)).toMatchObject({
    path: [
      [-26, 12],
      [-1, 12],
      [-1, 39],
    ],
  });
  expect(findOwner(moved, all[2]!)).toMatchObject({ move: [7, -2, 2] });
  const turned = moveOwners([all[2]!], turnAbout([0, 0], 90))(project);
  expect(findOwner(turned, all[2]!)).toMatchObject({ move: [0, 4, 2], turnDeg: 100 });
  expect(() => moveOwners([all[2]!], mirrorIn([0, 0], [0, 1]))(project)).toThrow(
    '“Sail” is an imported mesh; it can be moved and turned, not mirrored.',
  );
});

test('copies have ids and names of their own, stand behind their originals, and the project stays sound', () => {
  const owners = [
    { optionId: 'a', id: 'bar' },
    { optionId: null, id: 'lime' },
  ];
  const project = copyOwners(owners, [shiftBy(0, 40), shiftBy(0, 80), shiftBy(0, 120)])(kelpLane());
  expect(problems(project)).toEqual([]);
  const masses = project.options[1]!.masses;
  expect(masses.map((m) => m.name)).toEqual(['Bar', 'Bar 2', 'Bar 3', 'Bar 4']);
  expect(new Set(masses.map((m) => m.id)).size).toBe(4);
  expect(masses[2]!.footprint.outer[0]).toEqual([2, 84]);
  const at = project.neighbours.findIndex((n) => n.id === 'lime');
  expect(project.neighbours.slice(at, at + 4).map((n) => n.name)).toEqual([
    'Lime in the lane',
    'Lime in the lane 2',
    'Lime in the lane 3',
    'Lime in the lane 4',
  ]);
});

test('only bodies are reshaped; others are left alone', () => {
  const project = kelpLane();
  const reshaped = reshapeBody({ optionId: null, id: 'lime' }, (body) => ({ ...body, storeys: [] }))(project);
  expect(findOwner(reshaped, { optionId: null, id: 'lime' })).toEqual(
    findOwner(project, { optionId: null, id: 'lime' }),
  );
  expect(findBody(project, { optionId: null, id: 'lime' })).toBeUndefined();
  expect(findBody(project, { optionId: null, id: 'net-loft' })!.name).toBe('Net loft');
});

test('neighbours that are taken down with the proposal stand only in Today', () => {
  const project = changeOwner({ optionId: null, id: 'rope-store' }, { demolished: true })(kelpLane());
  const names = (option: string) => assembleScene(project, option, new Map()).owners.map((o) => o.name);
  expect(names('today')).toContain('Rope store');
  expect(names('a')).not.toContain('Rope store');
  const gone = removeOwners([{ optionId: null, id: 'rope-store' }])(project);
  expect(gone.neighbours).toHaveLength(project.neighbours.length - 1);
});

test('options are put in another order, Today staying what it is', () => {
  const order = (project: Project) => project.options.map((o) => o.id).join();
  expect(order(shiftOption('b', 1)(kelpLane()))).toBe('today,a,c,b');
  expect(order(shiftOption('b', -1)(kelpLane()))).toBe('today,b,a,c');
  const same = kelpLane();
  expect(shiftOption('a', -1)(same)).toBe(same);
});

test('a duplicate takes rules and models along', () => {
  const copy = duplicateOption('a')(withModel()).options.at(-1)!;
  expect(copy.letter).toBe('D');
  expect(copy.rules.map((r) => r.name)).toEqual(['Treatment rooms', 'Flats']);
  expect(copy.models).toEqual([MODEL]);
});

test('rules belong to an option or to the neighbours', () => {
  const project = editRules('b', () => kelpLane().options[1]!.rules)(kelpLane());
  expect(rulesFor(project, 'b')).toHaveLength(2);
  expect(editRules(null, () => [])(project).neighbourRules).toEqual([]);
  expect(rulesFor(project, null).map((r) => r.name)).toEqual(['Terrace windows']);
});

test('meshes are named by neighbours and models, and can be named anew', () => {
  const project = withModel();
  expect([...meshesNamed(project)]).toEqual([['a'.repeat(64), 'Sail']]);
  const renamed = renameMeshes(project, new Map([['a'.repeat(64), 'b'.repeat(64)]]));
  expect([...meshesNamed(renamed).keys()]).toEqual(['b'.repeat(64)]);
});

test('a fresh id is used nowhere, not even inside a mass', () => {
  const mass = {
    ...defaultMass(
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
    rooms: [{ id: 'room', name: 'R', storey: 0, at: [1, 1] as [number, number], doubleHeight: false }],
  };
  const project = emptyProject('E', 2026);
  project.options[1]!.masses.push(mass);
  expect(freeId(project, 'room')).toBe('room-2');
  expect(freeId(project, 'desk')).toBe('desk');
});
