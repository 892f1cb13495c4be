import { area, block, fit, LEVEL, opening, partyOf, rect, rule } from '../../testing/blocks';
import { boxMesh, HASH, meshOf, modelAt, SOUTH } from '../../testing/meshes';
import { copyOwners, editOpenings, moveOwners, placeModel } from '../document';
import { shiftBy, turnAbout, wallFaces } from '../form';
import {
  emptyProject,
  type Model,
  type OpeningRule,
  type Project,
  projectSchema,
  type RuleMake,
} from '../project';
import { assembleScene } from '../scene';
import { adjoiningModel, SpatialIndex } from './adjoining-body';
import { detachRule } from './detach-rule';
import { openingsIn } from './in-option';
import { faceOfOwner } from './owner-face';
import { partyParts } from './party';
import { openRays } from '../../testing/open-sky';
const MESHES = new Map([[HASH, boxMesh(6, 4, 3)]]);
const KIOSK = { optionId: 'a', id: 'kiosk' };
const FACE = { on: 'mesh' as const, face: SOUTH };

function withKiosk(more: Partial<Model> = {}, rules: OpeningRule[] = []): Project {
  const project = emptyProject('Kiosk', 2026);
  const option = project.options.find(({ id }) => id === 'a')!;
  option.models.push(modelAt([0, 0, 0], more));
  option.rules.push(...rules);
  return projectSchema.parse(project);
}

function piece(project: Project) {
  const scene = assembleScene(project, 'a', MESHES);
  return scene.pieces[scene.owners.findIndex(({ id }) => id === 'kiosk')]!;
}

const window = opening('w', rect(1, 0.9, 2, 1.5), { host: FACE });

test('an opening in a flat face of a mesh cuts it open, with pane and reveal', () => {
  const made = piece(withKiosk({ openings: [window] }));
  expect(area(made, (kind) => kind === 'glazing')).toBeCloseTo(3, 9);
  expect(area(made, (kind) => kind === 'reveal')).toBeCloseTo(7 * window.revealM, 9);
  // Walls 2 × (18 + 12) m², floor and roof 2 × 24 m².
  expect(area(made, (kind) => kind === 'mesh')).toBeCloseTo(60 + 48 - 3, 9);
  expect(made.surfaces.some(({ kind, face }) => kind === 'mesh' && face === `mesh/${SOUTH}`)).toBe(true);
});

test('without openings the triangles of a mesh stay those of its file, in their order', () => {
  const made = piece(withKiosk());
  const { positions, triangles } = MESHES.get(HASH)!;
  expect([...made.positions]).toEqual(
    [...triangles].flatMap((i) => [...positions.subarray(i * 3, i * 3 + 3)]),
  );
});

test('a closed mesh stays dark inside when a solid door is put into it, and sees sky through a void', () => {
  const inside = [3, 2, 1.5] as const;
  const door = opening('d', rect(1, 0.05, 1, 2), { host: FACE, kind: 'door', glazing: null });
  expect(openRays(assembleScene(withKiosk({ openings: [door] }), 'a', MESHES), inside)).toBe(0);
  const hole = opening('v', rect(1, 0.9, 2, 1.5), { host: FACE, kind: 'void', glazing: null });
  expect(openRays(assembleScene(withKiosk({ openings: [hole] }), 'a', MESHES), inside)).toBeGreaterThan(0);
});

test('an opening that leaves its face is refused, with the nearest place; one in a lost face is told', () => {
  const over = opening('w', rect(5.5, 0.9, 1, 1), { host: FACE });
  const lost = opening('x', rect(1, 1, 1, 1), { host: { on: 'mesh', face: 500 } });
  const project = withKiosk({ openings: [over, lost] });
  const openings = openingsIn(project, 'a', MESHES);
  const { violations } = openings.of(project.options.find(({ id }) => id === 'a')!.models[0]!)!;
  expect(violations.map(({ violation }) => violation.reason)).toEqual([
    'The opening leaves its face or comes nearer than 0.05 m to its edge.',
    'Its wall or roof face no longer exists.',
  ]);
  expect(violations[0]!.violation.nearest).toMatchObject({ u: expect.closeTo(4.95, 9), v: 0.9 });
});

