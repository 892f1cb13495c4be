import {
  assembleScene,
  type DeviceMake,
  emptyProject,
  type Mass,
  defaultMass,
  type Project,
  type Scene,
} from '@dial-shade/core';
import { house, OVERHANG } from '../../core/testing/shaded-house';
import { edgePoints, solidGeometry } from '../src/board/solid-geometry';
import { shadeShiftM } from '../src/board/shade-materials';
import { sunSteps } from '../src/board/passing-shares';
import { shadeVolumes } from '../src/board/shade-volumes';

function sceneOf(mass: Mass): Scene {
  const project: Project = emptyProject('E', 2026);
  project.options[1]!.masses.push(mass);
  return assembleScene(project, 'a', new Map());
}

const BLOCK = defaultMass(
  'm',
  'Block',
  [
    [0, 0],
    [6, 0],
    [6, 4],
    [0, 4],
  ],
  2,
  3,
);

const WINDOWS = [1, 3].map((u, i) => ({
  id: `w${i}`,
  name: '',
  kind: 'window' as const,
  host: { on: 'wall' as const, ring: 0, edge: 0, storey: 0 },
  outline: { kind: 'rectangle' as const, u, v: 0.9, widthM: 1.2, heightM: 1.5 },
  glazing: 'double',
  revealM: 0.1,
  openable: true,
  grid: null,
}));

type Vec = [number, number, number];

/** The pieces of everything but the ground. */
function bodies(scene: Scene) {
  return scene.pieces.filter((_, i) => scene.owners[i]!.layer !== 'ground');
}

/** The body of shade as the vertex shader would move it, as triangles. */
function stretched(scene: Scene, sun: Vec): Vec[][] {
  const geometry = shadeVolumes(bodies(scene)).toNonIndexed();
  const p = geometry.getAttribute('position');
  const n = geometry.getAttribute('normal');
  const corners = Array.from({ length: p.count }, (_, i): Vec => {
    const square = n.getX(i) * sun[0] + n.getY(i) * sun[1] + n.getZ(i) * sun[2];
    const along = shadeShiftM(square, sun[2], (p.getZ(i) + 2) / sun[2]);
    return [p.getX(i) - along * sun[0], p.getY(i) - along * sun[1], p.getZ(i) - along * sun[2]];
  });
  return Array.from({ length: p.count / 3 }, (_, t) => corners.slice(t * 3, t * 3 + 3));
}

/** How often a ray leaves the body less how often it enters: the count that the stencil takes beyond a point. */
function count(body: Vec[][], from: Vec, direction: Vec): number {
  const cross = (a: Vec, b: Vec): Vec => [
    a[1] * b[2] - a[2] * b[1],
    a[2] * b[0] - a[0] * b[2],
    a[0] * b[1] - a[1] * b[0],
  ];
  const dot = (a: Vec, b: Vec) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  const sub = (a: Vec, b: Vec): Vec => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
  let sum = 0;
  for (const [a, b, c] of body as [Vec, Vec, Vec][]) {
    const [u, v, w] = [sub(a, from), sub(b, from), sub(c, from)];
    const signs = [dot(direction, cross(u, v)), dot(direction, cross(v, w)), dot(direction, cross(w, u))];
    const inside = signs.every((s) => s > 0) || signs.every((s) => s < 0);
    if (!inside) continue;
    const normal = cross(sub(b, a), sub(c, a));
    const facing = dot(normal, direction);
    if (facing !== 0 && dot(u, normal) / facing > 0) sum += facing > 0 ? 1 : -1;
  }
  return sum;
}

/** Ground points are tested in an odd direction, so that no ray runs along an edge. */
const LOOK: Vec = [0.123, 0.777, -0.617];

