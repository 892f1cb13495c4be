import { kelpLane } from '@dial-shade/samples';
import fc from 'fast-check';
import { setBack } from '../form';
import { defaultMass, type Project } from '../project';
import { problems } from './check';
import { addMass, editRules, removeBodyCorner, removeMass, reshapeBody, splitBodyEdge } from './edits';
import { add, change, type Edit, editProject, remove } from './list-edits';
import { withTheirs } from './merge';
import { mergeProjects } from './merge-projects';

const BAR = { optionId: 'a', id: 'bar' };
const places = ({ conflicts }: ReturnType<typeof mergeProjects>) =>
  conflicts.map(({ path }) => path.join('/')).sort();

function both(mine: Edit, theirs: Edit) {
  const merged = mergeProjects(kelpLane(), mine(kelpLane()), theirs(kelpLane()));
  expect(problems(merged.merged)).toEqual([]);
  expect(problems(withTheirs(merged.merged, merged.conflicts))).toEqual([]);
  return merged;
}

const measureGarden = change('studies', 'courtyards-march', { targets: ['courtyards', 'garden'] });
const dropGarden = remove('targets', 'garden');

test('what one side removes and the other refers to is a conflict, and either choice is sound', () => {
  const kept = both(measureGarden, dropGarden);
  expect(places(kept)).toEqual([
    'studies/courtyards-march/targets',
    'studies/garden-season/targets',
    'studies/garden-view/targets',
    'targets/garden',
  ]);
  expect(kept.merged.studies[0]!.targets).toEqual(['courtyards', 'garden']);
  expect(kept.merged.targets.some(({ id }) => id === 'garden')).toBe(true);
  const gone = both(dropGarden, measureGarden);
  expect(gone.merged.targets.some(({ id }) => id === 'garden')).toBe(false);
  expect(gone.merged.studies[0]!.targets).toEqual(['courtyards']);
  const back = withTheirs(gone.merged, gone.conflicts);
  expect(back.studies[0]!.targets).toEqual(['courtyards', 'garden']);
});

test('a glazing type removed here and taken for a rule there is a conflict', () => {
  const added = add('glazings', { ...kelpLane().glazings[0]!, id: 'tinted', name: 'Tinted' });
  const base = added(kelpLane());
  const use = editRules('a', (rules) => rules.map((rule) => ({ ...rule, glazing: 'tinted' })));
  const found = mergeProjects(base, remove('glazings', 'tinted')(base), use(base));
  expect(problems(found.merged)).toEqual([]);
  expect(found.merged.glazings.some(({ id }) => id === 'tinted')).toBe(false);
  const theirs = withTheirs(found.merged, found.conflicts);
  expect(problems(theirs)).toEqual([]);
  expect(theirs.options[1]!.rules.every(({ glazing }) => glazing === 'tinted')).toBe(true);
});

test('two edits that cannot be built together are asked about as a whole', () => {
  const found = both(
    splitBodyEdge(BAR, 0, 0),
    reshapeBody(BAR, (mass) => setBack(mass, 1, [mass.storeys.length - 1], 1)),
  );
  expect(found.conflicts).toHaveLength(1);
  expect(found.conflicts[0]!.path).toEqual([]);
});

test('whatever two pages do, the merged document and the other choice are sound', () => {
  const edits: Edit[] = [
    measureGarden,
    dropGarden,
    remove('targets', 'courtyards'),
    remove('studies', 'garden-season'),
    change('studies', 'garden-season', { targets: ['courtyards'], name: 'Season' }),
    change('targets', 'garden', { spacingM: 2 }),
    splitBodyEdge(BAR, 0, 1),
    (project) => removeBodyCorner(BAR, 0, 4)(splitBodyEdge(BAR, 0, 3)(project)),
    reshapeBody(BAR, (mass) => setBack(mass, 0, [mass.storeys.length - 1], 0.5)),
    reshapeBody(BAR, (mass) => ({ ...mass, roof: { kind: 'hip', pitchDeg: 30 } })),
    reshapeBody(BAR, (mass) => ({ ...mass, roof: { kind: 'gable', riseM: 2 } })),
    removeMass('a', 'bar'),
    addMass(
      'a',
      defaultMass(
        'wing',
        'Wing',
        [
          [60, 0],
          [66, 0],
          [66, 5],
        ],
        1,
      ),
    ),
    editProject({ name: 'Other' }),
    editRules('a', () => []),
  ];
  const some = fc.subarray(edits, { maxLength: 4 }).map(
    (list): Edit =>
      (project: Project) =>
        list.reduce((now, edit) => {
          const after = edit(now);
          return problems(after).length ? now : after;
        }, project),
  );
  fc.assert(
    fc.property(some, some, (mine, theirs) => void both(mine, theirs)),
    { numRuns: 60 },
  );
});