describe('rules on meshes', () => {
  const panels: RuleMake = {
    by: 'panels',
    panelWidthM: 1,
    panelHeightM: 1,
    barM: 0.1,
    density: 0.5,
    seed: 7,
    glazed: true,
    turned: [],
  };
  const made = (project: Project) => {
    const body = project.options.find(({ id }) => id === 'a')!.models[0]!;
    return openingsIn(project, 'a', MESHES).of(body)?.byFace ?? new Map<string, { id: string }[]>();
  };

  test('a rule for everything leaves meshes alone; one that names the mesh divides its upright faces', () => {
    expect(made(withKiosk({}, [rule(panels)])).size).toBe(0);
    const byFace = made(withKiosk({}, [rule({ ...panels, density: 1 }, { owners: ['kiosk'] })]));
    // 6 × 3 m gives 5 × 2 panels of a metre beside a bar of 10 cm, 4 × 3 m gives 3 × 2.
    expect([...byFace].map(([key, list]) => [key, list.length])).toEqual([
      ['mesh/4', 10],
      ['mesh/6', 6],
      ['mesh/8', 10],
      ['mesh/10', 6],
    ]);
  });

  test('panels are the same for the same seed, others for another, and turned over by hand', () => {
    const ids = (make: RuleMake) =>
      made(withKiosk({}, [rule(make, { walls: ['kiosk/mesh/4'] })]))
        .get('mesh/4')!
        .map(({ id }) => id);
    const first = ids(panels);
    expect(ids(panels)).toEqual(first);
    expect(first.length).toBeGreaterThan(1);
    expect(first.length).toBeLessThan(10);
    expect(ids({ ...panels, seed: 8 })).not.toEqual(first);
    const [column, row] = first[0]!.split('.').at(-1)!.split('-');
    const turned = ids({ ...panels, turned: [`kiosk/mesh/4/0/${column}/${row}`] });
    expect(turned).toEqual(first.slice(1));
  });

  test('on a gable only what lies within it is made', () => {
    const gable = meshOf([
      [
        [0, 0, 0],
        [6, 0, 0],
        [6, 0, 3],
        [3, 0, 6],
        [0, 0, 3],
      ],
    ]);
    const project = withKiosk({}, [rule({ ...panels, density: 1 }, { owners: ['kiosk'] })]);
    const body = project.options.find(({ id }) => id === 'a')!.models[0]!;
    const list = openingsIn(project, 'a', new Map([[HASH, gable]]))
      .of(body)!
      .byFace.get('mesh/0')!;
    for (const { outline } of list) {
      const { u, v, widthM, heightM } = outline as { u: number; v: number; widthM: number; heightM: number };
      for (const x of [u, u + widthM]) expect(v + heightM).toBeLessThanOrEqual(6 - Math.abs(x - 3));
    }
    // 5 columns in 5 rows; the slopes take those whose upper corners pass them.
    expect(list.length).toBeGreaterThan(10);
    expect(list.length).toBeLessThan(25);
  });
});

describe('meshes against walls', () => {
  const kiosk = (move: [number, number, number], mesh = boxMesh(6, 4, 3)) =>
    partyParts(wallFaces(block('a', 0, 0, 10, 8), LEVEL), [adjoiningModel(modelAt(move), mesh)]);

  test('a mesh that stands against a wall covers what it touches', () => {
    const parts = kiosk([10, 2, 0]);
    expect([...parts.keys()]).toEqual(['wall/0/1/0']);
    expect(parts.get('wall/0/1/0')).toEqual([
      { u0: expect.closeTo(2, 6), u1: expect.closeTo(6, 6), v0: 0, v1: 3, by: 'Kiosk' },
    ]);
    expect(kiosk([10.2, 2, 0]).size).toBe(0);
  });

  test('a gable covers no more than itself, to a strip of 10 cm', () => {
    const gable = meshOf([
      [
        [0, 0, 0],
        [0, 6, 0],
        [0, 6, 3],
        [0, 3, 6],
        [0, 0, 3],
      ],
    ]);
    const parts = [...kiosk([10, 1, 0], gable).values()].flat();
    const covered = parts.reduce((sum, p) => sum + (p.u1 - p.u0) * (p.v1 - p.v0), 0);
    expect(covered).toBeCloseTo(18 + 9, 1);
  });

  test('a mass that stands against a mesh covers it in turn', () => {
    const project = withKiosk({}, [
      rule({ by: 'size', widthM: 1, heightM: 1, spacingM: 1.5, sillM: 1, jambM: 0.2 }, { owners: ['kiosk'] }),
    ]);
    const option = project.options.find(({ id }) => id === 'a')!;
    option.masses.push(block('b', 6, -1, 5, 10, 1));
    const fitted = openingsIn(project, 'a', MESHES).of(option.models[0]!)!;
    expect(fitted.byFace.has('mesh/6')).toBe(false);
    expect(fitted.byFace.get('mesh/4')!.length).toBe(4);
    expect(fitted.parties.get('mesh/6')).toEqual([
      { u0: 0, u1: expect.closeTo(4, 9), v0: 0, v1: 3, by: 'B' },
    ]);
  });
});

