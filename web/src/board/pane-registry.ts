import type { Camera } from '@dial-shade/core';
import { noteCamera, usePanes } from '../state/panes-store';
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

/** Enters a view until the returned function is called. */
export function enterView(paneId: number, view: PaneView): () => void {
  views.set(paneId, view);
  return () => {
    if (views.get(paneId) === view) views.delete(paneId);
  };
}
