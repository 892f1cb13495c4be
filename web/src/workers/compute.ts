import { documentChanges, type MeshStore, type Project } from '@dial-shade/core';
import { type Remote, wrap } from 'comlink';
import type { ComputeWorker } from './compute-worker';

function open(): { remote: Remote<ComputeWorker>; end: () => void } {
  const worker = new Worker(new URL('./compute-worker.ts', import.meta.url), { type: 'module' });
  return { remote: wrap<ComputeWorker>(worker), end: () => worker.terminate() };
}

let shared: Remote<ComputeWorker> | null = null;
/** What the worker has at hand. */
let sent: { project: Project | null; meshes: MeshStore | null } = { project: null, meshes: null };

/** The worker for what must be live. */
export function compute(): Remote<ComputeWorker> {
  shared ??= open().remote;
  return shared;
}

/** The worker with this document and these meshes at hand; only what changed since the last time is sent. */
export function computeWith(project: Project, meshes: MeshStore): Remote<ComputeWorker> {
  const worker = compute();
  if (sent.meshes !== meshes) void worker.holdMeshes(meshes);
  const changes = documentChanges(sent.project, project);
  if (changes) void worker.hold(changes);
  sent = { project, meshes };
  return worker;
}

/** A worker of its own for reading a file, so that it can be ended at any time. */
export const openReader = open;
