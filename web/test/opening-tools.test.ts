import './browser-stand-in';
import {
  type DrawnTarget,
  findOpenable,
  onFace,
  type Opening,
  openingsIn,
  outlineBox,
  planStudy,
  resultFromBytes,
  resultToBytes,
  runStudy,
  targetSurface,
  sensorIndex,
} from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { chooseTool } from '../src/board/tools/choose-tool';
import type { Hover, ToolHost } from '../src/board/tools/host';
import { otherTools } from '../src/board/tools/other-tools';
import { resultCells } from '../src/board/result-cells';
import { faceLines, targetLines } from '../src/board/target-lines';
import { alignBelow, below, copyOpening, sized } from '../src/openings/arrange-openings';
import type { Facade } from '../src/openings/use-facade';
import { currentProject, openProject, undo } from '../src/state/project-store';
import { setView } from '../src/state/view-store';

const OWNER = { optionId: 'b', id: 'ring' };

function window(id: string, u: number, storey: number): Opening {
  return {
    id,
    name: id,
    host: { on: 'wall', ring: 0, edge: 0, storey },
    outline: { kind: 'rectangle', u, v: 0.9, widthM: 1.2, heightM: 1.4 },
    kind: 'window',
    glazing: 'double',
    revealM: 0.1,
    openable: true,
    grid: null,
  };
}

/** The facade of storey 2 of the ring, as the document has it now. */
function facade(): Facade {
  const body = findOpenable(currentProject(), OWNER)!;
  const fitted = openingsIn(currentProject(), 'b').fitted(body);
  const face = fitted.faces.find(({ key }) => key === 'wall/0/0/1')!;
  return { owner: OWNER, body, face, fitted, parties: [] };
}
const boxOf = (id: string) => outlineBox(facade().body.openings.find((o) => o.id === id)!.outline);

beforeEach(() => {
  const project = kelpLane();
  project.options[2]!.masses[0]!.openings = [
    window('low-1', 4, 0),
    window('low-2', 20, 0),
    window('up', 6, 1),
  ];
  openProject('p', 1, project);
  setView({ optionId: 'b', selection: null, also: [], opening: null, activeProbe: null });
});

test('a window is set over the nearest one below, by their middles, as one step of undo', () => {
  const up = facade().body.openings[2]!;
  expect(below(facade(), up)).toBeCloseTo(-2, 9);
  alignBelow(facade(), up);
  expect(boxOf('up').u0).toBeCloseTo(4, 9);
  undo();
  expect(boxOf('up').u0).toBe(6);
  const [lowest] = facade().body.openings;
  expect(below(facade(), lowest!)).toBeNull();
});

test('a copy stands to the right of its original; where it cannot, nothing is made', () => {
  copyOpening(facade(), facade().body.openings[2]!);
  const copy = facade().body.openings.find(({ name }) => name === 'up copy')!;
  expect(outlineBox(copy.outline).u0).toBeCloseTo(6 + 1.2 + 0.6, 9);
  const count = facade().body.openings.length;
  // The copy of the first would meet the copy that is there.
  copyOpening(facade(), facade().body.openings[2]!);
  expect(facade().body.openings).toHaveLength(count);
});

test('a window dragged by its corner keeps its foot and is never thinner than 10 cm', () => {
  const up = facade().body.openings[2]!;
  expect(outlineBox(sized(up, [8, 2]))).toEqual({ u0: 6, v0: 0.9, u1: 8, v1: 2 });
  const thin = outlineBox(sized(up, [1, 0]));
  expect(thin.u1 - thin.u0).toBeCloseTo(0.1, 9);
  expect(thin.v1 - thin.v0).toBeCloseTo(0.1, 9);
});

test('lines of a face stand before it, those of a target on it, with a tick on the side that it faces', () => {
  const { face } = facade();
  const lines = faceLines(face);
  expect(lines).toHaveLength(4 * 6);
  const inFront = onFace(face, face.outline[0]!, -0.03);
  inFront.forEach((v, k) => expect(lines[k]).toBeCloseTo(v, 9));
  const ground = currentProject().targets[0] as DrawnTarget;
  expect(targetLines(ground, currentProject().site.ground)).toHaveLength(ground.outline.length * 6);
  const plane = {
    kind: 'plane' as const,
    id: 'x',
    name: 'X',
    origin: [0, 0, 0] as [number, number, number],
    u: [1, 0, 0] as [number, number, number],
    v: [0, 0, 1] as [number, number, number],
    outline: [
      [0, 0],
      [4, 0],
      [4, 3],
      [0, 3],
    ] as [number, number][],
    holes: [],
    spacingM: 1,
    offsetM: 0.01,
    of: null,
  };
  const ticked = targetLines(plane, currentProject().site.ground);
  const y = ticked.filter((_, i) => i % 3 === 1);
  expect(Math.min(...y)).toBeCloseTo(-1.2, 9);
  expect(Math.max(...y)).toBeLessThan(0);
});

describe('results under the pointer', () => {
  const project = kelpLane();
  const plan = planStudy(project, 'b', project.studies[0]!, new Map());
  const values = runStudy(project, plan, new Map());
  const result = resultFromBytes(resultToBytes(plan, values));
  const index = sensorIndex(result);
  let said: Hover | null = null;
  const host = (at: [number, number, number]): ToolHost =>
    ({
      view: { pick: () => ({ point: at, owner: 0, surface: 0 }) },
      now: () => ({
        stage: 'studies',
        scene: { owners: [{ layer: 'ground', name: 'Ground' }], surfaces: [{}] },
        result: { standing: { result }, index },
      }),
      say: (hover: Hover | null) => (said = hover),
    }) as unknown as ToolHost;
  const choosing = (place: [number, number, number]) => {
    const tools = otherTools(host(place));
    return chooseTool(host(place), () => tools);
  };
  const sensor = 11;
  const at = [0, 1, 2].map((k) => result.grid.positions[sensor * 3 + k]!) as [number, number, number];

  test('hovering reads the value of the cell, beside the target nothing', () => {
    choosing(at).move!(5, 6);
    expect(said).toMatchObject({
      x: 5,
      y: 6,
      text: expect.stringContaining(`${values.hours![sensor]!.toFixed(2)} h`),
    });
    choosing([-400, 0, 0]).move!(5, 6);
    expect(said).toBeNull();
  });

  test('a click plants a numbered probe at the sensor; a second one chooses it', () => {
    const click = () => choosing(at).click!(0, 0, {} as PointerEvent);
    click();
    expect(currentProject().probes).toMatchObject([{ number: 1, at }]);
    click();
    expect(currentProject().probes).toHaveLength(1);
  });

  test('the cells lie on their targets', () => {
    const look = { min: 0, max: 8, atLeast: 2, ramp: 'sun' as const, ink: '#000', outdated: false };
    const [cells] = resultCells(result, project.site.ground, look).children as unknown as [
      {
        geometry: {
          getAttribute(name: string): {
            count: number;
            getX(i: number): number;
            getY(i: number): number;
            getZ(i: number): number;
          };
        };
      },
    ];
    const p = cells.geometry.getAttribute('position');
    const { under } = targetSurface(result.targets[0]!, project.site.ground);
    for (let i = 0; i < p.count; i += 37)
      expect(Math.abs(under([p.getX(i), p.getY(i), p.getZ(i)]).offM - 0.06)).toBeLessThan(1e-3);
  });
});
