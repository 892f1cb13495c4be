import './browser-stand-in';
import {
  assembleScene,
  emptyProject,
  instantOf,
  sunPosition,
  sunVector,
  type Mass,
  defaultMass,
  type Point3,
  type Scene,
} from '@dial-shade/core';
import { boxMesh, HASH, modelAt } from '../../core/testing/meshes';
import type { ChunkHit } from '../src/board/scene-chunks';
import type { PaneView } from '../src/board/pane-view';
import { chooseTool } from '../src/board/tools/choose-tool';
import { cornersTool } from '../src/board/tools/corners-tool';
import { drawTool } from '../src/board/tools/draw-tool';
import { useDraft } from '../src/board/draft';
import { type BoardTool, type Hover, selectionOf, type ToolHost } from '../src/board/tools/host';
import { moveTool } from '../src/board/tools/move-tool';
import { pushTool } from '../src/board/tools/push-tool';
import { northMark } from '../src/board/sun-path-lines';
import { turnNorth } from '../src/board/tools/turn-north';
import { siteCircle } from '../src/board/scene-look';
import { rememberMesh, useMeshes } from '../src/state/mesh-cache';
import { currentProject, openProject, undo } from '../src/state/project-store';
import { type Selection, setView, type Stage, useView } from '../src/state/view-store';

/** Pixels a metre: the board looks from above, the project origin at its upper left corner. */
const SCALE = 20;
const M: Selection = { id: 'm', optionId: 'a', layer: 'option', wallBearingDeg: null };

let said: Hover | null = null;
let hit: ChunkHit | null = null;
let stage: Stage = 'form';
let scene: Scene;

/** A view from straight above, with what `hit` says under the pointer. */
const view = {
  toScreen: ([x, y]: Point3) => ({ x: x * SCALE, y: -y * SCALE, behind: false }),
  onLevel: (x: number, y: number, z: number) => [x / SCALE, -y / SCALE, z],
  pick: () => hit,
  alongAxis: (x: number, y: number, origin: Point3, axis: Point3) =>
    (x / SCALE - origin[0]) * axis[0] + (-y / SCALE - origin[1]) * axis[1],
} as unknown as PaneView;

const host = {
  view,
  now: () => ({ stage, scene, result: null }),
  say: (hover: Hover | null) => (said = hover),
} as unknown as ToolHost;

const mass = () => currentProject().options[1]!.masses[0]!;
const px = ([x, y]: readonly [number, number]) => [x * SCALE, -y * SCALE] as const;

function drag(tool: BoardTool, from: readonly [number, number], to: readonly [number, number]): boolean {
  const held = tool.down!(...px(from), {} as PointerEvent);
  if (!held) return false;
  tool.drag!(...px([(from[0] + to[0]) / 2, (from[1] + to[1]) / 2]));
  tool.drag!(...px(to));
  tool.up!();
  return true;
}

/** Puts the pointer on a face of the mass. */
function on(face: string | null, point: [number, number, number]): void {
  scene = assembleScene(currentProject(), 'a', useMeshes.getState().meshes);
  const owner = scene.owners.findIndex(({ id }) => id === 'm' || id === 'kiosk');
  const surface = scene.surfaces.findIndex((s, i) => scene.ownerOf[i] === owner && s.face === face);
  hit = { point, owner, surface };
}

beforeEach(() => {
  const project = emptyProject('T', 2026);
  const block: Mass = defaultMass(
    'm',
    'M',
    [
      [0, 0],
      [12, 0],
      [12, 8],
      [0, 8],
    ],
    2,
    3,
  );
  project.options[1]!.masses.push(block);
  openProject('p', 1, project);
  [said, hit, stage] = [null, null, 'form'];
  setView({
    optionId: 'a',
    selection: M,
    also: [],
    opening: null,
    locked: new Set(),
    tool: { kind: 'corners' },
  });
  scene = assembleScene(project, 'a', new Map());
});

