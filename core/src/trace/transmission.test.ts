import fc from 'fast-check';
import { LIME } from '../../testing/lime';
import { addMass } from '../document';
import { defaultMass, emptyProject, type Opening, type Project } from '../project';
import { assembleScene, dayNumber, glassFactor } from '../scene';
import { planStudy, runStudy } from '../study';
import { firstBlock } from './first-block';
import { sceneObstacles } from './obstacles';

const window = (edge: number): Opening => ({
  id: `w${edge}`,
  name: 'W',
  host: { on: 'wall', ring: 0, edge, storey: 0 },
  outline: { kind: 'rectangle', u: 0.5, v: 0.5, widthM: 3, heightM: 2 },
  kind: 'window',
  glazing: 'double',
  revealM: 0,
  openable: false,
  grid: null,
});

function house(edges: number[]): Project {
  const mass = {
    ...defaultMass(
      'm',
      'M',
      [
        [0, 0],
        [4, 0],
        [4, 4],
        [0, 4],
      ],
      1,
    ),
    openings: edges.map(window),
  };
  return addMass('a', mass)(emptyProject('E', 2026));
}

test('a ray through one pane keeps its share, through two its square, by the angle of incidence', () => {
  const { tree, transmission } = sceneObstacles(assembleScene(house([0, 2]), 'a', new Map()));
  // Visible transmittance 0.8, a quarter of it frame; along y, square to both panes.
  const share = 0.8 * 0.75;
  const ray = [2, -5, 1.5, 0, 1, 0] as const;
  expect(firstBlock(tree, ...ray)).toBe(-1);
  expect(transmission!.share(...ray, 621)).toBeCloseTo(share ** 2, 12);
  expect(transmission!.share(2, 2, 1.5, 0, 1, 0, 621)).toBeCloseTo(share, 12);
  const slant = Math.PI / 3;
  const d = [Math.sin(slant), Math.cos(slant), 0] as const;
  expect(transmission!.share(2 - d[0], 4 - d[1], 1.5, ...d, 621)).toBeCloseTo(
    share * 1.018 * 0.5 * (1 + Math.sin(slant) ** 3),
    9,
  );
  expect(glassFactor(1)).toBe(1);
  expect(glassFactor(0)).toBe(0);
});

test('a wall with panes still blocks beside them, and a house with one pane stays dark behind', () => {
  const { tree } = sceneObstacles(assembleScene(house([0]), 'a', new Map()));
  expect(firstBlock(tree, 2, -5, 1.5, 0, 1, 0)).toBeGreaterThanOrEqual(0);
  expect(firstBlock(tree, 0.2, -5, 1.5, 0, 1, 0)).toBeGreaterThanOrEqual(0);
});

test('a crown passes its openness of the season once, from wherever the ray comes; the trunk blocks', () => {
  const project = emptyProject('E', 2026);
  project.neighbours.push(LIME);
  const { tree, transmission } = sceneObstacles(assembleScene(project, 'today', new Map()));
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 6.28, noNaN: true }),
      fc.double({ min: -1.5, max: 1.5, noNaN: true }),
      (turn, aside) => {
        const [c, s] = [Math.cos(turn), Math.sin(turn)];
        const from = [-20 * c - aside * s, -6 - 20 * s + aside * c, 7] as const;
        expect(transmission!.share(...from, c, s, 0, 701)).toBeCloseTo(0.2, 12);
        expect(transmission!.share(...from, c, s, 0, 115)).toBeCloseTo(0.6, 12);
      },
    ),
  );
  expect(transmission!.share(0, -6, 7, 0, 1, 0, 701)).toBeCloseTo(0.2, 12);
  expect(transmission!.share(-20, -6, 12, 1, 0, 0, 701)).toBe(1);
  expect(firstBlock(tree, -20, -6, 1, 1, 0, 0)).toBeGreaterThanOrEqual(0);
  expect(dayNumber('2026-04-20')).toBe(420);
});

test('leaves that stay over the turn of the year belong to the southern summer', () => {
  const project = emptyProject('E', 2026);
  project.neighbours.push({ ...LIME, leafFrom: '10-01', leafUntil: '04-30' });
  const { transmission } = sceneObstacles(assembleScene(project, 'today', new Map()));
  const at = (day: number) => transmission!.share(-20, -6, 7, 1, 0, 0, day);
  expect([at(1231), at(115), at(430)]).toEqual([0.2, 0.2, 0.2]);
  expect([at(501), at(930)]).toEqual([0.6, 0.6]);
});

test('sun hours under a fence count the share that passes, between open ground and a wall', () => {
  const hours = (openness: number | null) => {
    const project = emptyProject('E', 2026);
    if (openness !== null)
      project.neighbours.push({
        kind: 'fence',
        id: 'f',
        name: 'F',
        path: [
          [-200, -1],
          [200, -1],
        ],
        heightM: 8,
        openness,
        demolished: false,
      });
    project.targets.push({
      id: 't',
      name: 'T',
      kind: 'ground',
      outline: [
        [-1, 0],
        [1, 0],
        [1, 1],
        [-1, 1],
      ],
      spacingM: 1,
      offsetM: 0.1,
    });
    const study = {
      id: 's',
      name: 'S',
      kind: 'sun-hours' as const,
      targets: ['t'],
      stepMinutes: 20,
      scale: null,
      window: { from: '2026-12-21', to: '2026-12-21', startMinutes: 0, endMinutes: 1440 },
      criterion: { atLeast: 2, share: 0.5, source: '' },
    };
    project.studies.push(study);
    return runStudy(project, planStudy(project, 'today', study, new Map()), new Map()).hours![0]!;
  };
  const open = hours(null);
  const shut = hours(0);
  expect(shut).toBeLessThan(open);
  expect(hours(0.3)).toBeCloseTo(shut + 0.3 * (open - shut), 4);
  expect(hours(1)).toBeCloseTo(open, 4);
});
