import './browser-stand-in';
import {
  type CameraOf,
  defaultMass,
  emptyProject,
  planStudy,
  type Point3,
  type Project,
  resultFromBytes,
  resultToBytes,
  runStudy,
  sensorIndex,
  standScheme,
  type StudyResult,
  uprightPlane,
} from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import type { PaneView } from '../src/board/pane-view';
import { dragDevice } from '../src/board/tools/drag-device';
import { dragOutline } from '../src/board/tools/drag-outline';
import type { Hover, ToolHost } from '../src/board/tools/host';
import { profileTool } from '../src/board/tools/profile-tool';
import { stripTool } from '../src/board/tools/strip-tool';
import { useEnvelopes } from '../src/envelope/envelope-store';
import { useGlass } from '../src/shading/glass-store';
import { deviceInHand } from '../src/shading/device-in-hand';
import { currentProject, openProject, undo } from '../src/state/project-store';
import { setView, type Stage, useView } from '../src/state/view-store';
import { useNotices } from '../src/state/notice-store';
import { useProfile } from '../src/studies/profile-store';
import { useRays } from '../src/sun/rays-store';

/** Pixels a metre: the board looks from above, the project origin at its upper left corner. */
const SCALE = 20;
const NONE = new Map();
const SHIFT = {} as PointerEvent;

let stage: Stage = 'envelope';
let said: Hover | null = null;
let result: StudyResult | null = null;
/** How far along a handle's axis the pointer is. */
let along = 0;
let camera: unknown = null;
let underPointer: Point3 | null = null;

const host = {
  view: {
    toScreen: ([x, y, z]: Point3) => ({ x: x * SCALE, y: -y * SCALE - z * 3, behind: false }),
    onLevel: (x: number, y: number, z: number) => [x / SCALE, -(y + z * 3) / SCALE, z],
    pick: () => underPointer && { point: [...underPointer], owner: 0, surface: 0 },
    alongAxis: () => along,
    onPlane: () => underPointer,
    get look() {
      return { camera };
    },
  } as unknown as PaneView,
  now: () => ({
    stage,
    scene: { owners: [{ id: 'roof', layer: 'option' }] },
    result: { standing: { result }, index: result && sensorIndex(result) },
  }),
  say: (hover: Hover | null) => (said = hover),
} as unknown as ToolHost;

const px = (x: number, y: number, z = 0) => [x * SCALE, -y * SCALE - z * 3] as const;

beforeEach(() => {
  said = null;
  underPointer = null;
});
afterEach(() => jest.useRealTimers());