describe('corners', () => {
  test('a corner is dragged, from the middle of an edge a new one comes out, Delete takes it away', () => {
    const tool = cornersTool(host);
    expect(drag(tool, [12, 8], [14, 9])).toBe(true);
    expect(mass().footprint.outer).toEqual([
      [0, 0],
      [12, 0],
      [14, 9],
      [0, 8],
    ]);
    undo();
    expect(drag(tool, [6, 0], [6, -2])).toBe(true);
    expect(mass().footprint.outer).toEqual([
      [0, 0],
      [6, -2],
      [12, 0],
      [12, 8],
      [0, 8],
    ]);
    expect(tool.key!({ key: 'Delete' } as KeyboardEvent)).toBe(true);
    expect(mass().footprint.outer).toHaveLength(4);
  });

  test('an edge is dragged square to itself, in steps of 25 cm, as one step of undo', () => {
    const tool = cornersTool(host);
    tool.move!(...px([3, 0]));
    expect(said!.text).toBe('Drag this edge');
    expect(drag(tool, [3, 0], [5, -2.1])).toBe(true);
    expect(mass().footprint.outer).toEqual([
      [0, -2],
      [12, -2],
      [12, 8],
      [0, 8],
    ]);
    undo();
    expect(mass().footprint.outer).toEqual([
      [0, 0],
      [12, 0],
      [12, 8],
      [0, 8],
    ]);
  });

  test('an edge that is dragged through the body is held where it last could be', () => {
    const tool = cornersTool(host);
    tool.down!(...px([3, 0]), {} as PointerEvent);
    tool.drag!(...px([3, 5]));
    tool.drag!(...px([3, 20]));
    expect(said!.text).not.toMatch(/ (in|out)$/);
    tool.up!();
    expect(mass().footprint.outer).toEqual([
      [0, 5],
      [12, 5],
      [12, 8],
      [0, 8],
    ]);
  });

  test('where neither corner nor edge is near, nothing is held', () => {
    const tool = cornersTool(host);
    expect(drag(tool, [6, 4], [7, 5])).toBe(false);
    tool.move!(...px([6, 4]));
    expect(said).toBeNull();
  });
});

test('a wall is pushed along its normal, and says how far', () => {
  setView({ tool: { kind: 'push', scope: 'wall' } });
  on('wall/0/1/0', [12, 4, 1]);
  const tool = pushTool(host);
  tool.down!(...px([12, 4]), {} as PointerEvent);
  tool.drag!(...px([14.1, 4]));
  expect(said!.text).toBe('2.00 m out');
  tool.up!();
  expect(mass().footprint.outer).toEqual([
    [0, 0],
    [14, 0],
    [14, 8],
    [0, 8],
  ]);
});

test('what is locked is neither pushed nor moved', () => {
  on('wall/0/1/0', [6, 4, 1]);
  setView({ locked: new Set(['a/m']) });
  expect(drag(pushTool(host), [6, 4], [9, 4])).toBe(false);
  expect(drag(moveTool(host), [6, 4], [9, 4])).toBe(false);
  setView({ locked: new Set() });
  expect(drag(moveTool(host), [6, 4], [9, 4])).toBe(true);
  expect(mass().footprint.outer[0]).toEqual([3, 0]);
});

test('true north follows the N of the ring on the Site stage only, and never moves the drawing', () => {
  const outer = mass().footprint.outer;
  const circle = siteCircle(currentProject(), new Map());
  const [x, y] = northMark(currentProject(), circle);
  const tool = turnNorth(host);
  expect(tool.isNear(...px([x, y]))).toBe(false);
  stage = 'site';
  expect(tool.isNear(...px([x, y]))).toBe(true);
  const [cx, cy] = circle.centre;
  expect(drag(tool, [x, y], [cx + 30, cy + 30])).toBe(true);
  expect(currentProject().site.north).toEqual({ trueNorthDeg: 45, confirmed: false });
  expect(mass().footprint.outer).toBe(outer);
  const [nx, ny] = northMark(currentProject(), circle);
  expect(nx - cx).toBeCloseTo(ny - cy, 9);
});

