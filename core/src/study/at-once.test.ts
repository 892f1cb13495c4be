import { kelpLane } from '@dial-shade/samples';
import { runAtOnce } from './at-once';
import { resultToBytes } from './result-bytes';
import { planStudy, runStudy } from './run-study';

const NONE = new Map();

test('at once gives the same bytes as a run, and its coarse picture is the beginning of it', () => {
  const project = kelpLane();
  const study = project.studies[0]!;
  const plan = planStudy(project, 'b', study, NONE);
  const whole = runAtOnce(project, 'b', study, NONE)!;
  expect(resultToBytes(whole.plan, whole.values)).toEqual(resultToBytes(plan, runStudy(project, plan, NONE)));
  const coarse = runAtOnce(project, 'b', study, NONE, true)!;
  const { coarse: first, count } = plan.grid;
  expect(first).toBeGreaterThan(10);
  expect(coarse.values.hours!.subarray(0, first)).toEqual(whole.values.hours!.subarray(0, first));
  expect(coarse.values.hours!.subarray(first).every(Number.isNaN)).toBe(true);
  expect(coarse.values.hours!).toHaveLength(count);
});

test('what has too many rays is left to the queue', () => {
  const project = kelpLane();
  project.targets.forEach((target) => (target.spacingM = 0.5));
  expect(runAtOnce(project, 'a', { ...project.studies[1]!, stepMinutes: 5 }, NONE)).toBeNull();
});
