import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { newestOnly } from '../state/newest-only';
import { currentProject, forgetWithProject } from '../state/project-store';
import { computeAside, computeWith } from '../workers/compute';
import type { ShownYear } from '../studies/use-probe-year';
import type { GlassRow } from '../workers/glass-work';
import type { GlassYearFound, ReadOf } from '../workers/glass-year-work';

interface GlassState {
  /** All glazed openings of the option at the moment. */
  now: GlassRow[];
  /** The opening that is looked at, `OWNER/OPENING`. */
  chosen: string | null;
  /** The device that is worked on; the first of the scheme where it is not of it. */
  device: string | null;
  /** The chosen one through the day: minutes of the clock, share in sun with devices and without. */
  day: { minutes: number; share: number; bare: number }[];
  refused: string | null;
  /** What the almanac is toned by: the sun, in whose shade the window lies, or the share of glass in shade. */
  shows: 'sun' | 'shaders' | 'shade';
  /** In whose shade the chosen window lies, once it is known. */
  year: ShownYear | null;
  /** Of which windows the year of the devices is read, and what it came to; or why it did not. */
  of: ReadOf;
  devices: GlassYearFound | { refused: string } | null;
}

const NOTHING: GlassState = {
  now: [],
  chosen: null,
  device: null,
  day: [],
  refused: null,
  shows: 'sun',
  year: null,
  of: 'window',
  devices: null,
};

export const useGlass = create<GlassState>(() => NOTHING);
forgetWithProject(() => {
  clearTimeout(rest);
  useGlass.setState(NOTHING);
});

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

interface YearWish {
  optionId: string;
  opening: string;
  of: ReadOf;
  /** Nothing is dragged: as finely as a figure that stands is to be. */
  isResting: boolean;
}

const readYear = newestOnly(
  async ({ optionId, opening, of, isResting }: YearWish) =>
    await computeAside(currentProject(), useMeshes.getState().meshes).glassYear(
      optionId,
      opening,
      of,
      isResting,
    ),
  (devices) => useGlass.setState({ devices }),
);

/** Quiet after which what was read in motion is read as finely as at rest. */
const REST_MS = 300;
let rest: ReturnType<typeof setTimeout> | undefined;

/**
 * Reads what the devices do at some windows through the year, the newest wish only: at once as coarsely as goes with a drag,
 * and finely once nothing has changed for a moment.
 */
export async function measureDevices(wish: Omit<YearWish, 'isResting'>): Promise<void> {
  clearTimeout(rest);
  rest = setTimeout(() => void readYear({ ...wish, isResting: true }), REST_MS);
  await readYear({ ...wish, isResting: false });
}
