import type { Point3, RaysAsked, ReflectingWall, RoomRays, Strip } from '@dial-shade/core';
import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { newestOnly } from '../state/newest-only';
import { currentProject } from '../state/project-store';
import { computeWith } from '../workers/compute';

/** Rays into the room that is looked into. */
export interface Rays {
  isOn: boolean;
  /** Id of an opening, or null: all of the room. */
  opening: string | null;
  spacingM: number;
  bounces: number;
  reflectance: number;
  mirror: number;
  strip: Strip | null;
  /** A wall outside that throws sun into the room, with the name of its body. */
  wall: (ReflectingWall & { name: string }) | null;
  /** The first end of a strip that is being drawn, and where the pointer is. */
  draft: { from: Point3; to: Point3 } | null;
  found: RoomRays | null;
  refused: string | null;
}

const PLAIN: Rays = {
  isOn: false,
  opening: null,
  spacingM: 0.25,
  bounces: 1,
  reflectance: 0.5,
  mirror: 0,
  strip: null,
  wall: null,
  draft: null,
  found: null,
  refused: null,
};

export const useRays = create<Rays>(() => PLAIN);

/** A strip as it is first drawn: as wide as most windows, bright and mirror-like. */
export const NEW_STRIP = { widthM: 2, reflectance: 0.8, mirror: 1 } as const;

/** A wall as it is first chosen: light plaster, which spreads. */
export const NEW_WALL = { reflectance: 0.5, mirror: 0 } as const;

interface Wish {
  optionId: string;
  atMs: number;
  asked: RaysAsked;
}

const trace = newestOnly(
  async ({ optionId, atMs, asked }: Wish) =>
    await computeWith(currentProject(), useMeshes.getState().meshes).rays(optionId, atMs, asked),
  (found) =>
    useRays.setState(
      found && 'refused' in found ? { found: null, refused: found.refused } : { found, refused: null },
    ),
);

/** Follows rays, the newest wish only. */
export async function measureRays(next: Wish | null): Promise<void> {
  if (!next) useRays.setState({ found: null, refused: null });
  await trace(next);
}

/** Forgets what belongs to another project. */
export const forgetRays = (): void => useRays.setState(PLAIN);
