import { type MassingCandidate, massingGrid, type MassingRange } from '@dial-shade/core';
import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, forgetWithProject } from '../state/project-store';
import type { ComputeWorker } from '../workers/compute-worker';
import { heldWorker } from '../workers/held-worker';

/** A sweep of massings, as far as it has come. */
interface MassingState {
  /** Numbers that are free, as they are typed. */
  ranges: MassingRange[];
  optionId: string | null;
  /** Of the sweep that was run: its numbers, and what was found; undefined where it has not come to it. */
  run: { ranges: MassingRange[]; found: (MassingCandidate | undefined)[] } | null;
  isAtWork: boolean;
  chosen: number | null;
}

const NOTHING: MassingState = { ranges: [], optionId: null, run: null, isAtWork: false, chosen: null };
export const useMassing = create<MassingState>(() => NOTHING);

const make = () => new Worker(new URL('../workers/compute-worker.ts', import.meta.url), { type: 'module' });
/** Threads of their own, so that what is live does not wait. */
const threads = Array.from({ length: Math.min(4, Math.max(1, navigator.hardwareConcurrency || 2)) }, () =>
  heldWorker<ComputeWorker>(make),
);
/** Massings that a thread is given at a time. */
const BATCH = 4;

let turn = 0;

function halt(): void {
  turn++;
  for (const thread of threads) thread.end();
}

forgetWithProject(() => {
  halt();
  useMassing.setState(NOTHING);
});

/** Ends the sweep that runs; what it has come to stays. */
export function stopMassings(): void {
  halt();
  useMassing.setState({ isAtWork: false });
}

/** Tries all massings of some ranges of an option on all threads. */
export async function runMassings(
  optionId: string,
  ranges: MassingRange[],
  studies: readonly string[],
): Promise<void> {
  halt();
  const mine = turn;
  let rows: number[][];
  try {
    rows = massingGrid(ranges);
  } catch (error) {
    notify((error as Error).message, true);
    return;
  }
  const found: (MassingCandidate | undefined)[] = rows.map(() => undefined);
  useMassing.setState({ optionId, run: { ranges, found }, isAtWork: true, chosen: null });
  const numbers = ranges.map(({ number }) => number);
  const [project, { meshes }] = [currentProject(), useMeshes.getState()];
  let next = 0;
  const work = async (thread: (typeof threads)[number]) => {
    const worker = thread.with(project, meshes);
    while (next < rows.length && turn === mine) {
      const from = next;
      next = Math.min(rows.length, from + BATCH);
      const part = await worker.massingPart(optionId, numbers, studies, rows.slice(from, next));
      if (turn !== mine) return;
      if ('refused' in part) {
        stopMassings();
        notify(part.refused, true);
        return;
      }
      part.forEach((one, i) => (found[from + i] = one));
      useMassing.setState({ run: { ranges, found: [...found] } });
    }
  };
  await Promise.all(threads.map(work));
  if (turn === mine) useMassing.setState({ isAtWork: false });
}
