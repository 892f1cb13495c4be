import { heldWorker } from '../workers/held-worker';
import type { PictureWorker } from './picture-worker';

/** The worker that draws pictures and films, off the board. */
export const pictureMaker = heldWorker<PictureWorker>(
  () => new Worker(new URL('./picture-worker.ts', import.meta.url), { type: 'module' }),
);
