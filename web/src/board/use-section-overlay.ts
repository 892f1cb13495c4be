import type { Camera } from '@dial-shade/core';
import { useMemo } from 'react';
import { cutOf } from './cut';
import type { ModelLook } from './drawn-model';
import type { PaneView } from './pane-view';
import { sectionObjects } from './section-objects';
import { useLayer } from './use-layer';

/** The faces and lines of the cut of a pane that shows one. */
export function useSectionOverlay(
  view: PaneView,
  camera: Camera | null,
  { scene, hidden }: ModelLook,
  theme: 'light' | 'dark',
): void {
  const plane = useMemo(() => camera && cutOf(camera), [camera]);
  useLayer(view, () => (plane ? sectionObjects(scene, hidden, plane, theme) : []), [
    plane && JSON.stringify(plane),
    scene,
    hidden,
    theme,
  ]);
}