describe('edits', () => {
  const project = withKiosk({ openings: [window] });

  test('openings go along when a mesh is moved, turned or copied', () => {
    const moved = moveOwners([KIOSK], turnAbout([0, 0], 90))(moveOwners([KIOSK], shiftBy(5, 2))(project));
    const face = faceOfOwner(moved, KIOSK, `mesh/${SOUTH}`, MESHES)!;
    expect(face.normal[0]).toBeCloseTo(1, 9);
    const copied = copyOwners([KIOSK], [shiftBy(20, 0)])(project);
    expect(copied.options.find(({ id }) => id === 'a')!.models[1]!.openings).toEqual([window]);
    expect(projectSchema.safeParse(copied).success).toBe(true);
  });

  test('a typed place gives the same faces as moving there', () => {
    const typed = placeModel(KIOSK, { move: [5, 2, 1], turnDeg: 90 })(project);
    const model = typed.options.find(({ id }) => id === 'a')!.models[0]!;
    expect([model.move, model.turnDeg]).toEqual([[5, 2, 1], 90]);
    expect(project.options.find(({ id }) => id === 'a')!.models[0]!.move).toEqual([0, 0, 0]);
  });

  test('editing openings reaches meshes and leaves everything else the same object', () => {
    const without = editOpenings(KIOSK, () => [])(project);
    expect(without.options.find(({ id }) => id === 'a')!.models[0]!.openings).toEqual([]);
    expect(without.neighbours).toBe(project.neighbours);
  });

  test('a rule broken on one wall leaves that wall alone and goes on elsewhere; the scene stays the same', () => {
    const make: RuleMake = { by: 'size', widthM: 1, heightM: 1, spacingM: 2, sillM: 1, jambM: 0.5 };
    const start = emptyProject('Rule', 2026);
    const option = start.options.find(({ id }) => id === 'a')!;
    option.masses.push(block('m', 0, 0, 10, 8));
    option.rules.push(rule(make));
    const host = { on: 'wall' as const, ring: 0, edge: 0, storey: 1 };
    const wall = { ownerId: 'm', face: { key: 'wall/0/0/1', host } };
    const broken = detachRule(start, openingsIn(start, 'a'), 'a', 'r', wall);
    expect(projectSchema.safeParse(broken).success).toBe(true);
    const now = broken.options.find(({ id }) => id === 'a')!;
    expect(now.rules[0]!.scope.except).toEqual(['m/0/0/1']);
    expect(now.masses[0]!.openings).toHaveLength(5);
    expect(new Set(now.masses[0]!.openings.map(({ id }) => id)).size).toBe(5);
    const glass = (project: Project) => {
      const scene = assembleScene(project, 'a', new Map());
      return area(scene.pieces.at(-1)!, (kind) => kind === 'glazing');
    };
    expect(glass(broken)).toBeCloseTo(glass(start), 9);
    const whole = detachRule(broken, openingsIn(broken, 'a'), 'a', 'r');
    expect(whole.options.find(({ id }) => id === 'a')!.rules).toEqual([]);
    expect(glass(whole)).toBeCloseTo(glass(start), 9);
  });
});

test('the index finds the same as asking every body', () => {
  const town = Array.from({ length: 200 }, (_, i) =>
    block(`n${i}`, (i % 15) * 11 - 80 + ((i * 7) % 5), Math.floor(i / 15) * 9 - 60, 10 + (i % 3), 9, 1),
  );
  town.push(block('long', -200, 3, 500, 6));
  const all = (body: (typeof town)[number]) =>
    town.filter((other) => other !== body && partyOf(body, [other]).size > 0).map(({ id }) => id);
  for (const body of [town[0]!, town[37]!, town[101]!, town.at(-1)!]) {
    const covering = [...partyOf(body, town).values()].flat().map(({ by }) => by.toLowerCase());
    expect([...new Set(covering)].sort()).toEqual(all(body).sort());
  }
  expect(new SpatialIndex([]).near(adjoiningModel(modelAt([0, 0, 0]), boxMesh(1, 1, 1)))).toEqual([]);
  expect(fit(town[0]!).violations).toEqual([]);
});

test('a rule that would make more openings than a body can have makes none there, and says so', () => {
  const tiny: RuleMake = {
    by: 'panels',
    panelWidthM: 0.1,
    panelHeightM: 0.1,
    barM: 0.02,
    density: 1,
    seed: 1,
    glazed: true,
    turned: [],
  };
  // 24 × 3 m has 7 thousand panels of 10 cm: two such walls fit into the 20 thousand, a third does not.
  const fitted = fit(block('m', 0, 0, 24, 24, 1), [rule(tiny)]);
  expect(fitted.byFace.size).toBe(2);
  expect(fitted.relaxed.filter(({ what }) => what === 'too many')).toHaveLength(2);
  const tower = fit(block('m', 0, 0, 80, 80, 1), [rule(tiny)]);
  expect(tower.byFace.size).toBe(0);
  expect(tower.relaxed[0]).toMatchObject({ what: 'too many', got: 0 });
});
