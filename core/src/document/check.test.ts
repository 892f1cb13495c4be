import { kelpLane } from '@dial-shade/samples';
import { InputError } from '../errors';
import { defaultMass, emptyProject, migrate, type Project, projectFileSchema } from '../project';
import { editProblems, parseProject, parseProjectFile, problems } from './check';
import { addMass, moveOwner, removeMass } from './edits';
import { add, change, remove } from './list-edits';
import { newId } from './ids';
import { mergeDocuments, sameJson } from './merge';
import { duplicateOption } from './option-edits';

type Loose = { [key: string]: Loose } & Loose[];

/** The sample with one thing changed in place. */
function broken(spoil: (project: Loose) => void): string[] {
  const project = structuredClone(kelpLane()) as unknown as Loose;
  spoil(project);
  return problems(project, projectFileSchema);
}

test('the samples and an empty project are sound', () => {
  expect(problems(kelpLane())).toEqual([]);
  expect(problems(emptyProject('New', 2026))).toEqual([]);
  expect(parseProject(kelpLane())).toEqual(kelpLane());
});

const set = (value: unknown) => value as Loose;

test.each<[string, (p: Loose) => void, string]>([
  [
    'latitude',
    (p) => (p.site!.place!.latitudeDeg = set(95)),
    'Latitude 95 degrees is outside −90 to 90 degrees.',
  ],
  [
    'zone',
    (p) => (p.site!.place!.zone = set('Europe/Atlantis')),
    'The time zone “Europe/Atlantis” does not exist',
  ],
  [
    'crossing',
    (p) =>
      (p.options![1]!.masses![0]!.footprint!.outer = set([
        [0, 0],
        [9, 9],
        [9, 0],
        [0, 9],
      ])),
    'Option “Bar”, mass “Bar”: The footprint crosses itself near (4.50, 4.50)',
  ],
  [
    'two points',
    (p) =>
      (p.options![1]!.masses![0]!.footprint!.outer = set([
        [0, 0],
        [9, 9],
      ])),
    'The footprint has 2 corners',
  ],
  [
    'zero area',
    (p) =>
      (p.options![1]!.masses![0]!.footprint!.outer = set([
        [0, 0],
        [5, 0],
        [9, 0],
      ])),
    'encloses no area',
  ],
  [
    'flat storey',
    (p) => (p.options![1]!.masses![0]!.storeys![1]!.heightM = set(0)),
    'mass “Bar”, storey 2: The storey height 0 m is outside 0.1 to 100 m.',
  ],
  [
    'tall storey',
    (p) => (p.options![1]!.masses![0]!.storeys![0]!.heightM = set(10000)),
    'The storey height 10000 m is outside',
  ],
  [
    'not a number',
    (p) => (p.site!.place!.elevationM = set('high')),
    'Elevation must be a number from −500 to 9000 m.',
  ],
  [
    'gable',
    (p) => (p.options![2]!.masses![0]!.roof = set({ kind: 'gable', riseM: 2 })),
    'A gable roof needs a footprint of four corners',
  ],
  [
    'unknown target',
    (p) => (p.studies![0]!.targets = set(['lawn'])),
    'Study “Courtyards on 21 March”: The target “lawn” does not exist.',
  ],
  ['same id', (p) => (p.targets![1]!.id = set('garden')), 'The id “garden” is used twice.'],
  ['no today', (p) => p.options!.shift(), 'The option “today” is missing.'],
  ['date', (p) => (p.studies![0]!.window!.from = set('2026-02-30')), '“2026-02-30” is not a date'],
  [
    'window backwards',
    (p) => (p.studies![0]!.window!.to = set('2025-03-21')),
    'ends (2025-03-21) before it starts (2026-03-21)',
  ],
  [
    'missing part',
    (p) => delete (p as unknown as { site?: unknown }).site,
    '“site” is missing or not of the right kind.',
  ],
  ['wrong format', (p) => (p.format = set('other')), 'its “format” is not “dial-shade-project”'],
  ['later version', (p) => (p.version = set(99)), 'The project file is of version 99'],
])('a file with a bad %s is answered in a sentence', (_, spoil, sentence) => {
  const found = broken(spoil);
  expect(found.join('\n')).toContain(sentence);
});

test('every problem is listed, not only the first', () => {
  const found = broken((p) => {
    p.site!.place!.latitudeDeg = set(95);
    p.targets![0]!.spacingM = set(0);
  });
  expect(found).toHaveLength(2);
  expect(problems('nonsense')).toEqual([
    'This is not a Dial Shade project file: it does not hold one JSON object.',
  ]);
});

