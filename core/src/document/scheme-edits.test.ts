import { emptyProject, type Scheme } from '../project';
import {
  addScheme,
  changeDevice,
  copyScheme,
  editProblems,
  mergeProjects,
  parseProject,
  removeScheme,
  standScheme,
} from '.';

const DEVICE = {
  id: 'd',
  name: 'Slats',
  scope: { owners: null, sectors: null, storeys: null },
  openings: null,
  make: {
    kind: 'louvres',
    lie: 'level',
    slatM: 0.2,
    spacingM: 0.2,
    tiltDeg: 0,
    thicknessM: 0.01,
    offM: 0.1,
    aroundM: 0,
  },
} as const satisfies Scheme['devices'][number];
const SCHEME: Scheme = { id: 's', name: 'Scheme', devices: [{ ...DEVICE }] };
const base = emptyProject('P', 2026);
const optionOf = (project: typeof base) => project.options.find(({ id }) => id === 'a')!;

test('a scheme that is added stands; copies have ids of their own; taken away, none stands', () => {
  const added = addScheme('a', SCHEME)(base);
  expect(optionOf(added).scheme).toBe('s');
  const copied = copyScheme('a', SCHEME, 'Copy')(added);
  const [, copy] = optionOf(copied).schemes;
  expect(optionOf(copied).scheme).toBe(copy!.id);
  expect(copy!.devices[0]!.id).not.toBe('d');
  expect(parseProject(JSON.parse(JSON.stringify(copied)))).toEqual(copied);
  const back = standScheme('a', 's')(copied);
  expect(optionOf(removeScheme('a', copy!.id)(back)).scheme).toBe('s');
  expect(optionOf(removeScheme('a', 's')(back))).toMatchObject({ scheme: null, schemes: [{ name: 'Copy' }] });
});

test.each([
  [{ thicknessM: 0.3 }, 'Slats of 0.3 m do not fit into a spacing of 0.2 m'],
  [{ slatM: 0 }, 'The depth of a slat 0 m is outside 0.02 to 20 m.'],
  [{ slatM: -1 }, 'The depth of a slat −1'],
  [{ slatM: 100 }, 'The depth of a slat 100 m is outside'],
  [{ tiltDeg: 90 }, 'The tilt 90 degrees is outside −85 to 85 degrees.'],
])('%j is refused in a sentence', (fields, sentence) => {
  const added = addScheme('a', SCHEME)(base);
  const changed = changeDevice('a', 's', 'd', { make: { ...DEVICE.make, ...fields } })(added);
  const [problem] = editProblems(added, changed);
  expect(JSON.stringify(problem).replaceAll('-1', '−1')).toContain(sentence);
});

test('schemes that two pages add are both there; a device that both change is a choice', () => {
  const from = addScheme('a', SCHEME)(base);
  const mine = copyScheme('a', SCHEME, 'Mine')(from);
  const theirs = copyScheme('a', SCHEME, 'Theirs')(from);
  const both = mergeProjects(from, mine, theirs);
  expect(
    optionOf(both.merged)
      .schemes.map(({ name }) => name)
      .sort(),
  ).toEqual(['Mine', 'Scheme', 'Theirs']);
  const deeper = (slatM: number) => changeDevice('a', 's', 'd', { make: { ...DEVICE.make, slatM } })(from);
  const clash = mergeProjects(from, deeper(0.3), deeper(0.4));
  expect(clash.conflicts.length).toBeGreaterThan(0);
  const other = mergeProjects(from, deeper(0.3), changeDevice('a', 's', 'd', { name: 'Blades' })(from));
  expect(other.conflicts).toEqual([]);
  expect(optionOf(other.merged).schemes[0]!.devices[0]).toMatchObject({
    name: 'Blades',
    make: { slatM: 0.3 },
  });
});
