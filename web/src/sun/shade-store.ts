import type { ShadeOn } from '@dial-shade/core';
import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { currentProject } from '../state/project-store';
import { computeWith } from '../workers/compute';
import type { ShadowsFound } from '../workers/compute-worker';

/** What of the shade is measured and drawn on the board. */
interface Shade {
  on: ShadeOn | null;
  found: ShadowsFound | null;
  refused: string | null;
}

export const useShade = create<Shade>(() => ({ on: null, found: null, refused: null }));

interface Wish {
  optionId: string;
  moments: number[];
  on: ShadeOn;
}

let wish: Wish | null = null;
let isBusy = false;

/** Measures shade, the newest wish only: while the moment is dragged those between are let go. */
export async function measureShade(next: Wish | null): Promise<void> {
  wish = next;
  if (!next) useShade.setState({ found: null, refused: null });
  if (isBusy) return;
  isBusy = true;
  try {
    while (wish) {
      const mine: Wish = wish;
      const found = await computeWith(currentProject(), useMeshes.getState().meshes).shadows(
        mine.optionId,
        mine.moments,
        mine.on,
        false,
      );
      if (wish === mine) {
        wish = null;
        if ('refused' in found) useShade.setState({ found: null, refused: found.refused });
        else useShade.setState({ found, refused: null });
      }
    }
  } finally {
    isBusy = false;
  }
}
