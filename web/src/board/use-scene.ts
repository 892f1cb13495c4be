import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import type { ModelLook } from './drawn-model';
import { sceneLook } from './scene-look';

/** The scene of an option as this page draws it; panes that show the same option get the same object. */
export function useScene(optionId: string, byKind: boolean): ModelLook {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const theme = useView((view) => view.theme);
  const selection = useView((view) => view.selection);
  const also = useView((view) => view.also);
  const hidden = useView((view) => view.hidden);
  return sceneLook(project, meshes, optionId, { theme, byKind, selection, also, hidden });
}
