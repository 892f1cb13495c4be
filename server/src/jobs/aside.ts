import { InputError, Stopped } from '@dial-shade/core';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import { Gate } from '../gate';
import { projectRoot } from '../root';

/** A refusal meant for the user; errors lose their kind on the way out of a thread. */
export interface Refusal {
  refused: { code: string; message: string; problems?: readonly string[] };
}

/** Runs the work of a thread and turns what is refused into an answer. */
export async function answered<T>(work: () => T | Promise<T>): Promise<T | Refusal> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof InputError)
      return { refused: { code: error.code, message: error.message, problems: error.problems } };
    throw error;
  }
}

export interface AsideOptions {
  /** File under dist/server that the threads run. */
  file: string;
  threads: number;
  /** How many of them are started at once; the others when they are first needed. All when left out. */
  warm?: number;
  /** Heap that a thread may fill, MB; one that fills more is ended. */
  heapMb?: number;
}

export interface TaskOptions {
  /** Ends the task, and the thread that works it, when raised. */
  signal?: AbortSignal;
  /** Time that the task may take from when a thread takes it; then it is ended and refused. */
  seconds?: number;
  /** Memory that is handed over to the thread rather than copied; it is gone from here. */
  transfer?: readonly ArrayBuffer[];
}

/** Threads beside the one that answers requests. What was started is kept warm; one that is ended is started again. */
export class Aside {
  private readonly pool: Piscina;
  private readonly gate: Gate;
  /** Raised for good when it is closed. */
  private readonly closing = new AbortController();

  constructor({ file, threads, warm = threads, heapMb }: AsideOptions) {
    this.gate = new Gate(threads);
    this.pool = new Piscina({
      filename: join(projectRoot(), 'dist/server', file),
      minThreads: warm,
      maxThreads: threads,
      idleTimeout: 600_000,
      ...(heapMb && { resourceLimits: { maxOldGenerationSizeMb: heapMb } }),
    });
  }

  /**
   * Runs a task. Throws InputError when the thread refused it, or ended because it took too long or too much memory, and
   * Stopped when the signal was raised or it was closed.
   * @param task or what fetches it once a thread is free, where it is large
   */
  run<T>(task: object | (() => Promise<object>), options: TaskOptions = {}): Promise<T> {
    return this.gate.run(async () => {
      const stopIfAsked = () => {
        if (options.signal?.aborted || this.closing.signal.aborted) throw new Stopped();
      };
      stopIfAsked();
      const loaded = typeof task === 'function' ? await task() : task;
      stopIfAsked();
      return this.runNow<T>(loaded, options);
    });
  }

  private async runNow<T>(task: object, { signal, seconds, transfer }: TaskOptions): Promise<T> {
    const limit = new AbortController();
    const timer = seconds && setTimeout(() => limit.abort(), seconds * 1000);
    try {
      const answer = (await this.pool.run(task, {
        signal: AbortSignal.any([limit.signal, this.closing.signal, ...(signal ? [signal] : [])]),
        ...(transfer && { transferList: [...transfer] }),
      })) as T | Refusal;
      if (typeof answer === 'object' && answer !== null && 'refused' in answer) {
        const { code, message, problems } = answer.refused;
        throw new InputError(code, message, problems);
      }
      return answer as T;
    } catch (error) {
      if (signal?.aborted || this.closing.signal.aborted) throw new Stopped();
      if (limit.signal.aborted)
        throw new InputError(
          'too-slow',
          `This took longer than ${seconds} s and was ended; the project is probably too large for it. Leave out what is far from the site.`,
        );
      if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new InputError(
          'too-large',
          'This needed more memory than there is for it and was ended. Leave out what is far from the site, or take it in parts.',
        );
      throw error;
    } finally {
      if (timer) clearTimeout(timer);
    }
  }

  /** Ends what is at work, and takes nothing more. */
  close(): Promise<void> {
    this.closing.abort();
    return this.pool.destroy();
  }
}
