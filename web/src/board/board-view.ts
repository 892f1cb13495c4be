import type { SceneView } from './scene-view';

let shown: SceneView | null = null;

/** The pane on the board, once it is there. */
export function boardView(): SceneView | null {
  return shown;
}

export function setBoardView(view: SceneView | null): void {
  shown = view;
}
