import { type Remote, wrap } from 'comlink';
import type { ComputeWorker } from './compute-worker';

function open(): { remote: Remote<ComputeWorker>; end: () => void } {
  const worker = new Worker(new URL('./compute-worker.ts', import.meta.url), { type: 'module' });
  return { remote: wrap<ComputeWorker>(worker), end: () => worker.terminate() };
}

let shared: Remote<ComputeWorker> | null = null;

/** The worker for what must be live. */
export function compute(): Remote<ComputeWorker> {
  shared ??= open().remote;
  return shared;
}

/** A worker of its own for reading a file, so that it can be ended at any time. */
export const openReader = open;
