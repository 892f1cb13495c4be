import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { useShade } from '../sun/shade-store';
import type { PaneView } from './pane-view';
import { shadeObjects } from './shade-objects';
import { useLayer } from './use-layer';

/** Outlines of the shade that is measured, on the ground of a pane that shows its option. */
export function useShadeOutlines(view: PaneView, isShown: boolean): void {
  const { ground } = useDocument().site;
  const theme = useView((v) => v.theme);
  const found = useShade((state) => (state.on === 'areas' || state.on === 'ground' ? state.found : null));
  useLayer(view, () => (isShown && found ? shadeObjects(found, ground, theme) : []), [
    found,
    isShown,
    ground,
    theme,
  ]);
}
