import './browser-stand-in';
import { kelpLane } from '@dial-shade/samples';
import type { Point2, Project } from '@dial-shade/core';
import { finishOutline, finishPath, finishPoint, setArrayCopies } from '../src/board/drawn-objects';
import { pushFace } from '../src/board/tools/push-tool';
import { removeSelection } from '../src/app/commands';
import { placeOpening, useRefused } from '../src/openings/use-facade';
import { checks } from '../src/state/checks';
import { useNotices } from '../src/state/notice-store';
import { currentProject, openProject, undo, useProject } from '../src/state/project-store';
import { setView, type Tool, useView } from '../src/state/view-store';
import { openingsIn } from '@dial-shade/core';

type DrawTool = Extract<Tool, { kind: 'draw' }>;
const tool = (
  shape: DrawTool['shape'],
  purpose: DrawTool['purpose'],
  more: Partial<DrawTool> = {},
): DrawTool => ({
  kind: 'draw',
  shape,
  purpose,
  ...more,
});
const bar = () => currentProject().options[1]!.masses[0]!;
const BAR = { id: 'bar', optionId: 'a', layer: 'option', wallBearingDeg: null } as const;

beforeAll(() => checks.fetch());
beforeEach(() => {
  openProject('p', 1, kelpLane());
  useNotices.setState({ notices: [] });
  useRefused.setState({ refused: null });
  setView({ optionId: 'a', selection: BAR, also: [], opening: null, locked: new Set(), hidden: new Set() });
});

test('a court is cut out of the chosen mass; one that leaves it is refused with the reason', () => {
  finishOutline(tool('rectangle', 'court'), [
    [10, 7],
    [20, 7],
    [20, 12],
    [10, 12],
  ]);
  expect(bar().footprint.holes).toHaveLength(1);
  finishOutline(tool('rectangle', 'court'), [
    [30, 7],
    [40, 7],
    [40, 12],
    [30, 12],
  ]);
  expect(bar().footprint.holes).toHaveLength(1);
  expect(useNotices.getState().notices.at(-1)!.text).toContain(
    'Court 2 does not lie wholly within the footprint',
  );
  setView({ selection: null });
  finishOutline(tool('rectangle', 'court'), [
    [22, 7],
    [24, 7],
    [24, 9],
    [22, 9],
  ]);
  expect(useNotices.getState().notices.at(-1)!.text).toContain('Choose the mass');
});

test('lines become walls, fences and partitions; points become trees and desks', () => {
  const path: Point2[] = [
    [0, 60],
    [10, 60],
  ];
  finishPath(tool('path', 'wall'), path);
  finishPath(tool('path', 'fence'), path);
  finishPoint(tool('point', 'tree'), [4, 70]);
  expect(currentProject().neighbours.slice(-3)).toMatchObject([
    { kind: 'wall', name: 'Wall 1', path },
    { kind: 'fence', name: 'Fence 2', openness: 0.3 },
    { kind: 'tree', name: 'Tree 3', at: [4, 70], leafFrom: '04-20' },
  ]);
  setView({ selection: BAR });
  finishPath(tool('path', 'partition', { storey: 1 }), [
    [10, 4],
    [10, 16],
  ]);
  finishPoint(tool('point', 'furniture', { storey: 1 }), [5, 10]);
  expect(bar().partitions.at(-1)).toMatchObject({
    storey: 1,
    path: [
      [10, 4],
      [10, 16],
    ],
  });
  expect(bar().furniture.at(-1)).toMatchObject({ storey: 1, at: [5, 10], widthM: 1.6 });
});

test('trees of the southern hemisphere are in leaf in its summer', () => {
  const south: Project = {
    ...kelpLane(),
    site: { ...kelpLane().site, place: { ...kelpLane().site.place, latitudeDeg: -33 } },
  };
  openProject('s', 1, south);
  finishPoint(tool('point', 'tree'), [4, 70]);
  expect(currentProject().neighbours.at(-1)).toMatchObject({ leafFrom: '10-20', leafUntil: '04-30' });
});