describe.each<[string, Mass]>([
  ['a closed block', BLOCK],
  ['a block with an open parapet', { ...BLOCK, roof: { kind: 'flat', parapetM: 1 } }],
  ['a gable roof', { ...BLOCK, roof: { kind: 'gable', riseM: 2 } }],
  ['a pyramid roof', { ...BLOCK, roof: { kind: 'pyramid', riseM: 2 } }],
])('the body of shade of %s', (_, mass) => {
  const scene = sceneOf(mass);
  const elevation = (35 * Math.PI) / 180;
  const sun: Vec = [0.6 * Math.cos(elevation), -0.8 * Math.cos(elevation), Math.sin(elevation)];
  const body = stretched(scene, sun);

  test('counts exactly the ground points whose ray to the sun is blocked', () => {
    const triangles = solidTriangles(scene);
    let shaded = 0;
    for (let x = -14.3; x < 16; x += 1.37) {
      for (let y = -8.1; y < 16; y += 1.21) {
        if (x > -0.3 && x < 6.3 && y > -0.3 && y < 4.3) continue;
        const at: Vec = [x, y, 0.001];
        const blocked = triangles.some((t) => count([t], at, sun) !== 0);
        const inShade = count(body, at, LOOK) > 0;
        expect({ x, y, inShade }).toEqual({ x, y, inShade: blocked });
        if (blocked) shaded++;
      }
    }
    expect(shaded).toBeGreaterThan(8);
  });

  test.each<[string, Vec]>([
    ['a sun on two walls', sun],
    ['a sun that grazes a wall', [0.08, -0.7, Math.sqrt(1 - 0.08 ** 2 - 0.7 ** 2)]],
    ['a low sun', [0.99, -0.1, Math.sqrt(1 - 0.99 ** 2 - 0.1 ** 2)]],
  ])('is closed under %s: every edge is run through as often one way as the other', (_sun, towards) => {
    const key = (v: Vec) => v.map((c) => Math.round(c * 1000)).join(',');
    const edges = new Map<string, number>();
    for (const triangle of stretched(scene, towards))
      for (let k = 0; k < 3; k++) {
        const [a, b] = [key(triangle[k]!), key(triangle[(k + 1) % 3]!)];
        if (a === b) continue;
        const [name, sign] = a < b ? [`${a}|${b}`, 1] : [`${b}|${a}`, -1];
        edges.set(name, (edges.get(name) ?? 0) + sign);
      }
    expect([...edges.values()].filter((balance) => balance !== 0)).toEqual([]);
  });
});

describe.each<[string, () => Scene, sides: number]>([
  ['the foot of a parapet', () => sceneOf({ ...BLOCK, roof: { kind: 'flat', parapetM: 1 } }), 1],
  ['where the floors of a hollow house meet its walls', () => sceneOf({ ...BLOCK, openings: WINDOWS }), 2],
])('no edge opens both ways: %s', (_, makeScene, sides) => {
  test.each([
    [0.99, -0.1],
    [-0.63, -0.41],
    [0.2, 0.7],
  ])('under the sun (%d, %d)', (x, y) => {
    const scene = makeScene();
    const faces = bodies(scene).reduce((sum, { opaque }) => sum + opaque, 0) * sides;
    const folds = stretched(scene, [x, y, Math.sqrt(1 - x ** 2 - y ** 2)]).slice(faces);
    const key = (v: Vec) => v.map((c) => Math.round(c * 1000)).join(',');
    const ways = new Map<string, Set<string>>();
    for (let i = 0; i < folds.length; i += 2) {
      const [first, second] = [folds[i]!, folds[i + 1]!] as [Vec[], Vec[]];
      const corners = [...new Set([...first, ...second].map(key))].sort();
      if (corners.length < 4) continue;
      const [a, b, c] = first as [Vec, Vec, Vec];
      const [u, v] = [b, c].map((p) => p.map((value, k) => value - a[k]!)) as [Vec, Vec];
      const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      const way = normal.map((n) => (Math.abs(n) < 1e-6 ? 0 : Math.sign(n))).join();
      const name = corners.join('|');
      ways.set(name, (ways.get(name) ?? new Set()).add(way));
    }
    expect(ways.size).toBeGreaterThan(5);
    expect([...ways.values()].filter(({ size }) => size > 1)).toEqual([]);
  });
});

function solidTriangles(scene: Scene): Vec[][] {
  const out: Vec[][] = [];
  scene.surfaceOf.forEach((surface, t) => {
    if (scene.owners[scene.ownerOf[surface]!]!.layer === 'ground') return;
    out.push([0, 3, 6].map((o) => Array.from(scene.positions.subarray(t * 9 + o, t * 9 + o + 3)) as Vec));
  });
  return out;
}

test('sun comes in by a window: inside, the count is nil where a ray gets out by the opening, and only there', () => {
  const scene = sceneOf({ ...BLOCK, openings: WINDOWS });
  const elevation = (40 * Math.PI) / 180;
  const sun: Vec = [
    0.25 * Math.cos(elevation),
    -Math.sqrt(1 - 0.25 ** 2) * Math.cos(elevation),
    Math.sin(elevation),
  ];
  const body = stretched(scene, sun);
  const blocking: Vec[][] = [];
  for (let t = scene.shown; t < scene.opaque; t++)
    blocking.push(
      [0, 3, 6].map((o) => Array.from(scene.positions.subarray(t * 9 + o, t * 9 + o + 3)) as Vec),
    );
  let lit = 0;
  for (let x = 0.43; x < 6; x += 0.31)
    for (let y = 0.53; y < 4; y += 0.29) {
      const at: Vec = [x, y, 0.05];
      const isOpen = blocking.every((t) => count([t], at, sun) === 0);
      // Bodies of shade begin a little behind what casts them.
      const beside = [0.2, -0.2].some(
        (d) =>
          blocking.every((t) => count([t], [x + d * sun[0], y + d * sun[1], 0.05], sun) === 0) !== isOpen,
      );
      if (beside) continue;
      expect({ x, y, isLit: count(body, at, LOOK) === 0 }).toEqual({ x, y, isLit: isOpen });
      if (isOpen) lit++;
    }
  expect(lit).toBeGreaterThan(4);
});

