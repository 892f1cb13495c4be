import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import type { ModelLook } from './drawn-model';
import { sceneLook } from './scene-look';

/**
 * The scene of an option as this page draws it at a moment (epoch ms), at rest without one; panes that show the same option get the same object.
 * @param of tells panes apart that show it at moments of their own
 */
export function useScene(optionId: string, byKind: boolean, atMs: number | null, of = ''): ModelLook {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const theme = useView((view) => view.theme);
  const selection = useView((view) => view.selection);
  const also = useView((view) => view.also);
  const hidden = useView((view) => view.hidden);
  return sceneLook(project, meshes, optionId, { theme, byKind, selection, also, hidden, atMs, of });
}
