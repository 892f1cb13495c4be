import './browser-stand-in';
import { add, change, editProject, editRules, remove } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { activeStudyOf } from '../src/state/active-study';

jest.mock('../src/workers/compute', () => ({ compute: () => ({}) }));

import { lightParts } from '../src/studies/use-probe-year';

test('a probe is traced anew when glazing or rules of neighbours change, not when a study or a name does', () => {
  const before = kelpLane();
  const isSame = (after: typeof before) =>
    lightParts(after).every((part, i) => part === lightParts(before)[i]);
  expect(isSame(change('glazings', before.glazings[0]!.id, { visibleTransmittance: 0.2 })(before))).toBe(
    false,
  );
  expect(isSame(editRules(null, () => [])(before))).toBe(false);
  expect(isSame(editRules('a', () => [])(before))).toBe(false);
  expect(isSame(editProject({ name: 'Other' })(before))).toBe(true);
  expect(isSame(remove('studies', 'garden-season')(before))).toBe(true);
});

test('sheet, board and almanac work on the same study: the chosen one, else the first', () => {
  const project = kelpLane();
  const [first, second] = project.studies;
  expect(activeStudyOf(project, second!.id)).toBe(second);
  expect(activeStudyOf(project, null)).toBe(first);
  const gone = remove('studies', first!.id)(project);
  expect(activeStudyOf(gone, first!.id)).toBe(second);
  expect(activeStudyOf(add('studies', first!)(gone), first!.id)).toBe(first);
  expect(activeStudyOf({ ...project, studies: [] }, first!.id)).toBeUndefined();
});