test('a file without the mesh that a neighbour names is refused', () => {
  const project = kelpLane();
  const mesh = {
    kind: 'mesh' as const,
    id: 'm',
    name: 'Pier',
    mesh: 'a'.repeat(64),
    triangles: 1,
    move: [0, 0, 0] as [number, number, number],
    turnDeg: 0,
  };
  expect(() => parseProjectFile({ ...project, neighbours: [mesh] })).toThrow(
    'The mesh of “Pier” is not in the file.',
  );
});

test('migrations run one version at a time', () => {
  const steps = { 1: (d: object) => ({ ...d, one: true }), 2: (d: object) => ({ ...d, two: true }) };
  const old = { format: 'dial-shade-project', version: 1 };
  expect(migrate(old, steps, 3)).toEqual({ ...old, version: 3, one: true, two: true });
  expect(() => migrate(old, {}, 3)).toThrow(InputError);
});

test('edits share what they do not change', () => {
  const before = kelpLane();
  const after = moveOwner({ optionId: 'a', id: 'bar' }, 2, -1)(before);
  expect(after.options[1]!.masses[0]!.footprint.outer[0]).toEqual([4, 3]);
  expect(before.options[1]!.masses[0]!.footprint.outer[0]).toEqual([2, 4]);
  expect(after.neighbours).toBe(before.neighbours);
  expect(after.options[2]).toBe(before.options[2]);
  const back = moveOwner({ optionId: 'a', id: 'bar' }, -2, 1)(after);
  expect(sameJson(back, before)).toBe(true);
});

test('options are copied whole under a new letter, and Today stays', () => {
  const project = duplicateOption('c')(kelpLane());
  expect(project.options.at(-1)).toMatchObject({ letter: 'D', name: 'Stepped copy', hue: 3 });
  expect(project.options.at(-1)!.masses).toHaveLength(3);
  expect(() => remove('options', 'today')(project)).toThrow('Today cannot be removed');
  expect(problems(project)).toEqual([]);
});

test('removing a target takes it out of its studies', () => {
  const project = remove('targets', 'garden')(kelpLane());
  expect(project.studies.map((study) => study.targets)).toEqual(
    kelpLane().studies.map(({ targets }) => targets.filter((target) => target !== 'garden')),
  );
  expect(project.studies.filter(({ targets }) => targets.length === 0)).toHaveLength(2);
  expect(problems(project)).toEqual([]);
});

test('masses come and go, ids stay unique', () => {
  const start = kelpLane();
  const id = newId('bar');
  expect(id).toMatch(/^bar-[\w-]{10}$/);
  expect(newId('bar')).not.toBe(id);
  const more = addMass(
    'a',
    defaultMass(
      id,
      'Wing',
      [
        [0, 0],
        [5, 0],
        [5, 5],
      ],
      2,
    ),
  )(start);
  expect(more.options[1]!.masses).toHaveLength(2);
  expect(removeMass('a', id)(more)).toEqual(start);
});

describe('merging two people’s edits', () => {
  const base = kelpLane();
  const rename = (p: Project, name: string) => change('targets', 'garden', { name })(p);

  test('edits in different places are both kept', () => {
    const mine = rename(base, 'Plots');
    const theirs = moveOwner({ optionId: 'a', id: 'bar' }, 1, 0)(base);
    const { merged, conflicts } = mergeDocuments(base, mine, theirs);
    expect(conflicts).toEqual([]);
    expect(merged.targets[0]!.name).toBe('Plots');
    expect(merged.options[1]!.masses[0]!.footprint.outer[0]).toEqual([3, 4]);
  });

  test('additions on both sides are kept, removals too', () => {
    const target = base.targets[1]!;
    const mine = add('targets', { ...target, id: 'lane', name: 'Lane' })(base);
    const theirs = add('targets', { ...target, id: 'quay', name: 'Quay' })(
      remove('neighbours', 'rope-store')(base),
    );
    const { merged, conflicts } = mergeDocuments(base, mine, theirs);
    expect(conflicts).toEqual([]);
    expect(merged.targets.map((t) => t.id).sort()).toEqual(
      [...base.targets.map(({ id }) => id), 'lane', 'quay'].sort(),
    );
    expect(merged.neighbours.some((n) => n.id === 'rope-store')).toBe(false);
  });

  test('the same thing changed differently is a conflict that keeps both values', () => {
    const { merged, conflicts } = mergeDocuments(base, rename(base, 'Plots'), rename(base, 'Beds'));
    expect(merged.targets[0]!.name).toBe('Plots');
    expect(conflicts).toEqual([{ path: ['targets', 'garden', 'name'], mine: 'Plots', theirs: 'Beds' }]);
  });
});