describe('outlines on the Envelope stage', () => {
  const SQUARE: [number, number][] = [
    [0, 0],
    [20, 0],
    [20, 10],
    [0, 10],
  ];
  const WINDOW = { from: '2026-03-21', to: '2026-03-21', startMinutes: 600, endMinutes: 720 };
  const tool = dragOutline(host);
  const envelope = () => currentProject().envelopes[0]!;

  beforeEach(() => {
    stage = 'envelope';
    const project = emptyProject('P', 2026);
    project.site.boundary = SQUARE;
    const garden = SQUARE.map(([x, y]): [number, number] => [x, y + 20]);
    project.areas = [
      { id: 'g', name: 'Garden', use: 'garden', outline: garden, on: { kind: 'level', levelM: 2 } },
    ];
    const keep = { on: 'area' as const, id: 'g', option: null, basis: 'clock' as const, windows: [WINDOW] };
    project.envelopes = [
      {
        ...{
          id: 'e',
          name: 'E',
          build: null,
          setbacksM: [2, 0, 0, 0],
          noBuild: [],
          limit: null,
          slope: null,
        },
        ...{ lost: 'keep', storeyM: 3, spacingM: 1, keep: [keep] },
      },
    ];
    openProject('p', 1, project);
    useEnvelopes.setState({ chosen: null, kept: 0 });
  });

  test('an edge is dragged inwards in steps of 25 cm, and never outwards, as one step of undo', () => {
    expect(tool.near(...px(10, 2))).toBe('Set back 2.00 m · drag it');
    expect(tool.down(...px(10, 2), SHIFT)).toBe(true);
    tool.drag(...px(10, 3.1));
    expect(envelope().setbacksM).toEqual([3, 0, 0, 0]);
    expect(said!.text).toBe('Set back 3.00 m');
    tool.drag(...px(10, 3.9));
    expect(envelope().setbacksM[0]).toBe(4);
    tool.drag(...px(10, -5));
    expect(envelope().setbacksM[0]).toBe(0);
    tool.up();
    expect(said).toBeNull();
    undo();
    expect(envelope().setbacksM).toEqual([2, 0, 0, 0]);
  });

  test('the far edge goes the other way; the outline itself stays', () => {
    expect(tool.down(...px(10, 10), SHIFT)).toBe(true);
    tool.drag(...px(10, 7.5));
    tool.up();
    expect(envelope().setbacksM).toEqual([2, 0, 2.5, 0]);
    expect(currentProject().site.boundary).toEqual(SQUARE);
  });

  test('a corner of an area is dragged on its own level, and comes before an edge', () => {
    expect(tool.near(...px(20, 30, 2))).toBe('Corner of Garden · drag it');
    expect(tool.down(...px(20, 30, 2), SHIFT)).toBe(true);
    tool.drag(...px(24.1, 31.9, 2));
    expect(said!.text).toBe('24.00 m · 32.00 m');
    tool.up();
    expect(currentProject().areas[0]!.outline[2]).toEqual([24, 32]);
    // An outline that crosses itself where it is let go goes back to where it was taken, and the reason is told.
    tool.down(...px(24, 32, 2), SHIFT);
    tool.drag(...px(10, 15, 2));
    // What is told goes by itself after a while.
    jest.useFakeTimers();
    tool.up();
    expect(useNotices.getState().notices.at(-1)!.text).toContain('crosses itself');
    expect(currentProject().areas[0]!.outline[2]).toEqual([24, 32]);
  });

  test('elsewhere, and on other stages, nothing is held', () => {
    expect(tool.near(...px(10, 6))).toBeNull();
    expect(tool.down(...px(10, 6), SHIFT)).toBe(false);
    stage = 'form';
    expect(tool.down(...px(10, 2), SHIFT)).toBe(false);
    tool.drag(...px(10, 5));
    expect(envelope().setbacksM[0]).toBe(2);
  });
});

describe('the handles of a device', () => {
  const tool = dragDevice(host);
  const device = () => deviceInHand(currentProject(), 'a', NONE)!.device;
  const handle = (number: string) =>
    deviceInHand(currentProject(), 'a', NONE)!.handles.find((one) => one.handle.number === number)!.at;

  beforeEach(() => {
    stage = 'shading';
    openProject('p', 1, standScheme('a', 'overhangs')(kelpLane()));
    setView({ optionId: 'a' });
    useGlass.setState({ device: null, chosen: null });
  });

  test('its depth follows the pointer from where it was taken hold of, as one step of undo', () => {
    const at = px(...handle('depthM'));
    expect(tool.near(...at)).toMatch(/^0\.80 m .* drag it$/);
    expect(tool.down(...at, SHIFT)).toBe(true);
    for (along of [0.1, 0.31, 0.23]) tool.drag(0, 0);
    expect(device().make).toMatchObject({ depthM: 1.05 });
    expect(said!.text).toMatch(/^1\.05 m /);
    tool.up();
    undo();
    expect(device().make).toMatchObject({ depthM: 0.8 });
  });

  test('a tilt is said in degrees; far off, and on other stages, nothing is held', () => {
    expect(tool.near(...px(...handle('tiltDeg')))).toMatch(/^-?\d+° .* drag it$/);
    expect(tool.down(-5000, 0, SHIFT)).toBe(false);
    stage = 'form';
    expect(tool.down(...px(...handle('depthM')), SHIFT)).toBe(false);
  });
});