test('what is chosen is mirrored in a line and repeated along a way, each one step of undo', () => {
  const before = bar().footprint.outer;
  finishPath(tool('path', 'mirror'), [
    [0, 50],
    [10, 50],
  ]);
  expect(
    bar()
      .footprint.outer.map(([, y]) => y)
      .sort((a, b) => a - b),
  ).toEqual([84, 84, 96, 96]);
  undo();
  expect(bar().footprint.outer).toEqual(before);
  setArrayCopies(2);
  finishPath(tool('path', 'array'), [
    [0, 0],
    [0, 30],
  ]);
  expect(currentProject().options[1]!.masses.map((m) => m.footprint.outer[0]![1])).toEqual([4, 34, 64]);
  undo();
  expect(currentProject().options[1]!.masses).toHaveLength(1);
});

test('areas lie on the ground, or on the level they were drawn at', () => {
  const ring: Point2[] = [
    [50, 50],
    [60, 50],
    [60, 60],
  ];
  finishOutline(tool('polygon', 'area'), ring);
  finishOutline(tool('polygon', 'area', { levelM: 9 }), ring);
  expect(
    currentProject()
      .areas.slice(-2)
      .map(({ on }) => on),
  ).toEqual([{ kind: 'ground' }, { kind: 'level', levelM: 9 }]);
});

test('what is locked is not removed by key; an opening at hand goes before its mass', () => {
  setView({ locked: new Set(['a/bar']) });
  removeSelection();
  expect(currentProject().options[1]!.masses).toHaveLength(1);
  setView({ locked: new Set(), selection: BAR });
  removeSelection();
  expect(currentProject().options[1]!.masses).toHaveLength(0);
  expect(useProject.getState().editName).toBe('remove Bar');
});

test('pushing a wall of one storey sets it back there and above, or there only', () => {
  const { ground } = currentProject().site;
  const storeys = (scope: 'wall' | 'above' | 'storey') => {
    const push = pushFace(bar(), 'wall/0/2/3', [0, 1, 0], ground, scope)!;
    return push.apply(bar(), -2).storeys.map((s) => s.setbacksM?.[2] ?? 0);
  };
  expect(storeys('wall')).toEqual([0, 0, 0, 0, 0]);
  expect(storeys('above')).toEqual([0, 0, 0, 2, 2]);
  expect(storeys('storey')).toEqual([0, 0, 0, 2, 0]);
  expect(pushFace(bar(), 'roof/0', [0, 0, 1], ground, 'wall')!.name).toBe('top of Bar');
  expect(pushFace(bar(), 'bottom', [0, 0, -1], ground, 'wall')!.axis).toEqual([0, 0, -1]);
});

test('an opening at the edge is refused, changes nothing, and the offered place takes it with one step', () => {
  const facade = () => {
    const fitted = openingsIn(currentProject(), 'a').fitted(bar());
    const face = fitted.faces.find((f) => f.key === 'wall/0/1/0')!;
    return { owner: { optionId: 'a', id: 'bar' }, body: bar(), face, fitted, parties: [] };
  };
  const opening = {
    id: 'w',
    name: 'W',
    host: { on: 'wall', ring: 0, edge: 1, storey: 0 },
    kind: 'window',
    glazing: 'double',
    revealM: 0.1,
    openable: true,
    grid: null,
    outline: { kind: 'rectangle', u: 11.5, v: 1, widthM: 1.5, heightM: 1.5 },
  } as const;
  expect(
    placeOpening(
      facade(),
      { ...opening, host: { ...opening.host }, outline: { ...opening.outline } },
      'draw W',
    ),
  ).toBe(false);
  expect(bar().openings).toEqual([]);
  const { refused } = useRefused.getState();
  expect(refused!.reason).toContain('leaves its wall');
  refused!.accept();
  expect(bar().openings[0]!.outline).toMatchObject({ u: expect.closeTo(12 - 1.5 - 0.05, 9), v: 1 });
  expect(useRefused.getState().refused).toBeNull();
  expect(useView.getState().opening).toBe('w');
  undo();
  expect(bar().openings).toEqual([]);
});
