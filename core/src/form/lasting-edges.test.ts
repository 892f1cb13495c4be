import { kelpLane } from '@dial-shade/samples';
import fc from 'fast-check';
import { parseProject, problems, removeBodyCorner, reshapeBody, splitBodyEdge } from '../document';
import { openingsIn } from '../openings';
import { defaultMass, emptyProject, type Mass, type Opening, type OpeningRule } from '../project';
import { normalFootprint } from './plates';
import { removeCorner, splitEdge, uniteMasses } from './reshape';
import { mirrorIn, moveShape } from './transform';

const window = (id: string, edge: number, u: number): Opening => ({
  id,
  name: id,
  host: { on: 'wall', ring: 0, edge, storey: 0 },
  outline: { kind: 'rectangle', u, v: 1, widthM: 1, heightM: 1 },
  kind: 'window',
  glazing: 'clear',
  revealM: 0,
  openable: false,
  grid: null,
});

/** 12 × 8 m, south wall first. */
function hall(): Mass {
  const mass = defaultMass(
    'hall',
    'Hall',
    [
      [0, 0],
      [12, 0],
      [12, 8],
      [0, 8],
    ],
    2,
  );
  return { ...mass, openings: [window('left', 0, 1), window('right', 0, 9), window('back', 2, 3)] };
}

/** Where each opening stands in plan, by its left edge. */
function places(mass: Mass): Record<string, string> {
  const plate = normalFootprint(mass.footprint);
  return Object.fromEntries(
    mass.openings.map(({ id, host, outline }) => {
      if (host.on !== 'wall' || outline.kind !== 'rectangle') throw new Error('not on a wall');
      const i = plate.edges[host.ring]!.indexOf(host.edge);
      const [p, q] = [plate.outer[i]!, plate.outer[(i + 1) % plate.outer.length]!];
      const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
      const at = [0, 1].map((k) => p[k]! + ((q[k]! - p[k]!) / length) * outline.u);
      return [id, at.map((x) => x.toFixed(2)).join()];
    }),
  );
}

test('a new corner leaves every opening where it stands, and the other edges their numbers', () => {
  const before = hall();
  const after = splitEdge(before, 0, 0);
  expect(places(after)).toEqual(places(before));
  const edges = after.footprint.edges![0]!;
  expect([edges[0], edges[2], edges[3], edges[4]]).toEqual([0, 1, 2, 3]);
  expect(edges[1]).toBeGreaterThanOrEqual(10_000);
  expect(after.openings.find(({ id }) => id === 'right')!.host).toMatchObject({ edge: edges[1] });
  const two = splitEdge(after, 0, 3);
  expect(places(two)).toEqual(places(before));
});

test('without a corner again, the edges are as they were; only openings of the two edges go', () => {
  const after = removeCorner(splitEdge(hall(), 0, 0), 0, 1);
  expect(after.footprint).toEqual(hall().footprint);
  expect(after.openings.map(({ id }) => id)).toEqual(['back']);
});

test('in a mirror edges keep their numbers, and so does what stands on them', () => {
  const mirrored = moveShape(hall(), mirrorIn([20, 0], [20, 1]));
  expect(places(mirrored)).toEqual({ left: '38.00,0.00', right: '30.00,0.00', back: '32.00,8.00' });
  expect(mirrored.openings.map(({ host }) => host)).toEqual(hall().openings.map(({ host }) => host));
  const again = moveShape(mirrored, mirrorIn([20, 0], [20, 1]));
  expect(again.openings).toEqual(hall().openings);
  expect(again.footprint.edges).toBeUndefined();
});

test('of two masses united, the edges of the first that remain keep their numbers', () => {
  const other = defaultMass(
    'wing',
    'Wing',
    [
      [12, 0],
      [20, 0],
      [20, 4],
      [12, 4],
    ],
    2,
  );
  const { footprint } = uniteMasses(hall(), other, { kind: 'level', levelM: 0 });
  const plate = normalFootprint(footprint);
  const at = (x: number, y: number) =>
    plate.edges[0]![plate.outer.findIndex((p) => p[0] === x && p[1] === y)];
  expect(at(0, 0)).toBe(0);
  expect(at(12, 4)).toBe(1);
  expect(at(12, 8)).toBe(2);
  expect(at(0, 8)).toBe(3);
  expect(at(20, 0)).toBeGreaterThanOrEqual(10_000);
});

const rule = (walls: string[], except: string[]): OpeningRule => ({
  id: 'rule',
  name: 'Rule',
  scope: { owners: null, sectors: null, storeys: null, walls, except },
  make: { by: 'size', widthM: 1, heightM: 1, spacingM: 2, sillM: 1, jambM: 0.3 },
  glazing: 'clear',
  revealM: 0,
  openable: false,
});

