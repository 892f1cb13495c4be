import { kelpLane } from '@dial-shade/samples';
import type { Study } from '../project';
import { assembleScene } from '../scene';
import { MemoryMasks, sceneLayers } from '../trace';
import { MAX_LIVE_RAYS, runAtOnce } from './at-once';
import { resultToBytes } from './result-bytes';
import { batches, blankValues, placeValues, planStudy, runStudy } from './run-study';
import { StudyTracer } from './study-tracer';

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

test('what follows every change may be larger: traced once, other periods are only weighed', () => {
  const project = kelpLane();
  const study = project.studies.find(({ id }) => id === 'walls-year')!;
  const masks = new MemoryMasks(192 * 1024 ** 2);
  const live = (of: Study, isCoarse = false) =>
    runAtOnce(project, 'a', of, NONE, isCoarse, masks, MAX_LIVE_RAYS)!;
  expect(runAtOnce(project, 'a', study, NONE)).toBeNull();
  live(study);
  const june = { ...study, window: { ...study.window, from: '2026-06-01', to: '2026-06-30' } };
  const plan = planStudy(project, 'a', june, NONE);
  const tracer = new StudyTracer(plan, sceneLayers(assembleScene(project, 'a', NONE)), masks);
  const weighed = blankValues(june, plan.grid.count);
  for (const { from, to } of batches(plan)) placeValues(weighed, from, tracer.trace(from, to));
  expect(tracer.traced).toBe(0);
  expect(live(june).values).toEqual(weighed);
  expect(live(june, true).values.insolation!.subarray(0, plan.grid.coarse)).toEqual(
    weighed.insolation!.subarray(0, plan.grid.coarse),
  );
});
