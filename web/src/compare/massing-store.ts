import {
  contentHash,
  type Mass,
  type MassingCandidate,
  massingGrid,
  massingOf,
  type MassingRange,
  type Project,
  STUDY_KINDS,
  TODAY,
  withMasses,
} from '@dial-shade/core';
import { create } from 'zustand';
import { keepSweep, keptSweep, sweepSignature } from '../state/kept-sweeps';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, forgetWithProject } from '../state/project-store';
import type { ComputeWorker } from '../workers/compute-worker';
import { heldWorker } from '../workers/held-worker';

/** A sweep that was run: of what, and what was found, undefined where it has not come to it. */
export interface MassingRun {
  ranges: MassingRange[];
  studies: string[];
  /** The masses that it began from. */
  base: Mass[];
  /** Hash of everything else that it was run from. */
  signature: string;
  found: (MassingCandidate | undefined)[];
}

/** A sweep of massings, as far as it has come. */
interface MassingState {
  /** Numbers that are free, as they are typed. */
  ranges: MassingRange[];
  optionId: string | null;
  run: MassingRun | null;
  isAtWork: boolean;
  /** Seconds that the rest will take, once some are tried. */
  secondsLeft: number | null;
  chosen: number | null;
}

const NOTHING: MassingState = {
  ...{ ranges: [], optionId: null, run: null, isAtWork: false, secondsLeft: null, chosen: null },
};
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

const keyOf = (optionId: string) => `massing:${optionId}`;

function keepRun(): void {
  const { optionId, run, chosen } = useMassing.getState();
  if (optionId && run) void keepSweep(keyOf(optionId), { ...run, chosen });
}

// A page that closes keeps what its sweep has come to.
window.addEventListener('pagehide', () => useMassing.getState().isAtWork && keepRun());

/** Ends the sweep that runs; what it has come to stays, and is kept. */
export function stopMassings(): void {
  halt();
  if (useMassing.getState().isAtWork) keepRun();
  useMassing.setState({ isAtWork: false, secondsLeft: null });
}

/** Hash of what a sweep goes by besides the masses of its option. */
function signatureOf(project: Project, optionId: string, studies: readonly string[]): string {
  const { site, neighbours, neighbourRules, glazings, areas, targets, criteria, options } = project;
  const option = options.find(({ id }) => id === optionId);
  return sweepSignature([
    ...[site, neighbours, neighbourRules, glazings, areas, targets, criteria],
    ...[option?.models, option?.rules, option?.scheme, option?.schemes],
    options.find(({ id }) => id === TODAY),
    project.studies
      .filter(({ id }) => studies.includes(id))
      .map((study) => [study, STUDY_KINDS[study.kind].method.number]),
  ]);
}

/** The masses of a candidate of a sweep. Throws InputError where no sound mass comes of it. */
export function massesOf(
  project: Project,
  optionId: string,
  { ranges, base }: MassingRun,
  at: number,
): Mass[] {
  const numbers = ranges.map(({ number }) => number);
  return massingOf(withMasses(project, optionId, base), optionId, numbers, massingGrid(ranges)[at]!);
}

/** Whether a sweep still goes by what stands: its option has the masses that it began from, or those of a candidate of it. */
export function isCurrentMassing(
  project: Project,
  optionId: string,
  run: MassingRun,
  chosen: number | null,
): boolean {
  const masses = project.options.find(({ id }) => id === optionId)?.masses;
  if (!masses || signatureOf(project, optionId, run.studies) !== run.signature) return false;
  const now = contentHash(masses);
  return (
    now === contentHash(run.base) ||
    (chosen !== null && now === contentHash(massesOf(project, optionId, run, chosen)))
  );
}

/** Shows the sweep of an option that the server kept, where none is at hand. */
export async function recallMassings(optionId: string): Promise<void> {
  const isAtHand = () => {
    const { optionId: of, run, isAtWork } = useMassing.getState();
    return isAtWork || (of === optionId && run !== null);
  };
  if (isAtHand()) return;
  const kept = await keptSweep(keyOf(optionId));
  const read = kept && readKept(kept);
  if (read && !isAtHand()) useMassing.setState({ optionId, ranges: read.run.ranges, ...read });
}

/** What was kept; null where it cannot be read. */
export function readKept(
  kept: Record<string, unknown>,
): (Pick<MassingState, 'chosen'> & { run: MassingRun }) | null {
  try {
    const { ranges, studies, base, signature, found, chosen } = kept as unknown as MassingRun & MassingState;
    const rows = massingGrid(ranges);
    if (!Array.isArray(base) || !Array.isArray(studies) || found.length !== rows.length) return null;
    const all = found.map((one) => one ?? undefined);
    return { run: { ranges, studies, base, signature, found: all }, chosen: rows[chosen!] ? chosen : null };
  } catch {
    return null;
  }
}

/** Tries all massings of some ranges of an option on all threads. */
export async function runMassings(
  optionId: string,
  ranges: MassingRange[],
  studies: readonly string[],
): Promise<void> {
  stopMassings();
  const mine = turn;
  let rows: number[][];
  try {
    rows = massingGrid(ranges);
  } catch (error) {
    notify((error as Error).message, true);
    return;
  }
  const [project, { meshes }] = [currentProject(), useMeshes.getState()];
  const run: MassingRun = {
    ...{ ranges, studies: [...studies], signature: signatureOf(project, optionId, studies) },
    base: project.options.find(({ id }) => id === optionId)!.masses,
    found: rows.map(() => undefined),
  };
  const { found } = run;
  useMassing.setState({ optionId, run, isAtWork: true, secondsLeft: null, chosen: null });
  const numbers = ranges.map(({ number }) => number);
  const begun = performance.now();
  let [next, done] = [0, 0];
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
      done += part.length;
      const secondsLeft = ((performance.now() - begun) / 1000 / done) * (rows.length - done);
      useMassing.setState({ run: { ...run, found: [...found] }, secondsLeft });
    }
  };
  await Promise.all(threads.map(work));
  if (turn !== mine) return;
  useMassing.setState({ isAtWork: false, secondsLeft: null });
  keepRun();
}