function ruled(walls: string[], except: string[] = []) {
  const project = emptyProject('E', 2026);
  const glazing = project.glazings[0]!.id;
  project.options[1]!.masses.push({ ...hall(), openings: [] });
  project.options[1]!.rules.push({ ...rule(walls, except), glazing });
  return project;
}

/** Bearings that the openings of a project look to, in plan, by storey. */
function looks(project: ReturnType<typeof ruled>): string[] {
  const openings = openingsIn(project, 'a');
  const { faces, byFace } = openings.fitted(project.options[1]!.masses[0]!);
  const found = [...byFace].flatMap(([key, list]) => {
    const face = faces.find((f) => f.key === key)!;
    return list.length ? [`${face.normal.map((x) => Math.round(x)).join()}`] : [];
  });
  return [...new Set(found)].sort();
}

test('a rule for one wall stays on it when corners come and go elsewhere, and on both halves when it is split', () => {
  const north = ['0,1,0'];
  const project = ruled(['hall/0/2']);
  expect(looks(project)).toEqual(north);
  const owner = { optionId: 'a', id: 'hall' };
  const split = splitBodyEdge(owner, 0, 0)(project);
  expect(looks(split)).toEqual(north);
  const back = removeBodyCorner(owner, 0, 1)(split);
  expect(looks(back)).toEqual(north);
  expect(back.options[1]!.rules).toEqual(project.options[1]!.rules);
  const halves = splitBodyEdge(owner, 0, 2)(project);
  expect(looks(halves)).toEqual(north);
  expect(halves.options[1]!.rules[0]!.scope.walls).toHaveLength(2);
  const whole = removeBodyCorner(owner, 0, 3)(halves);
  expect(whole.options[1]!.rules[0]!.scope.walls).toEqual(['hall/0/2']);
  expect(problems(halves)).toEqual([]);
});

test('an exception goes on to both halves of its wall', () => {
  const project = ruled(['hall/0/0', 'hall/0/2'], ['hall/0/0/1']);
  const split = splitBodyEdge({ optionId: 'a', id: 'hall' }, 0, 0)(project);
  const { except } = split.options[1]!.rules[0]!.scope;
  expect(except).toHaveLength(2);
  const half = split.options[1]!.masses[0]!.footprint.edges![0]![1];
  expect(except).toEqual(['hall/0/0/1', `hall/0/${half}/1`]);
});

test('panels turned over by hand stay on the first half', () => {
  const project = ruled(['hall/0/0']);
  const panels: OpeningRule = {
    ...project.options[1]!.rules[0]!,
    make: {
      by: 'panels',
      panelWidthM: 1,
      panelHeightM: 1,
      barM: 0.1,
      density: 0.5,
      seed: 1,
      glazed: true,
      turned: ['hall/0/0/0/1/1'],
    },
  };
  project.options[1]!.rules = [panels];
  const [after] = splitBodyEdge({ optionId: 'a', id: 'hall' }, 0, 0)(project).options[1]!.rules;
  expect(after!.make).toEqual(panels.make);
});

test('documents of version 2 are read with their edges numbered as they run', () => {
  // Moment sets came with version 4, and views of other kinds than orbits; sets of hours with version 6.
  const { version: _, ...old } = { ...kelpLane(), viewpoints: [] };
  expect(parseProject({ ...old, version: 2 })).toEqual({
    ...old,
    version: kelpLane().version,
    momentSets: [],
    hourSets: [],
  });
});

test('numbers of edges that do not fit are refused in a sentence', () => {
  const with_ = (edges: number[][]) => {
    const project = emptyProject('E', 2026);
    project.options[1]!.masses.push({ ...hall(), openings: [] });
    return problems(
      reshapeBody({ optionId: 'a', id: 'hall' }, (mass) => ({
        ...mass,
        footprint: { ...mass.footprint, edges },
      }))(project),
    )[0];
  };
  expect(with_([[0, 1, 2]])).toContain('The edges of the footprint have 3 numbers for 4 edges');
  expect(with_([[0, 1, 2, 2]])).toContain('Two edges of the footprint have the same number');
  expect(with_([[0, 1, 2, 3], [0]])).toContain('Edges of court 1 are numbered, but it does not exist');
});

test('through any corners added and taken away, numbers stay one to an edge and openings where they stand', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.boolean(), fc.nat(30)), { maxLength: 12 }), (steps) => {
      let mass = hall();
      const began = places(mass);
      for (const [grow, at] of steps) {
        const n = mass.footprint.outer.length;
        mass = grow || n === 4 ? splitEdge(mass, 0, at % n) : removeCorner(mass, 0, at % n);
        const numbers = normalFootprint(mass.footprint).edges[0]!;
        expect(new Set(numbers).size).toBe(mass.footprint.outer.length);
        if (!steps.some(([g]) => !g)) expect(places(mass)).toEqual(began);
      }
    }),
  );
});
