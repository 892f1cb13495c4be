import { kelpLane } from '@dial-shade/samples';
import fc from 'fast-check';
import { InputError } from '../errors';
import { shiftBy } from '../form';
import type { Project } from '../project';
import { documentChanges, withChanges } from './changes';
import { changedProject, parseProject } from './check';
import { copyOwners, moveOwner, removeOwners } from './edits';
import { add, change, type Edit, editPlace, editProject, remove } from './list-edits';
import { shiftOption } from './option-edits';

const BAR = { optionId: 'a', id: 'bar' };

test('a moved mass is all that is sent, and everything else stays the same object', () => {
  const before = kelpLane();
  const after = moveOwner(BAR, 1, 0)(before);
  const changes = JSON.parse(JSON.stringify(documentChanges(before, after)));
  expect(JSON.stringify(changes).length).toBeLessThan(
    JSON.stringify(after.options[1]!.masses[0]).length + 400,
  );
  const made = withChanges(before, changes);
  expect(made).toEqual(after);
  expect(made.neighbours).toBe(before.neighbours);
  expect(made.options[2]).toBe(before.options[2]);
  expect(made.options[1]!.rules).toBe(before.options[1]!.rules);
  expect(documentChanges(before, before)).toBeNull();
});

test('whatever is edited, the changes lead from one document to the other', () => {
  const edits: Edit[] = [
    moveOwner(BAR, 2, 1),
    removeOwners([BAR]),
    copyOwners([{ optionId: null, id: 'lime' }], [shiftBy(4, 0)]),
    shiftOption('b', 1),
    editPlace({ latitudeDeg: 10 }),
    editProject({ name: 'X', note: '' }),
    remove('targets', 'garden'),
    change('targets', 'garden', { levelM: 3 }),
    (project) => ({ ...project, targets: project.targets.map(({ ...rest }) => rest) }),
    add('areas', {
      id: 'x',
      name: 'X',
      use: 'garden',
      outline: [
        [0, 0],
        [3, 0],
        [3, 3],
      ],
      on: { kind: 'ground' },
    }),
    (project) => ({ ...project, neighbours: [] }),
  ];
  fc.assert(
    fc.property(fc.subarray(edits), fc.subarray(edits), (first, second) => {
      const run = (list: Edit[]) => list.reduce((now, edit) => edit(now), kelpLane());
      const before = run(first);
      const after = second.reduce((now, edit) => edit(now), before);
      const changes = documentChanges(before, after);
      const sent = changes && JSON.parse(JSON.stringify(changes));
      expect(sent ? withChanges(before, sent) : before).toEqual(after);
      // What is checked of it only in part is what a whole check gives, and the same is refused.
      const outcome = (make: () => Project) => {
        try {
          return make();
        } catch (error) {
          return (error as InputError).problems;
        }
      };
      if (sent)
        expect(outcome(() => changedProject(before, sent))).toEqual(outcome(() => parseProject(after)));
    }),
  );
});

test('a document with changes is whole: what was left out of a new part is made up, the rest stays the same', () => {
  const before = parseProject(kelpLane());
  const { demolished: _, ...wall } = before.neighbours.find(({ kind }) => kind === 'building')!;
  const added = { ...wall, id: 'new', name: 'New' };
  const ids = [...before.neighbours.map(({ id }) => id), 'new'];
  const made = changedProject(before, {
    fields: { neighbours: { ids, items: { new: { value: added } } } },
    gone: [],
  });
  expect(made.neighbours.at(-1)).toEqual({ ...added, demolished: false });
  expect(made.neighbours[0]).toBe(before.neighbours[0]);
  expect(made.options[1]!.masses[0]).toBe(before.options[1]!.masses[0]);
});

test.each<[string, unknown, string]>([
  ['no object', 5, 'at its beginning'],
  ['nothing', {}, 'at its beginning'],
  ['an item that is not there', { fields: { targets: { ids: ['x'], items: {} } }, gone: [] }, 'at “targets”'],
  ['a list where there is none', { fields: { site: { ids: [], items: {} } }, gone: [] }, 'at “site”'],
  ['fields of a text', { fields: { name: { fields: {}, gone: [] } }, gone: [] }, 'at “name”'],
  ['a name that cannot be', JSON.parse('{"fields":{"__proto__":{"value":{}}},"gone":[]}'), 'cannot be kept'],
  ['a name beyond the object', { fields: { toString: { fields: {}, gone: [] } }, gone: [] }, 'at “toString”'],
  ['a fault', { fields: { name: { value: 7 } }, gone: [] }, 'name'],
  ['no list of neighbours', { fields: { neighbours: { value: 7 } }, gone: [] }, 'neighbours'],
  ['no options', { fields: { options: { value: [7] } }, gone: [] }, 'Option 1'],
  ['nothing left', { fields: {}, gone: ['site'] }, 'site'],
])('changes that are %s are refused in a sentence', (_, changes, words) => {
  expect(() => changedProject(kelpLane(), changes)).toThrow(InputError);
  expect(() => changedProject(kelpLane(), changes)).toThrow(words);
});
