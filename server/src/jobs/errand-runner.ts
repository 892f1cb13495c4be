import { Aside } from './aside';
import type { Errand, Fetched } from './errands';

/** Time that reading and making may take. */
const READ_SECONDS = 30;
const MAKE_SECONDS = 90;
/** Heap that a thread may fill, MB. */
const HEAP_MB = 1024;

type Of<K extends Errand['kind']> = Extract<Errand, { kind: K }>;
type Reading = Of<'read-save'> | Of<'read-new'> | Of<'read-mesh'>;

/**
 * Does errands in threads of their own, with limits of time and memory, so that no project, however it is made, keeps the
 * server from answering. What comes in is read by two threads; what goes out is made by one, one at a time a project.
 */
export class ErrandRunner {
  private readonly readers = new Aside({ file: 'errand-worker.js', threads: 2, warm: 1, heapMb: HEAP_MB });
  private readonly makers = new Aside({ file: 'errand-worker.js', threads: 1, warm: 0, heapMb: HEAP_MB });
  private readonly lines = new Map<string, Promise<unknown>>();

  /** Reads what was sent, which is handed over. Throws InputError. */
  read<K extends Reading['kind']>(errand: Reading & { kind: K }, signal: AbortSignal): Promise<Fetched[K]> {
    const { buffer, byteLength } = errand.body;
    // A buffer that is shared with others is copied, one of its own is handed over.
    const transfer = buffer instanceof ArrayBuffer && byteLength === buffer.byteLength ? [buffer] : [];
    return this.readers.run<Fetched[K]>(errand, { signal, seconds: READ_SECONDS, transfer });
  }

  /** Makes what goes out, after everything else that is being made of the same thing. Throws InputError, Stopped. */
  async make<K extends 'out' | 'csv' | 'summary'>(
    of: string,
    errand: Of<K>,
    signal: AbortSignal,
  ): Promise<Fetched[K]> {
    const before = this.lines.get(of) ?? Promise.resolve();
    const made = before
      .catch(() => {})
      .then(() => this.makers.run<Fetched[K]>(errand, { signal, seconds: MAKE_SECONDS }));
    this.lines.set(of, made);
    try {
      return await made;
    } finally {
      if (this.lines.get(of) === made) this.lines.delete(of);
    }
  }

  async close(): Promise<void> {
    await Promise.all([this.readers.close(), this.makers.close()]);
  }
}