test('a click on an imported mesh chooses the flat face under it', () => {
  const project = emptyProject('K', 2026);
  project.options[1]!.models.push(modelAt([20, 0, 0]));
  rememberMesh(HASH, boxMesh(6, 4, 3));
  openProject('k', 1, project);
  on(null, [23, 0, 1]);
  const face = (point: [number, number, number]) =>
    selectionOf(host, { ...hit!, point }, scene.owners[hit!.owner]!).face;
  expect(face([23, 0, 1])).toBe('mesh/4');
  expect(face([23, 2, 3])).toBe('mesh/2');
  expect(face([23, 2, 9])).toBeNull();
});

test('a rectangle is drawn by two clicks, snapped to the half metre', () => {
  setView({ tool: { kind: 'draw', shape: 'rectangle', purpose: 'mass' }, selection: null });
  const tool = drawTool(host);
  for (const p of [
    [20.1, 20.2],
    [30.3, 26.4],
  ] as const) {
    tool.move!(...px(p));
    tool.click!(...px(p), {} as PointerEvent);
  }
  const [, drawn] = currentProject().options[1]!.masses;
  expect(drawn!.footprint.outer).toEqual([
    [20, 20],
    [30.5, 20],
    [30.5, 26.5],
    [20, 26.5],
  ]);
  expect(useDraft.getState().points).toEqual([]);
  expect(useView.getState().tool.kind).toBe('select');
});

describe('the sun on its path', () => {
  const at = (date: string, minutes: number): [number, number] => {
    const project = currentProject();
    const { place, north } = project.site;
    const sun = sunPosition(instantOf(date, minutes, place.zone), place);
    const { centre, radius } = siteCircle(project, useMeshes.getState().meshes);
    const [x, y] = sunVector(sun.altitudeDeg, sun.azimuthDeg, north.trueNorthDeg);
    return [(centre[0] + x * radius) * SCALE, -(centre[1] + y * radius) * SCALE];
  };

  beforeEach(() => {
    stage = 'sun';
    setView({ date: '2026-03-21', minutes: 720, tool: { kind: 'select' }, play: null });
  });
  afterEach(() => {
    stage = 'form';
  });

  test('is dragged along its day: the moment is where the path comes nearest', () => {
    const tool = chooseTool(host, () => null);
    expect(tool.down!(...at('2026-03-21', 720), {} as PointerEvent)).toBe(true);
    tool.drag!(...at('2026-03-21', 900));
    const { date, minutes } = useView.getState();
    expect(date).toBe('2026-03-21');
    // The path is followed in steps of five minutes.
    expect(Math.abs(minutes - 900)).toBeLessThanOrEqual(3);
    expect(said!.text).toContain('21 Mar');
    tool.up!();
    expect(said).toBeNull();
  });

  test('begun with Shift it goes along its hour through the year', () => {
    const tool = chooseTool(host, () => null);
    expect(tool.down!(...at('2026-03-21', 720), { shiftKey: true } as PointerEvent)).toBe(true);
    // Noon of winter time is one o'clock in June.
    tool.drag!(...at('2026-06-21', 780));
    const { date, minutes } = useView.getState();
    expect(Math.abs(Date.parse(date) - Date.UTC(2026, 5, 21)) / 86_400_000).toBeLessThan(25);
    expect(minutes).toBe(780);
    tool.up!();
  });

  test('is not there to be dragged on other stages, at night, or far from the pointer', () => {
    const tool = chooseTool(host, () => null);
    const [x, y] = at('2026-03-21', 720);
    expect(tool.down!(x + 60, y, {} as PointerEvent)).toBe(false);
    stage = 'form';
    expect(tool.down!(x, y, {} as PointerEvent)).toBe(false);
    stage = 'sun';
    setView({ minutes: 60 });
    expect(tool.down!(...at('2026-03-21', 60), {} as PointerEvent)).toBe(false);
  });
});
