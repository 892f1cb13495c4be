import { create } from 'zustand';
import { type Camera, DEFAULT_DRAWING, type Drawing } from '@dial-shade/core';
import { setView, useView } from './view-store';

/** A moment on the clock of the site. */
export interface ClockMoment {
  date: string;
  minutes: number;
}

/** What a pane holds on to while the board goes elsewhere; null where it goes along. */
export interface Pin {
  optionId: string | null;
  moment: ClockMoment | null;
  /** Id of a study. */
  activeStudy: string | null;
}

export interface Pane {
  id: number;
  /** From where it looked when it last came to rest; null while nothing has been framed. */
  camera: Camera | null;
  drawing: Drawing;
  pin: Pin;
}

/** One, two or four panes; or a sheet of as many plans as there are storeys. */
export type Arrangement = 'one' | 'beside' | 'above' | 'four' | 'sheet';

const PANE_COUNT = { one: 1, beside: 2, above: 2, four: 4 } as const;

/** Plans that a sheet may have. */
export const MAX_PLANS = 16;

/** How many panes the board has. */
export function paneCount({ arrangement, sheet }: Pick<Panes, 'arrangement' | 'sheet'>): number {
  return arrangement === 'sheet' ? sheet.length : PANE_COUNT[arrangement];
}

interface Panes {
  arrangement: Arrangement;
  /** What the plans of a sheet are called, in their order. */
  sheet: readonly string[];
  /** Where the dividers stand, as shares of the board. */
  dividers: { x: number; y: number };
  /** Whether all panes that are seen look from where the one with the focus does. */
  tied: boolean;
  /** All panes there have been; the arrangement shows the first of them. */
  panes: Pane[];
  /** The pane that stage, tools and keys act on. */
  focused: number;
  /** What panes without a pin show. */
  board: { optionId: string; activeStudy: string | null } & ClockMoment;
}

const NO_PIN: Pin = { optionId: null, moment: null, activeStudy: null };
const FIRST: Pane = { id: 0, camera: null, drawing: DEFAULT_DRAWING, pin: NO_PIN };

const boardNow = () => {
  const { optionId, date, minutes, activeStudy } = useView.getState();
  return { optionId, date, minutes, activeStudy };
};

export const usePanes = create<Panes>(() => ({
  arrangement: 'one',
  sheet: [],
  dividers: { x: 0.5, y: 0.5 },
  tied: false,
  panes: [FIRST],
  focused: 0,
  board: boardNow(),
}));

/** What a pane shows: its pins, and for the rest what the board shows. */
export function shownIn({ pin }: Pick<Pane, 'pin'>, { board }: Pick<Panes, 'board'>): Panes['board'] {
  const { date, minutes } = pin.moment ?? board;
  return {
    optionId: pin.optionId ?? board.optionId,
    date,
    minutes,
    activeStudy: pin.activeStudy ?? board.activeStudy,
  };
}

const changePane = (id: number, change: Partial<Pane>) =>
  usePanes.setState(({ panes }) => ({
    panes: panes.map((pane) => (pane.id === id ? { ...pane, ...change } : pane)),
  }));

/** Notes from where a pane looks. */
export const noteCamera = (id: number, camera: Camera) => changePane(id, { camera });

/** Changes how the pane with the focus is drawn. */
export function changeDrawing(change: Partial<Drawing>): void {
  const { focused, panes } = usePanes.getState();
  const pane = panes.find(({ id }) => id === focused)!;
  changePane(focused, { drawing: { ...pane.drawing, ...change } });
}

/** The pane with the focus. */
export const useFocusedPane = (): Pane =>
  usePanes(({ panes, focused }) => panes.find(({ id }) => id === focused) ?? panes[0]!);

/** Gives a pane the focus: option, moment and study on screen become those that it shows. */
export function focusPane(id: number): void {
  const state = usePanes.getState();
  const pane = state.panes.find((one) => one.id === id);
  if (!pane || state.focused === id) return;
  usePanes.setState({ focused: id });
  const shown = shownIn(pane, state);
  const isSameOption = shown.optionId === useView.getState().optionId;
  setView({ ...shown, ...(isSameOption ? {} : { selection: null, also: [], opening: null }) });
}

/** Gives the focus to the next pane that is seen. */
export function focusNextPane(): void {
  const state = usePanes.getState();
  focusPane((state.focused + 1) % paneCount(state));
}

/** Pins what a pane shows now, or lets it go along with the board again. */
export function pinPane(id: number, what: keyof Pin, isPinned: boolean): void {
  const state = usePanes.getState();
  const pane = state.panes.find((one) => one.id === id)!;
  const { date, minutes, ...rest } = shownIn(pane, state);
  const kept = what === 'moment' ? { date, minutes } : rest[what];
  changePane(id, { pin: { ...pane.pin, [what]: isPinned ? kept : null } });
  if (!isPinned && state.focused === id)
    // The board goes where the pane was, rather than the pane back to the board.
    usePanes.setState(({ board }) => ({
      board: { ...board, ...(what === 'moment' ? { date, minutes } : { [what]: rest[what] }) },
    }));
}

/** Divides the board. New panes look as the focused one does. */
export function arrange(arrangement: Exclude<Arrangement, 'sheet'>): void {
  usePanes.setState(({ panes, focused }) => ({
    arrangement,
    panes: enough(panes, focused, PANE_COUNT[arrangement]),
  }));
  if (usePanes.getState().focused >= PANE_COUNT[arrangement]) focusPane(0);
}

