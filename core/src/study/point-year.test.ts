import { kelpLane } from '@dial-shade/samples';
import { assembleScene } from '../scene';
import { sceneObstacles } from '../trace';
import { IN_SUN, ownersOf, pointSky, pointYear } from './point-year';

test('the year of a point adds up and names who takes the sun', () => {
  const p = kelpLane();
  const scene = assembleScene(p, 'a', new Map());
  const tree = sceneObstacles(scene);
  const owners = ownersOf(scene);
  const at: [number, number, number] = [18, 32, 14];
  const year = pointYear(p.site, at, [0, 0, 1], tree, owners, 48);
  const open = pointYear(
    p.site,
    at,
    [0, 0, 1],
    sceneObstacles({
      ...scene,
      ground: { normal: [0, 0, 1], offset: -1e9 },
      shown: 0,
      opaque: 0,
      surfaceOf: new Uint32Array(0),
      positions: new Float64Array(0),
    }),
    owners,
    48,
  );
  const lost = year.lostHours.reduce((a, b) => a + b, 0);
  expect(year.sunHours + lost).toBeCloseTo(open.sunHours, 6);
  // About half of the 8760 hours of a year have the sun above the horizon.
  expect(open.sunHours).toBeGreaterThan(4300);
  const lostTo = (name: string) => year.lostHours[scene.owners.findIndex((owner) => owner.name === name)]!;
  expect(lostTo('Bar')).toBeGreaterThan(300);
  expect(lostTo('Rope store')).toBeLessThan(lostTo('Bar'));
  const sky = pointSky(p.site, at, tree, owners, 36, 9);
  expect(sky.state[8]).toBe(IN_SUN);
  const southLow = sky.state[18 * 9 + 0]!;
  expect(scene.owners[southLow]!.name).toMatch(/Bar|Back wall/);
});
