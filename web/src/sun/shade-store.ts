import type { ShadeOn } from '@dial-shade/core';
import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { newestOnly } from '../state/newest-only';
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

const measure = newestOnly(
  async ({ optionId, moments, on }: Wish) =>
    await computeWith(currentProject(), useMeshes.getState().meshes).shadows(optionId, moments, on, false),
  (found) =>
    useShade.setState(
      'refused' in found ? { found: null, refused: found.refused } : { found, refused: null },
    ),
);

/** Measures shade, the newest wish only: while the moment is dragged those between are let go. */
export async function measureShade(next: Wish | null): Promise<void> {
  if (!next) useShade.setState({ found: null, refused: null });
  await measure(next);
}