function enough(panes: readonly Pane[], focused: number, count: number): Pane[] {
  const like = panes.find(({ id }) => id === focused) ?? panes[0]!;
  const made = [...panes];
  while (made.length < count) made.push({ ...like, id: made.length });
  return made;
}

/** Lays plans out side by side, all drawn as the focused pane is, none pinned. */
export function arrangeSheet(plans: readonly { name: string; camera: Camera }[]): void {
  usePanes.setState(({ panes, focused }) => {
    const { drawing } = panes.find(({ id }) => id === focused) ?? panes[0]!;
    return {
      arrangement: 'sheet',
      sheet: plans.map(({ name }) => name),
      panes: enough(panes, focused, plans.length).map((pane, i) =>
        i < plans.length ? { ...pane, camera: plans[i]!.camera, drawing, pin: NO_PIN } : pane,
      ),
    };
  });
  if (usePanes.getState().focused >= plans.length) focusPane(0);
}

/** Options side by side, two or four panes, each keeping one; a fourth without one goes along with the board. */
export function arrangeOptions(optionIds: readonly string[], camera: Camera | null): void {
  arrange(optionIds.length > 2 ? 'four' : 'beside');
  const { panes, arrangement, sheet } = usePanes.getState();
  const count = paneCount({ arrangement, sheet });
  usePanes.setState({
    tied: true,
    panes: panes.map((pane, i) =>
      i < count
        ? { ...pane, camera: camera ?? pane.camera, pin: { ...NO_PIN, optionId: optionIds[i] ?? null } }
        : pane,
    ),
  });
  // What is on screen is what the pane with the focus shows now.
  const state = usePanes.getState();
  setView({ optionId: shownIn(state.panes[state.focused]!, state).optionId, selection: null, also: [] });
}

/** Moves a divider; both parts keep a fifth of the board. */
export function moveDivider(axis: 'x' | 'y', share: number): void {
  const within = Math.min(0.8, Math.max(0.2, share));
  usePanes.setState(({ dividers }) => ({ dividers: { ...dividers, [axis]: within } }));
}

const keyOf = (projectId: string) => `dial-shade:panes:${projectId}`;

/** Puts the panes back as they were when the project was last on this screen. */
export function recallPanes(
  projectId: string,
  optionIds: ReadonlySet<string>,
  studyIds: ReadonlySet<string>,
): void {
  const plain = {
    arrangement: 'one',
    sheet: [],
    panes: [FIRST],
    focused: 0,
    tied: false,
    dividers: { x: 0.5, y: 0.5 },
  } as const;
  let kept: Partial<Panes> | null = null;
  try {
    kept = JSON.parse(localStorage.getItem(keyOf(projectId)) ?? 'null') as Partial<Panes> | null;
  } catch {
    // What cannot be read is as if nothing was kept.
  }
  const { arrangement, sheet, panes, dividers, tied } = { ...plain, ...kept };
  const isSheet = Array.isArray(sheet) && sheet.length > 0 && sheet.length <= MAX_PLANS;
  const count =
    arrangement === 'sheet' ? (isSheet ? sheet.length : Infinity) : (PANE_COUNT[arrangement] ?? Infinity);
  const isWhole =
    Array.isArray(panes) &&
    panes.length >= count &&
    panes.every(({ id, pin, drawing }, i) => id === i && pin && drawing);
  usePanes.setState({
    ...plain,
    ...(isWhole ? { arrangement, sheet: isSheet ? sheet : [], dividers, tied: tied === true } : {}),
    panes: (isWhole ? panes : plain.panes).map((pane) => {
      const { optionId, moment, activeStudy } = pane.pin;
      const drawing = { ...DEFAULT_DRAWING, ...pane.drawing };
      return {
        ...pane,
        drawing,
        pin: {
          optionId: optionId && optionIds.has(optionId) ? optionId : null,
          moment,
          activeStudy: activeStudy && studyIds.has(activeStudy) ? activeStudy : null,
        },
      };
    }),
    board: boardNow(),
  });
}

/** Remembers the panes of a project on this screen until the returned function is called. */
export function keepPanes(projectId: string): () => void {
  const keep = () => {
    const { arrangement, sheet, panes, dividers, tied } = usePanes.getState();
    localStorage.setItem(keyOf(projectId), JSON.stringify({ arrangement, sheet, panes, dividers, tied }));
  };
  window.addEventListener('pagehide', keep);
  return () => {
    keep();
    window.removeEventListener('pagehide', keep);
  };
}

// Option, moment and study on screen are those of the focused pane: a change goes to its pin, or to the board.
useView.subscribe((now, before) => {
  const isOption = now.optionId !== before.optionId;
  const isMoment = now.date !== before.date || now.minutes !== before.minutes;
  const isStudy = now.activeStudy !== before.activeStudy;
  if (!isOption && !isMoment && !isStudy) return;
  const { panes, focused, board } = usePanes.getState();
  const pane = panes.find(({ id }) => id === focused);
  if (!pane) return;
  const { optionId, date, minutes, activeStudy } = now;
  const pin = { ...pane.pin };
  const next = { ...board };
  if (isOption) {
    if (pin.optionId) pin.optionId = optionId;
    else next.optionId = optionId;
  }
  if (isMoment) {
    if (pin.moment) pin.moment = { date, minutes };
    else Object.assign(next, { date, minutes });
  }
  if (isStudy) {
    if (pin.activeStudy) pin.activeStudy = activeStudy;
    else next.activeStudy = activeStudy;
  }
  changePane(focused, { pin });
  usePanes.setState({ board: next });
});
