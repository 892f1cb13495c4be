import type { DepthReading } from '@dial-shade/core';
import { create } from 'zustand';
import type { DrawnRay, RoomsShown } from '../board/room-objects';
import { useMeshes } from '../state/mesh-cache';
import { newestOnly } from '../state/newest-only';
import { notify } from '../state/notice-store';
import { currentProject } from '../state/project-store';
import { computeWith } from '../workers/compute';
import type { ShownYear } from '../studies/use-probe-year';
import type { DeepestRow, RoomFound, YearOf } from '../workers/room-work';

/** The sun in rooms: what is measured and drawn on the board. */
interface RoomsSun {
  /** `MASS/STOREY`, `all`, or null: nothing is measured. */
  which: string | null;
  found: RoomFound[] | null;
  refused: string | null;
  /** Key of the room that is looked into. */
  chosen: string | null;
  /** How far the sun reaches into it at the moments of the set, in their order. */
  fan: { label: string; depth: DepthReading }[];
  /** Whose year stands on the almanac, in the chosen room. */
  yearOf: YearOf | null;
  year: ShownYear | null;
}

const NOTHING: RoomsSun = {
  which: null,
  found: null,
  refused: null,
  chosen: null,
  fan: [],
  yearOf: null,
  year: null,
};

export const useRooms = create<RoomsSun>(() => NOTHING);

interface Wish {
  optionId: string;
  atMs: number;
  which: string;
}

const measure = newestOnly(
  async ({ optionId, atMs, which }: Wish) =>
    await computeWith(currentProject(), useMeshes.getState().meshes).roomsSun(optionId, atMs, which),
  (found) =>
    useRooms.setState(
      'refused' in found ? { found: null, refused: found.refused } : { found, refused: null },
    ),
);

/** Measures the sun in rooms, the newest wish only. */
export async function measureRooms(next: Wish | null): Promise<void> {
  if (!next) useRooms.setState({ found: null, refused: null });
  await measure(next);
}

interface FanWish {
  optionId: string;
  key: string;
  moments: { atMs: number; label: string }[];
}

const measureFanNewest = newestOnly(
  ({ optionId, key, moments }: FanWish) =>
    computeWith(currentProject(), useMeshes.getState().meshes).roomDepths(
      optionId,
      key,
      moments.map(({ atMs }) => atMs),
    ),
  (found, { moments }) =>
    useRooms.setState({
      fan: found.flatMap((depth, i) => (depth ? [{ label: moments[i]!.label, depth }] : [])),
    }),
);

/** Measures how far the sun reaches into the chosen room at the moments of the set. */
export async function measureFan(next: FanWish | null): Promise<void> {
  if (!next) useRooms.setState({ fan: [] });
  await measureFanNewest(next);
}

/** Moments that are looked at between two looks whether to go on. */
const AT_ONCE = 4;

/**
 * The deepest sun in each room over moments, a few at a time, so that what is live comes between and it can be stopped.
 * Null when `isWanted` says no.
 */
export async function deepestOver(
  optionId: string,
  which: string,
  moments: readonly number[],
  isWanted: () => boolean,
  progress: (done: number) => void,
): Promise<DeepestRow[] | null> {
  const best = new Map<string, DeepestRow>();
  for (let i = 0; i < moments.length; i += AT_ONCE) {
    if (!isWanted()) return null;
    const part = moments.slice(i, i + AT_ONCE);
    const worker = computeWith(currentProject(), useMeshes.getState().meshes);
    const found = await worker.deepestRooms(optionId, which, part);
    if ('refused' in found) {
      notify(found.refused, true);
      return null;
    }
    for (const row of found) {
      const before = best.get(row.key);
      const isDeeper = !before || (row.depth?.depthM ?? 0) > (before.depth?.depthM ?? 0) + 1e-9;
      best.set(row.key, isDeeper ? row : before);
    }
    progress(Math.min(moments.length, i + AT_ONCE));
  }
  return [...best.values()];
}

/** What of the sun in rooms is drawn; null where nothing is measured. */
export function roomsShown({ found, chosen, fan }: RoomsSun, trueNorthDeg: number): RoomsShown | null {
  if (!found) return null;
  const rooms = chosen ? found.filter(({ key }) => key === chosen) : found;
  const drawnOf = (depth: DepthReading): DrawnRay => ({
    ...depth,
    facadeBearingDeg: depth.facadeAzimuthDeg + trueNorthDeg,
  });
  const depth = chosen ? rooms[0]?.depth : null;
  return {
    lit: rooms.flatMap(({ lit }) => lit),
    ray: depth ? drawnOf(depth) : null,
    fan: chosen ? fan.map((one) => ({ label: one.label, ray: drawnOf(one.depth) })) : [],
  };
}

/** Forgets what belongs to another project. */
export const forgetRooms = (): void => useRooms.setState(NOTHING);
