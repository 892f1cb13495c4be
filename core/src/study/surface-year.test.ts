import { dayOfYear } from '../civil';
import type { Point3 } from '../geometry';
import { defaultMass, emptyProject } from '../project';
import { assembleScene } from '../scene';
import { sceneObstacles } from '../trace';
import { IN_SUN, pointYear } from './point-year';
import { surfaceYear } from './surface-year';

function scene(heightM: number) {
  const project = emptyProject('P', 2026);
  const wall: [number, number][] = [
    [-30, -12],
    [30, -12],
    [30, -10],
    [-30, -10],
  ];
  project.options[1]!.masses = heightM ? [defaultMass('w', 'Wall', wall, 1, heightM)] : [];
  const made = assembleScene(project, 'a', new Map());
  const owners = { surfaceOf: made.surfaceOf, ownerOf: made.ownerOf, count: made.owners.length };
  return {
    site: project.site,
    obstacles: sceneObstacles(made),
    owners,
    names: made.owners.map(({ name }) => name),
  };
}
const SOUTH: Point3 = [0, -1, 0];
const STEPS = 24;
const points = [1, 5, 9].map((z): Point3 => [0, -0.01, z]);

test('a surface in the open has all its points in sun whenever one has', () => {
  const { site, obstacles, owners } = scene(0);
  const year = surfaceYear(site, points, SOUTH, obstacles, owners, STEPS);
  const one = pointYear(site, points[0]!, SOUTH, obstacles, owners, STEPS);
  expect(year.sunHours).toBeCloseTo(one.sunHours, 9);
  expect([...year.state]).toEqual([...one.state]);
  expect(new Set(year.share)).toEqual(new Set([0, 1]));
});

test('behind a wall its lower points lie in shade first, whose shade is told, and hours are the mean of the points', () => {
  const { site, obstacles, owners, names } = scene(9);
  const year = surfaceYear(site, points, SOUTH, obstacles, owners, STEPS);
  const each = points.map((at) => pointYear(site, at, SOUTH, obstacles, owners, STEPS).sunHours);
  expect(each).toEqual([...each].sort((a, b) => a - b));
  expect(year.sunHours).toBeCloseTo(each.reduce((sum, hours) => sum + hours, 0) / 3, 9);
  // Noon in December: a sun under 16° over a wall 9 m high and 10 m away lights no point below 6 m, two of the three.
  const noon = (date: string) => dayOfYear(date) * STEPS + STEPS / 2;
  const december = noon('2026-12-21');
  expect(year.share[december]).toBeLessThan(0.5);
  expect(names[year.state[december]!]).toBe('Wall');
  const june = noon('2026-06-21');
  expect([year.share[june], year.state[june]]).toEqual([1, IN_SUN]);
  expect(names[[...year.lostHours].indexOf(Math.max(...year.lostHours))]).toBe('Wall');
});
