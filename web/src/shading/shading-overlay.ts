import type { Camera } from '@dial-shade/core';
import type { PaneView } from '../board/pane-view';
import { useHandlesOverlay } from './use-handles-overlay';
import { useWorthOverlay } from './use-worth-overlay';

/** What lies over a pane on the Shading stage. */
export function ShadingOverlay({
  view,
  camera,
  optionId,
}: {
  view: PaneView;
  camera: Camera | null;
  optionId: string;
}) {
  useWorthOverlay(view, optionId);
  useHandlesOverlay(view, camera, optionId);
  return null;
}