describe('the check of an edit', () => {
  const start = kelpLane();
  const [first, second] = start.neighbours;

  test('finds what the check of the whole document finds, whatever was changed', () => {
    const mass = start.options[1]!.masses[0]!;
    const edits: Project[] = [
      start,
      { ...start, name: '' },
      { ...start, neighbours: [{ ...first!, name: '' }, ...start.neighbours.slice(1)] },
      { ...start, neighbours: [...start.neighbours, { ...second!, id: first!.id }] },
      { ...start, glazings: [] },
      { ...start, targets: [] },
      { ...start, options: start.options.filter(({ id }) => id !== 'today') },
      {
        ...start,
        options: start.options.map((o) => ({ ...o, masses: [...o.masses, { ...mass, storeys: [] }] })),
      },
      { ...start, options: start.options.map((o) => ({ ...o, masses: [...o.masses, ...o.masses] })) },
    ];
    for (const after of edits) {
      const whole = problems(after);
      const quick = editProblems(start, after);
      expect(quick.length === 0).toBe(whole.length === 0);
      for (const sentence of quick) expect(whole).toContain(sentence);
    }
  });

  test('a list that grows too long is refused, though nothing in it is wrong', () => {
    const many = Array.from({ length: 5001 }, (_, i) => ({ ...first!, id: `n${i}` }));
    expect(editProblems({ ...start, neighbours: many }, { ...start, neighbours: many })).toEqual([
      'A project may have at most 5000 neighbours.',
    ]);
  });
});

test('courts of many corners and hip roofs over many are checked by what lies over one another', () => {
  const round = (x: number, y: number, radius: number, corners: number) =>
    Array.from({ length: corners }, (_, i): [number, number] => {
      const angle = (i / corners) * 2 * Math.PI;
      return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)];
    });
  const project = kelpLane();
  const mass = project.options[1]!.masses[0]!;
  mass.openings = [];
  mass.partitions = [];
  mass.rooms = [];
  mass.furniture = [];
  mass.storeys = [{ heightM: 3 }];
  mass.roof = { kind: 'flat', parapetM: 0 };
  mass.footprint = {
    outer: round(0, 0, 300, 800),
    holes: Array.from({ length: 20 }, (_, i) =>
      round((i % 5) * 80 - 160, Math.floor(i / 5) * 80 - 120, 30, 800),
    ),
  };
  expect(problems(project)).toEqual([]);
  mass.footprint.holes[7] = round(-160, -120, 20, 800);
  expect(problems(project)).toEqual([expect.stringContaining('Court 8 overlaps another court')]);
  mass.footprint = { outer: round(0, 0, 50, 600), holes: [] };
  mass.roof = { kind: 'hip', pitchDeg: 30 };
  expect(problems(project)).toEqual([expect.stringContaining('at most 120 corners, not 600')]);
});

test('a document of nothing but faults costs its first faults', () => {
  const project = kelpLane();
  (project.options[1]!.masses[0] as { openings: unknown }).openings = Array.from(
    { length: 20_000 },
    () => ({}),
  );
  const found = problems(project);
  expect(found.length).toBeGreaterThan(10);
  expect(found.length).toBeLessThanOrEqual(100);
  const many = Array.from({ length: 1_000_000 }, () => ({}));
  (project.options[1]!.masses[0] as { openings: unknown }).openings = many;
  expect(problems(project)).toEqual([expect.stringContaining('more than 400,000 objects')]);
});

test('a document nested without end, or with text that cannot be kept, is not looked into', () => {
  let deep: unknown = 0;
  for (let i = 0; i < 5000; i++) deep = { deep };
  expect(problems(deep)).toEqual([expect.stringContaining('nested more than 40 levels')]);
  for (const name of ['a\0b', 'half \ud83d', '\udc00'])
    expect(problems({ ...kelpLane(), name })).toEqual([expect.stringContaining('cannot be kept')]);
  expect(problems({ ...kelpLane(), name: 'whole 😀' })).toEqual([]);
});

test('objects and text between numbers are counted too', () => {
  const between = (item: unknown) => ({ ...kelpLane(), extra: [1, ...Array<unknown>(100).fill(item), 1] });
  expect(problems(between('a\0'))).toEqual([expect.stringContaining('cannot be kept')]);
});
