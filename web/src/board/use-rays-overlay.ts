import type { Camera } from '@dial-shade/core';
import { useView } from '../state/view-store';
import { useRays } from '../sun/rays-store';
import type { PaneView } from './pane-view';
import { rayStretches, stripLines } from './room-objects';
import { useLayer } from './use-layer';

/** Rays into the chosen room, and the strip that is tried. */
export function useRaysOverlay(view: PaneView, camera: Camera | null, isShown: boolean): void {
  const theme = useView((v) => v.theme);
  const { found, strip, draft, isOn } = useRays();
  const rays = isShown && isOn ? found : null;
  useLayer(view, () => (rays ? rayStretches(rays.stretches, camera, theme) : []), [rays, camera, theme]);
  const line = !isShown || !isOn ? null : (draft ?? strip);
  useLayer(view, () => (line ? stripLines(line, camera, theme) : []), [line, camera, theme]);
}
