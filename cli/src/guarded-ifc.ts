import { InputError, type ModelFile, readingSeconds, tooSlow } from '@dial-shade/core';
import { type ChildProcess, fork } from 'node:child_process';
import { join } from 'node:path';

/**
 * Reads IFC in a process of its own, which is ended when it takes too long: the reading library trusts its input, and
 * some unsound files keep it busy for ever.
 */
export class GuardedIfc {
  private child: ChildProcess | null = null;

  /** @param folder where the bundled entry of the process stands: beside the bundled command line */
  constructor(private readonly folder: string) {}

  /** Throws InputError `ifc` when the file cannot be read, or not in time. */
  async read(bytes: Uint8Array): Promise<ModelFile> {
    this.child ??= await start(this.folder);
    const { child } = this;
    const seconds = readingSeconds(bytes);
    try {
      return await answerOf(child, bytes, seconds * 1000);
    } catch (error) {
      if (!(error instanceof Ended)) throw error;
      await this.close();
      if (error instanceof TooSlow) throw new InputError('ifc', `The IFC file: ${tooSlow(seconds)}.`);
      throw new InputError('ifc', `The IFC file is not sound: ${error.message}; export it again.`);
    }
  }

  async close(): Promise<void> {
    const { child } = this;
    this.child = null;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
  }
}

/** The process can no longer be used. */
class Ended extends Error {}

/** It was ended because it took too long. */
class TooSlow extends Ended {}

function answerOf(child: ChildProcess, bytes: Uint8Array, limit: number): Promise<ModelFile> {
  return new Promise((resolve, reject) => {
    const done = (settle: () => void) => {
      clearTimeout(timer);
      child.removeAllListeners();
      settle();
    };
    const timer = setTimeout(() => done(() => reject(new TooSlow())), limit);
    child.on('message', ({ model, refused }: { model?: ModelFile; refused?: string }) =>
      done(() => (model ? resolve(model) : reject(new InputError('ifc', refused!)))),
    );
    child.on('exit', () => done(() => reject(new Ended('it cannot be resolved'))));
    child.send(bytes);
  });
}

/** A process that is ready to read; starting it does not count towards the time of a file. */
async function start(folder: string): Promise<ChildProcess> {
  const child = fork(join(folder, 'ifc-process.js'), {
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
  await new Promise<void>((resolve, reject) => {
    child.once('message', () => resolve());
    child.once('exit', () => reject(new Error('The process that reads IFC could not be started.')));
  });
  child.removeAllListeners();
  return child;
}
