import type { SceneView } from './scene-view';

const key = (projectId: string) => `dial-shade:view:${projectId}`;

/** Puts the eye where it was when the project was last on this screen; false when nothing is remembered. */
export function recallView(view: SceneView, projectId: string): boolean {
  try {
    const kept = JSON.parse(localStorage.getItem(key(projectId)) ?? 'null') as SceneView['viewpoint'] | null;
    if (!kept) return false;
    view.restore(kept);
    return true;
  } catch {
    return false;
  }
}

/** Remembers where the eye is whenever it came to rest, until the returned function is called. */
export function keepView(view: SceneView, projectId: string): () => void {
  const keep = () => localStorage.setItem(key(projectId), JSON.stringify(view.viewpoint));
  view.controls.addEventListener('end', keep);
  window.addEventListener('pagehide', keep);
  return () => {
    view.controls.removeEventListener('end', keep);
    window.removeEventListener('pagehide', keep);
  };
}
