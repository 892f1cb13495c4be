import { InputError, type ModelFile } from '@dial-shade/core';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';

/** Time that reading may take whatever the size of the file, and more for each megabyte. */
const LEAST_MS = 3_000;
const PER_MB_MS = 4_000;

/**
 * Reads IFC in a thread of its own, which is ended when it takes too long: the reading library trusts its input, and
 * some unsound files keep it busy for ever.
 */
export class GuardedIfc {
  private worker: Worker | null = null;

  constructor(private readonly folder: string) {}

  async read(bytes: Uint8Array): Promise<ModelFile> {
    this.worker ??= new Worker(join(this.folder, 'ifc-worker.ts'), { execArgv: ['--import', 'tsx'] });
    const worker = this.worker;
    const limit = LEAST_MS + (bytes.length / 1048576) * PER_MB_MS;
    return new Promise((resolve, reject) => {
      const end = (refused: string | null, model?: ModelFile, dead = false) => {
        clearTimeout(timer);
        worker.removeAllListeners();
        if (dead) {
          this.worker = null;
          void worker.terminate();
        }
        if (model) resolve(model);
        else reject(new InputError('ifc', refused!));
      };
      const timer = setTimeout(
        () =>
          end(
            'The IFC file is not sound: reading it did not come to an end; export it again.',
            undefined,
            true,
          ),
        limit,
      );
      worker.on('message', ({ model, refused }: { model?: ModelFile; refused?: string }) =>
        end(refused ?? null, model),
      );
      worker.on('error', () =>
        end('The IFC file is not sound: it cannot be resolved; export it again.', undefined, true),
      );
      worker.postMessage(bytes);
    });
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
    this.worker = null;
  }
}

/** The folder of this file, where the worker stands beside it. */
export function guardFolder(): string {
  return dirname(fileURLToPath(import.meta.url));
}
