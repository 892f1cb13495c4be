import './browser-stand-in';
import { paneBox, sheetBox, sheetColumns } from '../src/board/pane-boxes';
import { enterView, setTied, tieCameras } from '../src/board/pane-registry';
import { keptLater } from '../src/state/kept-later';
import {
  arrange,
  arrangeOptions,
  arrangeSheet,
  paneCount,
  focusPane,
  keepPanes,
  moveDivider,
  noteCamera,
  type Pane,
  pinPane,
  recallPanes,
  shownIn,
  usePanes,
} from '../src/state/panes-store';
import { setView, useView } from '../src/state/view-store';

const OPTIONS = new Set(['today', 'a', 'b']);
const STUDIES = new Set(['sun', 'sky']);
const shown = (id: number) => {
  const state = usePanes.getState();
  return shownIn(
    state.panes.find((pane) => pane.id === id)!,
    state,
  );
};
const camera: NonNullable<Pane['camera']> = {
  kind: 'orbit',
  projection: 'perspective',
  eye: [1, 2, 3],
  lookAt: [0, 0, 0],
  heightM: 50,
};

beforeEach(() => {
  localStorage.clear();
  setView({ optionId: 'a', date: '2026-03-21', minutes: 720, activeStudy: 'sun', selection: null });
  recallPanes('p', OPTIONS, STUDIES);
});

test('panes without pins go along with the board', () => {
  arrange('four');
  expect(usePanes.getState().panes).toHaveLength(4);
  setView({ optionId: 'b', date: '2026-06-21', minutes: 600 });
  for (const id of [0, 1, 2, 3])
    expect(shown(id)).toEqual({ optionId: 'b', date: '2026-06-21', minutes: 600, activeStudy: 'sun' });
});

test('options side by side: each pane keeps one, all look from the same place; a fourth goes along', () => {
  arrangeOptions(['b', 'today', 'a'], camera);
  const state = usePanes.getState();
  expect([state.arrangement, state.tied]).toEqual(['four', true]);
  expect(state.panes.map((pane) => pane.camera)).toEqual([camera, camera, camera, camera]);
  expect([0, 1, 2, 3].map((id) => shown(id).optionId)).toEqual(['b', 'today', 'a', 'a']);
  expect(useView.getState().optionId).toBe('b');
  // A number key changes the pane with the focus only.
  setView({ optionId: 'a' });
  expect([0, 1, 2].map((id) => shown(id).optionId)).toEqual(['a', 'today', 'a']);
  const leave = keepPanes('p');
  leave();
  recallPanes('p', OPTIONS, STUDIES);
  expect(usePanes.getState().tied).toBe(true);
});

test('tied panes look from where the one with the focus does, and no longer once they are not', () => {
  arrange('beside');
  const looks: unknown[] = [];
  const view = (id: number) =>
    ({ look: { camera }, restoreCamera: (from: unknown) => looks.push([id, from]) }) as never;
  const left = [enterView(0, view(0)), enterView(1, view(1))];
  tieCameras();
  expect(looks).toEqual([]);
  setTied(true);
  expect(looks).toEqual([[1, camera]]);
  focusPane(1);
  tieCameras();
  expect(looks).toEqual([
    [1, camera],
    [0, camera],
  ]);
  left.forEach((leave) => leave());
});

test('a pane that is pinned keeps its moment while the others change, and is changed when it has the focus', () => {
  arrange('beside');
  pinPane(1, 'moment', true);
  setView({ minutes: 540 });
  expect(shown(0).minutes).toBe(540);
  expect(shown(1).minutes).toBe(720);
  focusPane(1);
  expect(useView.getState().minutes).toBe(720);
  setView({ minutes: 900, optionId: 'b' });
  expect(shown(1)).toEqual({ optionId: 'b', date: '2026-03-21', minutes: 900, activeStudy: 'sun' });
  expect(shown(0)).toEqual({ optionId: 'b', date: '2026-03-21', minutes: 540, activeStudy: 'sun' });
  focusPane(0);
  expect(useView.getState()).toMatchObject({ optionId: 'b', minutes: 540 });
});

test('options are pinned likewise; what is chosen in one option is let go with it', () => {
  arrange('beside');
  focusPane(1);
  pinPane(1, 'optionId', true);
  setView({ optionId: 'b', selection: { id: 'm', optionId: 'b', layer: 'option', wallBearingDeg: null } });
  expect(shown(0).optionId).toBe('a');
  focusPane(0);
  expect(useView.getState()).toMatchObject({ optionId: 'a', selection: null });
});

test('studies are pinned likewise, and remembered while they are there', () => {
  arrange('beside');
  pinPane(1, 'activeStudy', true);
  setView({ activeStudy: 'sky' });
  expect([shown(0).activeStudy, shown(1).activeStudy]).toEqual(['sky', 'sun']);
  focusPane(1);
  expect(useView.getState().activeStudy).toBe('sun');
  keepPanes('p')();
  recallPanes('p', OPTIONS, STUDIES);
  expect(usePanes.getState().panes[1]!.pin.activeStudy).toBe('sun');
  recallPanes('p', OPTIONS, new Set(['sky']));
  expect(usePanes.getState().panes[1]!.pin.activeStudy).toBeNull();
});

