import {
  assembleScene,
  editSite,
  emptyProject,
  moveOwner,
  defaultMass,
  type Project,
  remove,
} from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import fc from 'fast-check';
import { type BufferGeometry, DoubleSide, Mesh, MeshBasicMaterial, Raycaster, Vector3 } from 'three';
import { bestView } from '../src/board/best-view';
import { thinPen } from '../src/board/pens';
import { fetchTrees } from '../src/board/piece-rays';
import { SceneChunks } from '../src/board/scene-chunks';
import type { Rgb } from '../src/board/solid-geometry';

const material = new MeshBasicMaterial();
const MATERIALS = {
  shaded: material,
  sunlit: [material, material, material],
  groundShaded: material,
  groundSunlit: [material, material, material],
  fronts: [material, material],
  backs: [material, material],
  lateFronts: [material, material],
  lateBacks: [material, material],
  ink: thinPen('#000000'),
  glass: { depth: material, shaded: material, sunlit: material },
};
const GREY: Rgb = [0.5, 0.5, 0.5];

function town(): Project {
  const project = emptyProject('Town', 2026);
  for (let i = 0; i < 300; i++) {
    const [x, y] = [(i % 20) * 20, Math.floor(i / 20) * 20];
    const mass = defaultMass(
      `n${i}`,
      `N${i}`,
      [
        [x, y],
        [x + 10, y],
        [x + 10, y + 8],
        [x, y + 8],
      ],
      1,
      3,
    );
    project.neighbours.push({ kind: 'building', ...mass });
  }
  return project;
}

const sceneOf = (project: Project) => assembleScene(project, 'a', new Map());
const geometries = (chunks: SceneChunks) =>
  new Set(chunks.group.children.flatMap((group) => group.children.map((child) => (child as Mesh).geometry)));
const triangles = (chunks: SceneChunks) =>
  chunks.group.children.reduce(
    (sum, { children }) => sum + (children[0] as Mesh).geometry.getAttribute('position').count / 3,
    0,
  );
const kept = (before: Set<BufferGeometry>, after: Set<BufferGeometry>) =>
  [...before].filter((geometry) => after.has(geometry)).length / before.size;
const below = (x: number, y: number) => new Raycaster(new Vector3(x, y, 100), new Vector3(0, 0, -1));

test('all triangles of a scene are drawn, and one edit leaves nearly all buffers as they are', () => {
  const chunks = new SceneChunks(MATERIALS);
  const project = town();
  chunks.show(sceneOf(project), () => GREY, new Set());
  expect(triangles(chunks)).toBe(sceneOf(project).surfaceOf.length);
  const before = geometries(chunks);
  const moved = moveOwner({ optionId: null, id: 'n120' }, 3, 0)(project);
  chunks.show(sceneOf(moved), () => GREY, new Set());
  expect(kept(before, geometries(chunks))).toBeGreaterThan(0.8);
  expect(kept(before, geometries(chunks))).toBeLessThan(1);
  const again = geometries(chunks);
  chunks.show(sceneOf(moved), () => [0.5, 0.5, 0.5], new Set());
  expect(kept(again, geometries(chunks))).toBe(1);
  chunks.show(sceneOf(moved), () => [0.4, 0.5, 0.5], new Set());
  expect(kept(again, geometries(chunks))).toBe(0);
});

test('a hit names the owner and the surface of the scene that is shown now', () => {
  const chunks = new SceneChunks(MATERIALS);
  const project = town();
  const hit = (shown: Project, hidden: string[] = []) => {
    const scene = sceneOf(shown);
    chunks.show(scene, () => GREY, new Set(hidden.map((id) => scene.owners.findIndex((o) => o.id === id))));
    chunks.group.updateMatrixWorld(true);
    const found = chunks.pick(below(125, 104))!;
    expect(scene.ownerOf[found.surface]).toBe(found.owner);
    return [scene.owners[found.owner]!.id, scene.surfaces[found.surface]!.kind, found.point[2]];
  };
  // The sixth column of the fifth row is house 106; its flat roof lies 3 m high.
  expect(hit(project)).toEqual(['n106', 'roof', 3]);
  // With an earlier house gone, all that follow have another number.
  expect(hit(remove('neighbours', 'n3')(project))).toEqual(['n106', 'roof', 3]);
  expect(hit(project, ['n106'])).toEqual(['ground', 'ground', 0]);
});

test('at night neither bodies of shade nor what the sun adds are drawn', () => {
  const chunks = new SceneChunks(MATERIALS);
  chunks.setSunUp(false);
  chunks.show(sceneOf(town()), () => GREY, new Set());
  const shown = () => chunks.group.children[0]!.children.map(({ visible }) => visible);
  expect(shown()).toEqual([true, false, false, false, true]);
  chunks.setSunUp(true);
  expect(shown()).toEqual([true, true, true, true, true]);
});

