import './browser-stand-in';
import { kelpLane } from '@dial-shade/samples';
import { cancelDrawing, draftOutline, useDraft } from '../src/board/draft';
import { closeDrawing, drawClick } from '../src/board/drawing';
import { snap, snapTargets } from '../src/board/tools/snap';
import { useNotices } from '../src/state/notice-store';
import { currentProject, openProject } from '../src/state/project-store';
import { setView, useView } from '../src/state/view-store';

const POLYGON = { kind: 'draw', shape: 'polygon', purpose: 'target' } as const;
const MASS = { kind: 'draw', shape: 'rectangle', purpose: 'mass' } as const;
const BOUNDARY = { kind: 'draw', shape: 'polygon', purpose: 'boundary' } as const;

beforeEach(() => {
  openProject('p', 1, kelpLane());
  cancelDrawing();
  useNotices.setState({ notices: [] });
  setView({ optionId: 'a', activeStudy: null, tool: POLYGON });
});

const FREE = { corners: [], edges: [] };

test('points fall on the half-metre grid and square to the edge before', () => {
  expect(snap([3.21, -4.7], FREE, [], 0.2)).toMatchObject({ p: [3, -4.5], by: 'grid' });
  expect(snap([10.1, 0.4], FREE, [[0, 0]], 0.2).p).toEqual([10, 0]);
  expect(snap([0.3, 8.2], FREE, [[0, 0]], 0.2).p).toEqual([0, 8]);
  expect(snap([7.3, 6.1], FREE, [[0, 0]], 0.2).p).toEqual([7.5, 6]);
});

test('a slanted edge is met at a right angle, its length in steps of the grid', () => {
  const { p, by } = snap(
    [1.05, 7.05],
    FREE,
    [
      [0, 0],
      [4, 3],
    ],
    0.2,
  );
  expect(by).toBe('right angle');
  expect((p[0] - 4) * 4 + (p[1] - 3) * 3).toBeCloseTo(0, 9);
  expect(Math.hypot(p[0] - 4, p[1] - 3) % 0.5).toBeCloseTo(0, 9);
});

test('corners come before edges, edges before lines, and lines show their guide', () => {
  const targets = {
    corners: [
      [10, 0],
      [10, 8],
    ] as [number, number][],
    edges: [
      [
        [10, 0],
        [10, 8],
      ],
    ] as [[number, number], [number, number]][],
  };
  expect(snap([10.2, 0.1], targets, [], 0.3)).toMatchObject({ p: [10, 0], by: 'corner' });
  expect(snap([10.2, 4.1], targets, [], 0.3)).toMatchObject({ p: [10, 4], by: 'edge' });
  const line = snap([3.3, 8.1], targets, [], 0.3);
  expect(line).toMatchObject({ p: [3.5, 8], by: 'line' });
  expect(line.guides).toHaveLength(1);
});

test('corners of what is shown can be snapped to, those of other options not', () => {
  const corners = (option: string) => snapTargets(kelpLane(), option, []).corners.map(String);
  expect(corners('a')).toContain('2,4');
  expect(corners('b')).not.toContain('2,4');
  expect(corners('b')).toContain('0,36');
  expect(corners('b')).toContain('38,27');
});

test('the draft shows the outline with the pointer as its next point', () => {
  expect(draftOutline({ points: [[0, 0]], pointer: [4, 3] }, 'rectangle')).toEqual([
    [0, 0],
    [4, 0],
    [4, 3],
    [0, 3],
  ]);
  expect(
    draftOutline(
      {
        points: [
          [0, 0],
          [4, 0],
        ],
        pointer: [4, 3],
      },
      'polygon',
    ),
  ).toHaveLength(3);
  expect(draftOutline({ points: [[0, 0]], pointer: null }, 'rectangle')).toEqual([[0, 0]]);
});

/** Targets that the sample has. */
const BEFORE = kelpLane().targets.length;

test('a polygon is closed on its first point, becomes a target that runs anticlockwise, and ends the tool', () => {
  for (const p of [
    [50, 50],
    [50, 60],
    [60, 60],
    [60, 50],
  ] as const)
    drawClick(POLYGON, p);
  expect(currentProject().targets).toHaveLength(BEFORE);
  drawClick(POLYGON, [50, 50]);
  const target = currentProject().targets[BEFORE]!;
  expect(target).toMatchObject({ name: `Target ${BEFORE + 1}`, spacingM: 0.25, offsetM: 0.1 });
  expect(target).toHaveProperty(['outline', 0], [60, 50]);
  expect(useView.getState().tool).toEqual({ kind: 'select' });
  expect(useDraft.getState().points).toEqual([]);
});

test('clicking the same place twice sets one point', () => {
  drawClick(POLYGON, [1, 1]);
  drawClick(POLYGON, [1, 1]);
  expect(useDraft.getState().points).toHaveLength(1);
});

test('a large target begins with a coarse grid', () => {
  for (const p of [
    [0, 0],
    [300, 0],
    [300, 300],
    [0, 300],
  ] as const)
    drawClick(POLYGON, p);
  closeDrawing(POLYGON);
  const { spacingM } = currentProject().targets.at(-1)!;
  expect((300 / spacingM) ** 2).toBeLessThanOrEqual(2500);
});

test('an outline that crosses itself is refused with the reason, and its points are kept to be mended', () => {
  for (const p of [
    [0, 0],
    [10, 10],
    [10, 0],
    [0, 10],
  ] as const)
    drawClick(POLYGON, p);
  closeDrawing(POLYGON);
  expect(useNotices.getState().notices[0]!.text).toContain('The outline crosses itself near (5.00, 5.00)');
  expect(currentProject().targets).toHaveLength(BEFORE);
  expect(useDraft.getState().points).toHaveLength(4);
});

test('a footprint becomes a mass of the option on the board, chosen at once', () => {
  drawClick(MASS, [60, 0]);
  drawClick(MASS, [70, 8]);
  const option = currentProject().options[1]!;
  expect(option.masses.at(-1)).toMatchObject({ name: 'Mass 2', storeys: [{ heightM: 3 }, { heightM: 3 }] });
  expect(useView.getState().selection).toMatchObject({
    id: option.masses.at(-1)!.id,
    optionId: 'a',
    layer: 'option',
  });
});

test('a rectangle without area is refused and begun anew; one within another mass is allowed and said', () => {
  drawClick(MASS, [60, 0]);
  drawClick(MASS, [70, 0]);
  expect(useNotices.getState().notices[0]!.text).toMatch('The outline has two corners in the same place');
  expect(useDraft.getState().points).toEqual([]);
  drawClick(MASS, [10, 6]);
  drawClick(MASS, [14, 10]);
  expect(useNotices.getState().notices.at(-1)!.text).toContain('stands within “Bar”');
  expect(currentProject().options[1]!.masses).toHaveLength(2);
});

test('the boundary is drawn anew', () => {
  for (const p of [
    [0, 0],
    [20, 0],
    [20, 20],
  ] as const)
    drawClick(BOUNDARY, p);
  closeDrawing(BOUNDARY);
  expect(currentProject().site.boundary).toEqual([
    [0, 0],
    [20, 0],
    [20, 20],
  ]);
});