test('a focused pane that is let go takes the board with it', () => {
  arrange('beside');
  focusPane(1);
  pinPane(1, 'moment', true);
  setView({ minutes: 480 });
  expect(shown(0).minutes).toBe(720);
  pinPane(1, 'moment', false);
  expect(shown(0).minutes).toBe(480);
  expect(useView.getState().minutes).toBe(480);
});

test('fewer panes: the focus goes to one that is seen', () => {
  arrange('four');
  focusPane(3);
  arrange('beside');
  expect(usePanes.getState().focused).toBe(0);
});

test('panes are remembered for each project; an option that is gone is no pin', () => {
  arrange('beside');
  noteCamera(1, camera);
  focusPane(1);
  pinPane(1, 'optionId', true);
  setView({ optionId: 'b' });
  moveDivider('x', 0.99);
  const stop = keepPanes('p');
  stop();
  recallPanes('q', OPTIONS, STUDIES);
  expect(usePanes.getState()).toMatchObject({ arrangement: 'one', focused: 0 });
  recallPanes('p', OPTIONS, STUDIES);
  expect(usePanes.getState()).toMatchObject({ arrangement: 'beside', dividers: { x: 0.8, y: 0.5 } });
  expect(usePanes.getState().panes[1]).toMatchObject({ camera, pin: { optionId: 'b' } });
  recallPanes('p', new Set(['today', 'a']), STUDIES);
  expect(usePanes.getState().panes[1]!.pin.optionId).toBeNull();
});

test('what was kept in another shape, or not at all, gives one pane', () => {
  localStorage.setItem('dial-shade:panes:p', '{"arrangement":"four","panes":[]}');
  recallPanes('p', OPTIONS, STUDIES);
  expect(usePanes.getState().panes).toHaveLength(1);
  localStorage.setItem('dial-shade:panes:p', '{"panes":[{"id":"x"}],"arrangement":"one"}');
  recallPanes('p', OPTIONS, STUDIES);
  expect(usePanes.getState().panes[0]).toMatchObject({
    id: 0,
    camera: null,
    pin: { optionId: null, moment: null },
  });
  localStorage.setItem('dial-shade:panes:p', 'not json');
  recallPanes('p', OPTIONS, STUDIES);
  expect(usePanes.getState().arrangement).toBe('one');
});

test.each(['one', 'beside', 'above', 'four'] as const)(
  '%s: panes cover the board and do not overlap',
  (way) => {
    const dividers = { x: 0.3, y: 0.6 };
    const count = { one: 1, beside: 2, above: 2, four: 4 }[way];
    const boxes = Array.from({ length: count }, (_, i) => paneBox(way, dividers, i, 1001, 703));
    const area = boxes.reduce((sum, { width, height }) => sum + width * height, 0);
    expect(area).toBe(1001 * 703);
    for (const [i, a] of boxes.entries())
      for (const b of boxes.slice(i + 1))
        expect(
          a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height,
        ).toBe(false);
  },
);

test('what is still to be kept is written down until it is, each once, by project', () => {
  keptLater.add('p', 's', 'a');
  keptLater.add('p', 's', 'a');
  keptLater.add('q', 's', 'a');
  expect(keptLater.of('p')).toEqual([{ project: 'p', study: 's', option: 'a' }]);
  keptLater.remove('p', 's', 'a');
  expect(keptLater.of('p')).toEqual([]);
  expect(keptLater.of('q')).toHaveLength(1);
  sessionStorage.setItem('dial-shade:kept-later', '{');
  expect(keptLater.of('q')).toEqual([]);
});

test('a sheet of plans fills the board without gaps, its cells about as wide as high', () => {
  for (const count of [1, 2, 5, 6, 7, 16])
    for (const [width, height] of [
      [918, 560],
      [500, 900],
      [1600, 1000],
    ] as const) {
      const boxes = Array.from({ length: count }, (_, i) => sheetBox(count, i, width, height));
      const columns = sheetColumns(count, width, height);
      for (const [i, { x, y, width: w, height: h }] of boxes.entries()) {
        expect(w).toBeGreaterThan(20);
        expect(x).toBe(i % columns ? boxes[i - 1]!.x + boxes[i - 1]!.width : 0);
        expect(x + w <= width && y + h <= height).toBe(true);
        expect(w / h).toBeLessThan(width / height > 3 || count < 3 ? 9 : 3.2);
      }
      expect(columns * Math.ceil(count / columns)).toBeGreaterThanOrEqual(count);
    }
});

test('a sheet takes its plans, lets pins go, and is left for one pane that keeps its view', () => {
  arrange('four');
  focusPane(3);
  pinPane(0, 'moment', true);
  const camera = { kind: 'level', floorM: 0, aboveM: 1, centre: [0, 0], heightM: 30, northUp: true } as const;
  const plans = [0, 3, 6].map((floorM) => ({
    name: `at ${floorM}`,
    camera: { ...camera, centre: [0, 0] as [number, number], floorM },
  }));
  arrangeSheet(plans);
  const state = usePanes.getState();
  expect(paneCount(state)).toBe(3);
  expect(state.focused).toBe(0);
  expect(state.panes.slice(0, 3).map(({ camera: c, pin }) => [c, pin.moment])).toEqual(
    plans.map((plan) => [plan.camera, null]),
  );
  arrange('one');
  expect(paneCount(usePanes.getState())).toBe(1);
  expect(usePanes.getState().panes[0]!.camera).toEqual(plans[0]!.camera);
});