test('the ground is seen and hit from above only; the sides of a terrain are not drawn', () => {
  const front = {
    ...MATERIALS,
    groundShaded: new MeshBasicMaterial(),
    groundSunlit: [0, 1, 2].map(() => new MeshBasicMaterial()),
  };
  const chunks = new SceneChunks(front);
  const points: [number, number, number][] = [
    [0, 0, 0],
    [40, 0, 4],
    [40, 40, 4],
    [0, 40, 0],
  ];
  const project = editSite({ ground: { kind: 'terrain', points } })(emptyProject('Hill', 2026));
  chunks.show(sceneOf(project), () => GREY, new Set());
  const solid = chunks.group.children[0]!.children[0] as Mesh;
  expect(solid.geometry.drawRange.count).toBeLessThan(solid.geometry.getAttribute('position').count);
  chunks.group.updateMatrixWorld(true);
  expect(chunks.pick(below(20, 20))!.point[2]).toBeCloseTo(2, 6);
  expect(chunks.pick(new Raycaster(new Vector3(20, 20, -100), new Vector3(0, 0, 1)))).toBeNull();
});

test('rays meet what an independent library finds, from outside and from within, between near and far', async () => {
  // Terrain and a mesh of many triangles are asked by their trees.
  await fetchTrees();
  const front = { ...MATERIALS, shaded: new MeshBasicMaterial({ side: DoubleSide }), groundShaded: material };
  const chunks = new SceneChunks(front);
  const hills = Array.from({ length: 400 }, (_, i): [number, number, number] => [
    (i % 20) * 5 - 20,
    Math.floor(i / 20) * 5 - 20,
    3 * Math.sin(i * 1.7),
  ]);
  const project = editSite({ ground: { kind: 'terrain', points: hills } })(kelpLane());
  const scene = assembleScene(project, 'b', new Map());
  expect(scene.pieces.some(({ surfaceOf }) => surfaceOf.length > 400)).toBe(true);
  const hidden = new Set([3, scene.owners.length - 1]);
  chunks.show(scene, () => GREY, hidden);
  chunks.group.updateMatrixWorld(true);
  const solids = chunks.group.children.map(({ children }) => children[0] as Mesh);
  const share = fc.noBias(fc.integer({ min: 0, max: 9999 })).map((n) => n / 9999);
  const place = fc
    .tuple(share, share, share)
    .map(([x, y, z]) => [x * 70 - 15, y * 60 - 15, z * 24 - 4] as const);
  let hits = 0;
  fc.assert(
    fc.property(place, place, fc.option(share), fc.option(share), (from, to, near, far) => {
      const way = new Vector3(...to).sub(new Vector3(...from));
      fc.pre(way.length() > 0.1);
      const ray = new Raycaster(new Vector3(...from), way.normalize(), (near ?? 0) * 8);
      if (far !== null) ray.far = ray.near + far * 60;
      const found = chunks.pick(ray);
      const theirs = ray.intersectObjects(solids, false)[0]?.point;
      // Their corners are in single precision: what is met at an edge may differ.
      const isNearEdge = [1e-4, -1e-4].some((by) => {
        const moved = new Vector3(by, -by * 0.7, by * 0.4).add(ray.ray.origin);
        const beside = new Raycaster(moved, ray.ray.direction, ray.near, ray.far);
        const there = chunks.pick(beside)?.point;
        return (
          Boolean(there) !== Boolean(found) ||
          (there && new Vector3(...there).distanceTo(new Vector3(...found!.point)) > 0.01)
        );
      });
      fc.pre(!isNearEdge);
      expect(found !== null).toBe(theirs !== undefined);
      if (!found || !theirs) return;
      hits++;
      expect(new Vector3(...found.point).distanceTo(theirs)).toBeLessThan(1e-3);
      expect(hidden.has(found.owner)).toBe(false);
      expect(scene.ownerOf[found.surface]).toBe(found.owner);
    }),
    { numRuns: 1500 },
  );
  expect(hits).toBeGreaterThan(300);
});

test('what is asked about is looked at from where most of it is seen', () => {
  // Places on a wall that faces south, behind a screen that hides them from all but the east.
  const positions = Float64Array.from({ length: 30 }, (_, i) => [i % 3, 0, i][i % 3]!);
  const normals = Float64Array.from({ length: 30 }, (_, i) => [0, -1, 0][i % 3]!);
  const nowhere = () => true;
  const toTheEast = (_: Vector3, way: Vector3) => way.x < 0.6;
  const now = new Vector3(0, -1, 0);
  expect(bestView(positions, normals, () => false, now).y).toBeLessThan(-0.8);
  const way = bestView(positions, normals, toTheEast, now);
  expect(way.x).toBeGreaterThanOrEqual(0.6);
  expect(way.y).toBeLessThan(-0.15);
  expect(way.length()).toBeCloseTo(1, 9);
  // Where nothing is seen from anywhere it turns as little as may be.
  expect(bestView(positions, normals, nowhere, now).dot(now)).toBeGreaterThan(0.8);
});
