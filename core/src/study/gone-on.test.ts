import { kelpLane } from '@dial-shade/samples';
import { resultFromBytes, resultToBytes } from './result-bytes';
import { batches, blankValues, isFound, placeValues, planStudy, runStudy, valuesSoFar } from './run-study';

const NONE = new Map();

test.each(['courtyards-march', 'windows-sky'])('a run of %s goes on from what was found of it', (id) => {
  const project = kelpLane();
  const plan = planStudy(
    project,
    'b',
    project.studies.find((study) => study.id === id)!,
    NONE,
  );
  const whole = runStudy(project, plan, NONE);
  const stretches = batches(plan, 20_000);
  expect(stretches.length).toBeGreaterThan(4);
  // Threads do not end in order: what is missing may lie in the middle.
  const missing = [stretches[1]!, stretches.at(-1)!];
  const left = blankValues(plan.study, plan.grid.count);
  for (const [key, values] of Object.entries(whole)) left[key]!.set(values);
  for (const { from, to } of missing) for (const values of Object.values(left)) values.fill(NaN, from, to);
  const earlier = resultFromBytes(resultToBytes(plan, left));
  const values = valuesSoFar(plan, earlier)!;
  const free = ({ from, to }: { from: number; to: number }) =>
    plan.grid.covered.subarray(from, to).includes(0);
  expect(stretches.filter((stretch) => !isFound(plan, values, stretch))).toEqual(missing.filter(free));
  for (const { from, to } of missing)
    placeValues(
      values,
      from,
      Object.fromEntries(Object.entries(whole).map(([key, all]) => [key, all.subarray(from, to)])),
    );
  expect(Buffer.compare(resultToBytes(plan, values), resultToBytes(plan, whole))).toBe(0);
});

test('what is of another plan is not gone on from', () => {
  const project = kelpLane();
  const [study, other] = project.studies;
  const plan = planStudy(project, 'b', study!, NONE);
  const earlier = resultFromBytes(resultToBytes(plan, blankValues(study!, plan.grid.count)));
  expect(valuesSoFar(plan, earlier)).not.toBeNull();
  expect(valuesSoFar(planStudy(project, 'b', other!, NONE), earlier)).toBeNull();
  expect(valuesSoFar(plan, { ...earlier, values: {} })).toBeNull();
  const shifted = earlier.grid.positions.map((at) => at + 1e-9);
  expect(valuesSoFar(plan, { ...earlier, grid: { ...earlier.grid, positions: shifted } })).toBeNull();
});
