import type { Device, WorthPlane } from '@dial-shade/core';
import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { newestOnly } from '../state/newest-only';
import { currentProject, forgetWithProject } from '../state/project-store';
import { computeAside } from '../workers/compute';
import type { SetsAsked, WorthFound } from '../workers/sweep-work';

/** What a map of worth is asked for. */
export interface WorthWish {
  optionId: string;
  opening: string;
  along: NonNullable<Device['along']>;
  plane: WorthPlane;
  sets: SetsAsked;
  /** A device that is thought away. */
  without: string | null;
}

interface WorthState {
  /** Whether the map is looked at, and lies on the board. */
  isShown: boolean;
  wish: WorthWish | null;
  found: WorthFound | { refused: string } | null;
  /** How much a kWh of wanted sun counts against one of unwanted. */
  lambda: number;
}

const NOTHING: WorthState = { isShown: false, wish: null, found: null, lambda: 0.5 };
export const useWorth = create<WorthState>(() => NOTHING);
forgetWithProject(() => useWorth.setState(NOTHING));

/** Finds where shade is worth having, the newest wish only. */
export const findWorth = newestOnly(
  async ({ optionId, opening, along, plane, sets, without }: WorthWish) =>
    await computeAside(currentProject(), useMeshes.getState().meshes).worth(
      optionId,
      opening,
      along,
      plane,
      sets,
      without,
    ),
  (found, wish) => useWorth.setState({ found, wish }),
);
