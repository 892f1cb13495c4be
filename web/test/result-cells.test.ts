import { planStudy, resultFromBytes, resultToBytes, runStudy, signedArea } from '@dial-shade/core';
import type { Mesh as ThreeMesh, LineSegments } from 'three';
import { kelpLane } from '@dial-shade/samples';
import { cellKey, resultCells, sensorAt, sensorIndex, shownValue } from '../src/board/result-cells';

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