test('shares of the sun: behind a crown by the season, behind glass, behind both the smaller, all of it in the open', () => {
  const leaves = { leaf: 0.2, bare: 0.6, from: '04-15', until: '10-31' };
  const behind = (date: string, glass: number | null) => {
    const [a, b, c] = sunSteps({ leaves, glass }, date);
    return { crown: a, pane: a + b, open: a + b + c };
  };
  expect(behind('06-21', 0.7)).toEqual({
    crown: 0.2,
    pane: expect.closeTo(0.7, 12),
    open: expect.closeTo(1, 12),
  });
  expect(behind('12-21', 0.7).crown).toBe(0.6);
  expect(behind('12-21', 0.5).crown).toBe(0.5);
  expect(behind('06-21', null)).toEqual({
    crown: 0.2,
    pane: expect.closeTo(1, 12),
    open: expect.closeTo(1, 12),
  });
  expect(sunSteps({ leaves: null, glass: null }, '06-21')).toEqual([0, 1, 0]);
  expect(sunSteps({ leaves: { ...leaves, from: '10-01', until: '03-31' }, glass: null }, '12-21')[0]).toBe(
    0.2,
  );
});

test('a closed block takes four triangles a face triangle, an open mesh eight', () => {
  const triangles = (scene: Scene) => shadeVolumes(bodies(scene)).index!.count / 3;
  // Two storeys: 8 wall quads and two caps are 20 triangles with 30 edges, each a fold of two.
  expect(triangles(sceneOf(BLOCK))).toBe(20 + 60);
  const project = emptyProject('E', 2026);
  project.neighbours.push({
    kind: 'mesh',
    id: 'n',
    name: 'Sail',
    mesh: 'a'.repeat(64),
    triangles: 1,
    move: [0, 0, 3],
    turnDeg: 0,
    openness: 0,
    openings: [],
    demolished: false,
  });
  const sail = { positions: Float64Array.of(0, 0, 0, 4, 0, 0, 0, 4, 1), triangles: Uint32Array.of(0, 1, 2) };
  expect(triangles(assembleScene(project, 'a', new Map([['a'.repeat(64), sail]])))).toBe(8);
});

test('ink is drawn where faces meet at an angle, not along storeys', () => {
  const scene = sceneOf(BLOCK);
  const lines = edgePoints(bodies(scene));
  const total = [];
  for (let i = 0; i < lines.length; i += 6)
    total.push(
      Math.hypot(lines[i + 3]! - lines[i]!, lines[i + 4]! - lines[i + 1]!, lines[i + 5]! - lines[i + 2]!),
    );
  // Eaves and base of 6 × 4 m, and four corners of 6 m, each cut in two by the storeys.
  expect(total.reduce((a, b) => a + b, 0)).toBeCloseTo(2 * 20 + 4 * 6, 5);
});

test('solids carry the flat normal of their face and the colour of their surface', () => {
  const [piece] = bodies(sceneOf(BLOCK));
  const colours = piece!.surfaces.map((_, i) => [i / 100, 0.5, 1] as const);
  const geometry = solidGeometry([{ piece: piece!, colours }]);
  const normal = geometry.getAttribute('normal');
  const colour = geometry.getAttribute('color');
  piece!.surfaceOf.forEach((surface, t) => {
    const expected = piece!.surfaces[surface]!.normal;
    [normal.getX(t * 3), normal.getY(t * 3), normal.getZ(t * 3)].forEach((v, i) =>
      expect(v).toBeCloseTo(expected[i]!, 6),
    );
    expect(colour.getX(t * 3)).toBeCloseTo(surface / 100, 6);
  });
});

test('a plate is drawn by its twelve edges, a thin slat by the outline of its broad side', () => {
  const piece = (make: DeviceMake) => {
    const { owners, pieces } = assembleScene(house(make), 'a', new Map());
    return pieces[owners.findIndex(({ layer }) => layer === 'devices')]!;
  };
  const slats = piece({
    kind: 'louvres',
    lie: 'level',
    slatM: 0.2,
    spacingM: 0.25,
    tiltDeg: 15,
    thicknessM: 0.01,
    offM: 0.1,
    aroundM: 0,
  });
  // A window 1 m high: five slats, four lines of two points each.
  const lines = edgePoints([slats]);
  expect(lines).toHaveLength(5 * 4 * 6);
  const lengths = Array.from({ length: 20 }, (_, i) =>
    Math.hypot(...[0, 1, 2].map((k) => lines[i * 6 + k]! - lines[i * 6 + 3 + k]!)),
  ).sort((a, b) => a - b);
  lengths.slice(0, 10).forEach((length) => expect(length).toBeCloseTo(0.2, 5));
  lengths.slice(10).forEach((length) => expect(length).toBeCloseTo(2, 5));
  expect(edgePoints([piece(OVERHANG)])).toHaveLength(12 * 6);
});
