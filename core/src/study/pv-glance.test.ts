import { kelpLane } from '@dial-shade/samples';
import { pvGlance } from './pv-glance';
import { studyResult } from './result-bytes';
import { planStudy, requireStudy, runStudy } from './run-study';

const NONE = new Map();
const project = kelpLane();
project.targets = project.targets.map((target) => ({ ...target, spacingM: Math.max(4, target.spacingM) }));
const resultOf = (id: string) => {
  const plan = planStudy(project, 'a', requireStudy(project, id), NONE);
  return studyResult(plan, runStudy(project, plan, NONE));
};

test('insolation × area × efficiency × performance, by month; places chosen sum to all', () => {
  const walls = resultOf('walls-year');
  const all = pvGlance(walls, 0.2, 0.8);
  expect(all.kWh).toBeCloseTo(walls.summary.values.mean * walls.summary.areaM2 * 0.16, 2);
  expect(all.months.reduce((sum, month) => sum + month, 0)).toBeCloseTo(all.kWh, 1);
  const parts = walls.targets.map(({ id }) => pvGlance(walls, 0.2, 0.8, [id]).kWh);
  expect(parts.reduce((sum, part) => sum + part, 0)).toBeCloseTo(all.kWh, 3);
  expect(pvGlance(walls, 0.1, 0.8).kWh).toBeCloseTo(all.kWh / 2, 6);
});

test('other kinds and shares that are none are refused', () => {
  expect(() => pvGlance(resultOf('windows-sky'), 0.2, 0.8)).toThrow('insolation only');
  const walls = resultOf('walls-year');
  expect(() => pvGlance(walls, 20, 0.8)).toThrow('The efficiency is a share above 0 and at most 1, not 20.');
  expect(() => pvGlance(walls, 0.2, 0)).toThrow('The performance ratio');
});
