import { kelpLane } from '@dial-shade/samples';
import { summarize, summaryRows } from './summary';
import { planStudy, runStudy } from './run-study';

const NONE = new Map();

test('the rows of a table say of each target what the summary says', () => {
  const p = kelpLane();
  const plan = planStudy(p, 'b', { ...p.studies[0]!, targets: ['garden', 'courtyards'] }, NONE);
  const values = runStudy(p, plan, NONE);
  const { targets, values: all } = summarize(plan, values);
  const rows = summaryRows(
    { targets: plan.targets, grid: plan.grid, values: values.hours! },
    plan.study.criterion.atLeast,
  );
  expect(rows).toHaveLength(2);
  rows.forEach((row, t) => {
    expect(row).toMatchObject({ id: targets[t]!.id, sensors: targets[t]!.sensors });
    expect(row.areaM2).toBeCloseTo(targets[t]!.areaM2, 9);
    expect(row.mean).toBeCloseTo(targets[t]!.mean, 9);
    expect(row.share).toBeCloseTo(targets[t]!.share, 9);
  });
  expect(Math.min(...rows.map(({ min }) => min))).toBe(all.min);
  expect(Math.max(...rows.map(({ max }) => max))).toBe(all.max);
});
