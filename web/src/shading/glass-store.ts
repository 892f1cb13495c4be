import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { newestOnly } from '../state/newest-only';
import { currentProject, forgetWithProject } from '../state/project-store';
import { computeWith } from '../workers/compute';
import type { ShownYear } from '../studies/use-probe-year';
import type { GlassRow } from '../workers/glass-work';

interface GlassState {
  /** All glazed openings of the option at the moment. */
  now: GlassRow[];
  /** The opening that is looked at, `OWNER/OPENING`. */
  chosen: string | null;
  /** The chosen one through the day: minutes of the clock, share in sun with devices and without. */
  day: { minutes: number; share: number; bare: number }[];
  refused: string | null;
  /** Whether the year of the chosen window stands on the almanac, and that year once it is known. */
  showsYear: boolean;
  year: ShownYear | null;
}

const NOTHING: GlassState = { now: [], chosen: null, day: [], refused: null, showsYear: false, year: null };

export const useGlass = create<GlassState>(() => NOTHING);
forgetWithProject(() => useGlass.setState(NOTHING));

const measure = newestOnly(
  async ({ optionId, atMs }: { optionId: string; atMs: number }) =>
    await computeWith(currentProject(), useMeshes.getState().meshes).glassSun(optionId, [atMs], null),
  (found) =>
    useGlass.setState(
      'refused' in found ? { now: [], refused: found.refused } : { now: found[0]!, refused: null },
    ),
);

/** Measures the glass in sun at a moment, the newest wish only. */
export const measureGlass = (optionId: string, atMs: number): Promise<void> => measure({ optionId, atMs });

interface DayWish {
  optionId: string;
  opening: string;
  moments: { atMs: number; minutes: number }[];
}

const measureDayNewest = newestOnly(
  async ({ optionId, opening, moments }: DayWish) =>
    await computeWith(currentProject(), useMeshes.getState().meshes).glassSun(
      optionId,
      moments.map(({ atMs }) => atMs),
      opening,
    ),
  (found, { moments }) =>
    useGlass.setState({
      day:
        'refused' in found
          ? []
          : moments.flatMap(({ minutes }, i) => {
              const row = found[i]![0];
              return row
                ? [{ minutes, share: row.sunlitM2 / row.areaM2, bare: row.bareM2 / row.areaM2 }]
                : [];
            }),
    }),
);

/** Measures the chosen opening through a day, the newest wish only. */
export const measureDay = (wish: DayWish): Promise<void> => measureDayNewest(wish);
