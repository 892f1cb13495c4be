import type { Camera } from '@dial-shade/core';
import { noteCamera, paneCount, usePanes } from '../state/panes-store';
import type { PaneView } from './pane-view';

const views = new Map<number, PaneView>();

/** The view of a pane, once it is there. */
export const viewOf = (paneId: number): PaneView | null => views.get(paneId) ?? null;

/** The view of the pane that has the focus, once it is there. */
export function focusedView(): PaneView | null {
  return viewOf(usePanes.getState().focused);
}

/** Lets the pane with the focus look from elsewhere. */
export function showCamera(camera: Camera): void {
  const { focused } = usePanes.getState();
  views.get(focused)?.restoreCamera(camera);
  noteCamera(focused, camera);
}

/** Where panes are tied, lets all that are seen look from where the one with the focus does. */
export function tieCameras(): void {
  const state = usePanes.getState();
  const camera = focusedView()?.look.camera;
  if (!state.tied || !camera || paneCount(state) < 2) return;
  for (const { id } of state.panes.slice(0, paneCount(state)))
    if (id !== state.focused) views.get(id)?.restoreCamera(camera);
}

/** Ties the panes, or lets each look from where it likes again. */
export function setTied(tied: boolean): void {
  usePanes.setState({ tied });
  tieCameras();
}

/** Enters a view until the returned function is called. */
export function enterView(paneId: number, view: PaneView): () => void {
  views.set(paneId, view);
  return () => {
    if (views.get(paneId) === view) views.delete(paneId);
  };
}
