import { kelpLane } from '@dial-shade/samples';
import fc from 'fast-check';
import { shiftBy } from '../form';
import { documentChanges, withChanges } from './changes';
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
    }),
  );
});
