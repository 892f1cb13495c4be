import { kelpLane } from '@dial-shade/samples';
import { summarize, summaryRows } from './summary';
import { planSunHours, runSunHours } from './sun-hours';

const NONE = new Map();

test('the rows of a table say of each target what the summary says', () => {
  const p = kelpLane();
  const plan = planSunHours(p, 'b', { ...p.studies[0]!, targets: ['garden', 'courtyards'] }, NONE);
  const values = runSunHours(p, plan, NONE);
  const { targets, hours } = summarize(plan, values);
  const rows = summaryRows({ targets: plan.targets, grid: plan.grid, values }, plan.study.criterion.atLeastH);
  expect(rows).toHaveLength(2);
  rows.forEach((row, t) => {
    expect(row).toMatchObject({ id: targets[t]!.id, sensors: targets[t]!.sensors });
    expect(row.areaM2).toBeCloseTo(targets[t]!.areaM2, 9);
    expect(row.meanH).toBeCloseTo(targets[t]!.meanH, 9);
    expect(row.share).toBeCloseTo(targets[t]!.share, 9);
  });
  expect(Math.min(...rows.map(({ minH }) => minH))).toBe(hours.min);
  expect(Math.max(...rows.map(({ maxH }) => maxH))).toBe(hours.max);
});