describe('lines that are drawn with two clicks', () => {
  const escape = { key: 'Escape' } as KeyboardEvent;

  test('a profile begins and ends where a result lies, and is read from its target', () => {
    const project: Project = emptyProject('P', 2026);
    project.options[1]!.masses = [
      defaultMass(
        'm',
        'M',
        [
          [0, 0],
          [8, 0],
          [8, 8],
          [0, 8],
        ],
        1,
        3,
      ),
    ];
    const outline: [number, number][] = [
      [10, 0],
      [16, 0],
      [16, 6],
      [10, 6],
    ];
    project.targets = [{ kind: 'ground', id: 't', name: 'Lawn', outline, spacingM: 1, offsetM: 0 }];
    const window = { from: '2026-06-21', to: '2026-06-21', startMinutes: 0, endMinutes: 1440 };
    project.studies = [
      {
        ...{ id: 's', name: 'S', kind: 'sun-hours', targets: ['t'], window, stepMinutes: 60 },
        ...{ criterion: { atLeast: 2, share: 0.5, source: '' }, scale: null },
      },
    ];
    openProject('p', 1, project);
    const plan = planStudy(project, project.options[1]!.id, project.studies[0]!, NONE);
    result = resultFromBytes(resultToBytes(plan, runStudy(project, plan, NONE)));
    stage = 'studies';
    setView({ tool: { kind: 'profile' } as never });
    const tool = profileTool(host);
    underPointer = [4, 4, 3];
    tool.move!(0, 0);
    expect(said!.text).toBe('Point at a result');
    tool.click!(0, 0, SHIFT);
    expect(useProfile.getState().draft).toBeNull();
    underPointer = [11, 1, 0];
    tool.move!(0, 0);
    expect(said!.text).toBe('Click where the profile begins');
    tool.click!(0, 0, SHIFT);
    expect(useProfile.getState().draft).toMatchObject({ target: 't', from: [11, 1] });
    // Too short a line is none yet; Escape begins again.
    tool.click!(0, 0, SHIFT);
    expect(useProfile.getState().line).toBeNull();
    underPointer = [15, 4, 0];
    tool.move!(0, 0);
    expect(said!.text).toBe('5.00 m');
    expect(tool.key!(escape)).toBe(true);
    expect(tool.key!(escape)).toBe(false);
    underPointer = [11, 1, 0];
    tool.click!(0, 0, SHIFT);
    underPointer = [15, 4, 0];
    tool.click!(0, 0, SHIFT);
    expect(useProfile.getState()).toMatchObject({
      draft: null,
      line: { target: 't', from: [11, 1], to: [15, 4] },
    });
    expect(useView.getState().tool.kind).toBe('select');
  });

  test('a strip is drawn in the plane of a section only, to the millimetre', () => {
    openProject('p', 1, emptyProject('P', 2026));
    const tool = stripTool(host);
    camera = { kind: 'orbit' };
    underPointer = [1, 4, 2];
    tool.move!(0, 0);
    expect(said!.text).toBe('Look at a section to draw a strip');
    tool.click!(0, 0, SHIFT);
    expect(useRays.getState().draft).toBeNull();
    const section: CameraOf<'upright'> = {
      ...{ kind: 'upright', from: [0, 4], to: [10, 4], alongM: 5, levelM: 3, heightM: 20 },
    };
    camera = section;
    expect(uprightPlane(section.from, section.to).origin[1]).toBe(4);
    tool.click!(0, 0, SHIFT);
    underPointer = [1.00049, 4, 2];
    tool.click!(0, 0, SHIFT);
    expect(useRays.getState().strip).toBeNull();
    underPointer = [2.23456, 4, 2.5];
    tool.move!(0, 0);
    expect(said!.text).toBe('1.33 m');
    tool.click!(0, 0, SHIFT);
    expect(useRays.getState().strip).toMatchObject({ from: [1, 4, 2], to: [2.235, 4, 2.5], widthM: 2 });
    expect(useRays.getState().draft).toBeNull();
  });
});
