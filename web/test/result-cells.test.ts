import {
  planStudy,
  readMeasure,
  resultFromBytes,
  resultToBytes,
  runStudy,
  shownMeasure,
  signedArea,
  cellKey,
  sensorIndex,
} from '@dial-shade/core';
import type { Mesh as ThreeMesh, LineSegments } from 'three';
import { kelpLane } from '@dial-shade/samples';
import { resultCells, resultLabels, sensorAt, shownValue } from '../src/board/result-cells';
import { asShown, isChange } from '../src/studies/as-shown';

const project = kelpLane();
const plan = planStudy(project, 'a', project.studies[0]!, new Map());
const values = runStudy(project, plan, new Map());
const result = resultFromBytes(resultToBytes(plan, values));
const index = sensorIndex(result);
const LOOK = { min: 0, max: 8, atLeast: 2, ramp: 'sun' as const, ink: '#000000', outdated: false };

test('every point of the target finds the sensor of its cell', () => {
  const { positions, count } = result.grid;
  for (let i = 0; i < count; i += 7)
    expect(
      sensorAt(
        result,
        index,
        [positions[i * 3]! + 0.02, positions[i * 3 + 1]! + 0.02, positions[i * 3 + 2]!],
        project.site.ground,
      ),
    ).toBe(i);
  expect(sensorAt(result, index, [-300, 0, 0], project.site.ground)).toBeNull();
});

test('the cells cover just the measured area', () => {
  const cells = resultCells(result, project.site.ground, LOOK).children[0] as ThreeMesh;
  const p = cells.geometry.getAttribute('position');
  let area = 0;
  for (let i = 0; i < p.count; i += 3)
    area += Math.abs(signedArea([0, 1, 2].map((k): [number, number] => [p.getX(i + k), p.getY(i + k)])));
  const { areas, covered } = result.grid;
  expect(covered).toContain(1);
  const free = areas.filter((_, i) => covered[i] === 0).reduce((a, b) => a + b, 0);
  const measured = free * Math.cos((2.5 * Math.PI) / 180);
  expect(area).toBeCloseTo(measured, 2);
});

test('the ink line runs only where cells with and without enough sun meet', () => {
  const lines = (atLeast: number) => {
    const border = resultCells(result, project.site.ground, { ...LOOK, atLeast }).children[1] as LineSegments;
    return border.geometry.getAttribute('position').count / 2;
  };
  expect(lines(2)).toBeGreaterThan(10);
  expect(lines(0)).toBe(0);
  expect(lines(100)).toBe(0);
});

test('while a picture is coarse, a cell shows the nearest sensor that is done', () => {
  const coarse = { ...result, values: { ...result.values, hours: result.values.hours!.slice() } };
  coarse.values.hours!.fill(NaN, plan.grid.coarse);
  let shown = 0;
  for (let i = 0; i < result.grid.count; i++) {
    const hours = shownValue(coarse, index, i);
    if (Number.isNaN(hours)) continue;
    shown++;
    const [c, r] = [result.grid.cells[i * 2]!, result.grid.cells[i * 2 + 1]!];
    const near = index.get(cellKey(0, (c & ~3) | 1, (r & ~3) | 1))!;
    expect(hours).toBe(i < plan.grid.coarse ? result.values.hours![i] : result.values.hours![near]);
  }
  expect(shown).toBeGreaterThan(plan.grid.coarse * 8);
});

test('values are written on the cells that have one, contours once a step, and nothing unless asked', () => {
  const { ground } = project.site;
  expect(resultLabels(result, ground, LOOK)).toEqual([]);
  const measured = result.values.hours!.filter((hours) => !Number.isNaN(hours)).length;
  const written = resultLabels(result, ground, { ...LOOK, values: true });
  expect(written).toHaveLength(measured);
  const { positions } = result.grid;
  const first = result.values.hours!.findIndex((hours) => !Number.isNaN(hours));
  expect(written[0]!.text).toBe(readMeasure(shownMeasure(result), result.values.hours![first]!));
  expect(written[0]!.at[0]).toBeCloseTo(positions[first * 3]!, 1);
  const texts = resultLabels(result, ground, { ...LOOK, contours: true, steps: 4 }).map(({ text }) => text);
  const steps = [2, 4, 6].map((hours) => readMeasure(shownMeasure(result), hours));
  expect(texts.length).toBeGreaterThan(0);
  for (const text of texts) expect(steps).toContain(text);
  expect(texts.length).toBeLessThanOrEqual(result.targets.length * steps.length);
});

test('a change is what there is less what there was; another kind of study changes nothing', () => {
  const had = {
    ...result,
    values: { ...result.values, hours: result.values.hours!.map((hours) => hours + 0.5) },
  };
  const before = { result: had, name: 'Today' };
  const changed = asShown(result, { measure: undefined, before });
  expect(isChange(changed)).toBe(true);
  expect(shownMeasure(changed).label).toContain('against Today');
  changed.shown!.values.forEach((value, i) => {
    if (result.grid.covered[i] === 0) expect(value).toBeCloseTo(-0.5, 5);
    else expect(value).toBeNaN();
  });
  const other = { ...had, summary: { ...had.summary, kind: 'vsc' as const } };
  expect(asShown(result, { measure: undefined, before: { result: other, name: 'Today' } })).toBe(result);
  expect(isChange(asShown(result, { measure: 'first', before: null }))).toBe(false);
});
