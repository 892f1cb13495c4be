import { type Candidate, type Device, type DeviceMake, type SweepKind, sweepMakes } from '@dial-shade/core';
import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, forgetWithProject } from '../state/project-store';
import type { ComputeWorker } from '../workers/compute-worker';
import { heldWorker } from '../workers/held-worker';
import type { SetsAsked, SweepPart } from '../workers/sweep-work';
import { keepSweep, keptSweep } from '../state/kept-sweeps';
import { keyOfSweep, sweepFromKept, sweepToKeep } from './kept-sweep';

/** A sweep that was run, as far as it has come. */
export interface Sweep {
  optionId: string;
  /** Window that it is of, `OWNER/OPENING`, and the device that is tried. */
  opening: string;
  device: string;
  /** Numbers that were free. */
  numbers: string[];
  sets: SetsAsked;
  /** What it was run from: the same objects, still true. */
  parts: readonly unknown[];
  makes: DeviceMake[];
  leftOut: number;
  /** In the order of `makes`; undefined where it has not come to it. */
  found: (Omit<Candidate, 'make'> | undefined)[];
  facts: Omit<SweepPart, 'found'> | null;
  /** What has changed in the method since it was run, a sentence each. */
  earlier: string[];
}

interface SweepState {
  sweep: Sweep | null;
  isAtWork: boolean;
}

const NOTHING: SweepState = { sweep: null, isAtWork: false };
export const useSweep = create<SweepState>(() => NOTHING);

const make = () => new Worker(new URL('../workers/compute-worker.ts', import.meta.url), { type: 'module' });
/** Threads of a sweep, apart from the one that answers while something is dragged. */
const threads = Array.from({ length: Math.min(4, Math.max(1, navigator.hardwareConcurrency || 2)) }, () =>
  heldWorker<ComputeWorker>(make),
);
/** Devices that a thread is given at a time. */
const BATCH = 12;

const SPEED_KEY = 'dial-shade:sweep-seconds';

/** Seconds that a device of a sweep has lately taken, or null. */
export function sweepSpeed(): number | null {
  const kept = Number(localStorage.getItem(SPEED_KEY));
  return kept > 0 && Number.isFinite(kept) ? kept : null;
}

function noteSpeed(seconds: number): void {
  const before = sweepSpeed();
  localStorage.setItem(SPEED_KEY, String(before === null ? seconds : before * 0.7 + seconds * 0.3));
}

let run = 0;

forgetWithProject(() => {
  stopSweep();
  useSweep.setState(NOTHING);
});

/** Keeps the sweep that runs as far as it has come; null while none does. */
let keep: (() => void) | null = null;

// A page that closes keeps what its sweep has come to.
window.addEventListener('pagehide', () => keep?.());

function halt(): void {
  run++;
  keep = null;
  for (const thread of threads) thread.end();
}

/** Ends the sweep that runs; what it has come to stays, and is kept. */
export function stopSweep(): void {
  keep?.();
  halt();
  useSweep.setState({ isAtWork: false });
}

/** Shows the sweep of a device that the server kept, where none is at hand. */
export async function recallSweep(
  optionId: string,
  device: string,
  parts: readonly unknown[],
): Promise<void> {
  const isAtHand = () => {
    const { sweep, isAtWork } = useSweep.getState();
    return isAtWork || (sweep?.optionId === optionId && sweep.device === device);
  };
  if (isAtHand()) return;
  const kept = await keptSweep(keyOfSweep(optionId, device));
  const sweep = kept && sweepFromKept(kept, parts);
  if (sweep && !isAtHand()) useSweep.setState({ sweep });
}

/** Tries devices of some kinds in place of one at a window, on all threads. Gives up with a notice where it cannot be. */
export async function runSweep(
  about: Pick<Sweep, 'optionId' | 'opening' | 'numbers' | 'sets' | 'parts'>,
  device: Device,
  kinds: readonly SweepKind[],
): Promise<void> {
  stopSweep();
  const mine = run;
  let planned: ReturnType<typeof sweepMakes>;
  try {
    planned = sweepMakes(kinds);
  } catch (error) {
    notify((error as Error).message, true);
    return;
  }
  const { makes, leftOut } = planned;
  const found: Sweep['found'] = makes.map(() => undefined);
  let sweep: Sweep = { ...about, device: device.id, makes, leftOut, found, facts: null, earlier: [] };
  useSweep.setState({ sweep, isAtWork: true });
  const begun = performance.now();
  keep = () => void keepSweep(keyOfSweep(about.optionId, device.id), sweepToKeep(sweep, kinds));
  let next = 0;
  const [project, { meshes }] = [currentProject(), useMeshes.getState()];
  const work = async (thread: (typeof threads)[number]) => {
    const worker = thread.with(project, meshes);
    while (next < makes.length && run === mine) {
      const from = next;
      next = Math.min(makes.length, from + BATCH);
      const part = await worker.sweepPart(
        about.optionId,
        about.opening,
        device,
        about.sets,
        makes.slice(from, next),
      );
      if (run !== mine) return;
      if ('refused' in part) {
        halt();
        useSweep.setState({ sweep: null, isAtWork: false });
        notify(part.refused, true);
        return;
      }
      const { found: values, ...facts } = part;
      values.forEach((value, i) => (found[from + i] = value));
      sweep = { ...sweep, found: [...found], facts };
      useSweep.setState({ sweep });
    }
  };
  await Promise.all(threads.map(work));
  if (run === mine) {
    noteSpeed((performance.now() - begun) / 1000 / makes.length);
    useSweep.setState({ isAtWork: false });
    keep();
    keep = null;
  }
}
