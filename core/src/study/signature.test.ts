import { kelpLane } from '@dial-shade/samples';
import { changedSince, methodOf } from '../method';
import { STUDY_KINDS } from './kinds';
import { signature, signatureChanges } from './signature';

test('a method tells what changed since it bore a number', () => {
  const method = methodOf('Slats are met evenly.', 'The sky is finer.');
  expect(method.number).toBe(3);
  expect(changedSince(method, 3)).toEqual([]);
  expect(changedSince(method, 2)).toEqual(['Computed by an earlier method: The sky is finer.']);
  expect(changedSince(method, 1)).toHaveLength(2);
  expect(changedSince(method, 4)).toEqual(['Computed by a later method than this program has.']);
});

test('a result of another method is out of date, with what changed; one of before there were numbers was the first', () => {
  const project = kelpLane();
  for (const study of project.studies) {
    const now = signature(project, 'a', study);
    const { method } = STUDY_KINDS[study.kind];
    const key = `method:${study.kind}`;
    const asOf = (number: number) =>
      signatureChanges({ ...now, [key]: { ...now[key]!, hash: `${number}` } }, now);
    expect(signatureChanges(now, now)).toEqual([]);
    expect(asOf(method.number + 1)).toEqual(['Computed by a later method than this program has.']);
    const { [key]: _, ...unnumbered } = now;
    expect(signatureChanges(unnumbered, now)).toEqual(asOf(1));
    expect(asOf(1)).toHaveLength(method.changes.length);
  }
});
