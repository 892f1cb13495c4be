import type { MeshStore, Project } from '@dial-shade/core';
import type { Remote } from 'comlink';
import { forgetWithProject } from '../state/project-store';
import type { ComputeWorker } from './compute-worker';
import type { FileWorker } from './file-worker';
import { heldWorker, openWorker } from './held-worker';

const make = () => new Worker(new URL('./compute-worker.ts', import.meta.url), { type: 'module' });
const held = heldWorker<ComputeWorker>(make);

const aside = heldWorker<ComputeWorker>(make);

// What was asked of another project is not answered any more, and nothing of this one waits for it. A worker at rest is kept.
forgetWithProject(() => {
  held.endIfBusy();
  aside.endIfBusy();
});

/** The worker for what must be live. */
export const compute = (): Remote<ComputeWorker> => held.bare();

/** The worker with this document and these meshes at hand; only what changed since the last time is sent. */
export const computeWith = (project: Project, meshes: MeshStore): Remote<ComputeWorker> =>
  held.with(project, meshes);

/** The same for what may take seconds, such as a year of many windows, so that what is live does not wait for it. */
export const computeAside = (project: Project, meshes: MeshStore): Remote<ComputeWorker> =>
  aside.with(project, meshes);

/** A worker of its own for reading a file, so that it can be ended at any time. */
export const openReader = () =>
  openWorker<FileWorker>(() => new Worker(new URL('./file-worker.ts', import.meta.url), { type: 'module' }));
