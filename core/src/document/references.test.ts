import { kelpLane } from '@dial-shade/samples';
import type { Project } from '../project';
import { danglingReferences } from './references';

const start = kelpLane();
const told = (change: Partial<Project>) =>
  danglingReferences({ ...start, ...change }).map(({ path, message }) => `${path.join('.')}: ${message}`);
const inOption = (
  id: string,
  change: (option: Project['options'][number]) => Project['options'][number],
) => ({
  options: start.options.map((option) => (option.id === id ? change(option) : option)),
});
const OPENING: Project['options'][number]['masses'][number]['openings'][number] = {
  id: 'w',
  name: 'Window',
  host: { on: 'wall', ring: 0, edge: 0, storey: 0 },
  outline: { kind: 'rectangle', u: 1, v: 1, widthM: 1, heightM: 1 },
  kind: 'window',
  glazing: 'double',
  revealM: 0.1,
  openable: true,
  grid: null,
};

test('a sound document has no broken ties', () => {
  expect(told({})).toEqual([]);
});

test('without Today there is nothing to compare with', () => {
  expect(told({ options: start.options.filter(({ id }) => id !== 'today') })).toEqual([
    'options: The option “today” is missing.',
  ]);
});

test.each(['neighbours', 'glazings', 'areas', 'options', 'targets', 'studies', 'neighbourRules'] as const)(
  'an id that is used twice among %s is told at its second place',
  (list) => {
    const items = start[list] as { id: string }[];
    expect(told({ [list]: [...items, items[0]!] })).toContain(
      `${list}.${items.length}: The id “${items[0]!.id}” is used twice.`,
    );
  },
);

test('masses and rules have ids of their own within an option; another option may use the same', () => {
  const twice = inOption('a', (option) => ({ ...option, masses: [...option.masses, ...option.masses] }));
  expect(told(twice)).toEqual(['options.1.masses.1: The id “bar” is used twice.']);
  const bar = start.options[1]!.masses[0]!;
  expect(told(inOption('b', (option) => ({ ...option, masses: [...option.masses, bar] })))).toEqual([]);
  const rules = inOption('a', (option) => ({ ...option, rules: [...option.rules, option.rules[1]!] }));
  expect(told(rules)).toEqual(['options.1.rules.2: The id “flats” is used twice.']);
});

test('a study names only targets that exist', () => {
  expect(told({ targets: start.targets.filter(({ id }) => id !== 'garden') })).toEqual([
    'studies.1: The target “garden” does not exist.',
    'studies.5: The target “garden” does not exist.',
  ]);
});

test('openings and rules name only panes that exist, wherever they stand', () => {
  const gone = { ...OPENING, glazing: 'jade' };
  expect(told({ glazings: start.glazings.filter(({ id }) => id !== 'single') })).toEqual([
    'neighbourRules.0: The glazing “single” does not exist.',
  ]);
  const inMass = inOption('b', (option) => ({
    ...option,
    masses: [{ ...option.masses[0]!, openings: [OPENING, { ...gone, id: 'x' }] }],
  }));
  expect(told(inMass)).toEqual(['options.2.masses.0.openings.1: The glazing “jade” does not exist.']);
  const door = inOption('b', (option) => ({
    ...option,
    masses: [{ ...option.masses[0]!, openings: [{ ...OPENING, kind: 'door', glazing: null }] }],
  }));
  expect(told(door)).toEqual([]);
  const at = start.neighbours.findIndex(({ id }) => id === 'net-loft');
  const neighbours = start.neighbours.map((n, i) =>
    i === at && n.kind === 'building' ? { ...n, openings: [OPENING, OPENING, gone] } : n,
  );
  expect(told({ neighbours })).toEqual([
    `neighbours.${at}.openings.1: The id “w” is used twice.`,
    `neighbours.${at}.openings.2: The id “w” is used twice.`,
    `neighbours.${at}.openings.2: The glazing “jade” does not exist.`,
  ]);
});
