import { Aside } from './aside';
import type { Errand, Fetched } from './errands';

/** Time that reading and making may take. */
const READ_SECONDS = 30;
const MAKE_SECONDS = 90;
/** Heap that a thread may fill, MB. */
const HEAP_MB = 1024;

type Of<K extends Errand['kind']> = Extract<Errand, { kind: K }>;
type Saving = Of<'read-save'> | Of<'read-changes'> | Of<'between'> | Of<'read-sweep'>;
type Reading = Of<'read-new'> | Of<'read-mesh'> | Of<'read-underlay'> | Of<'read-stored'>;

/** Bytes from which a save is large: those have a thread of their own, so that no small one waits for it. */
const LARGE_BYTES = 4 * 1_048_576;

/**
 * Does errands in threads of their own, with limits of time and memory, so that no project, however it is made, keeps the
 * server from answering. What is saved is read by two threads, each for its own projects, so that a thread has at hand what
 * it checked last, and by one more where it is large; what is brought in by
 * another, so that it never keeps a save waiting; what goes out is made by one, one at a time a project.
 */
export class ErrandRunner {
  private readonly savers = [threads(1, 1), threads(1)];
  private readonly largeSavers = threads(1);
  private readonly readers = threads(1);
  private readonly makers = threads(1);
  private readonly lines = new Map<string, Promise<unknown>>();

  /** Reads what was sent, which is handed over. Throws InputError. */
  read<K extends Reading['kind']>(errand: Reading & { kind: K }, signal: AbortSignal): Promise<Fetched[K]> {
    return this.readers.run<Fetched[K]>(errand, {
      signal,
      seconds: READ_SECONDS,
      transfer: ownBuffer(errand),
    });
  }

  /** Reads what is to be saved of a project, by the thread that read what was saved of it before. Throws InputError. */
  save<K extends Saving['kind']>(
    projectId: string,
    errand: Saving & { kind: K },
    signal: AbortSignal,
  ): Promise<Fetched[K]> {
    const isLarge = 'body' in errand && errand.body.byteLength > LARGE_BYTES;
    const thread = isLarge ? this.largeSavers : this.savers[hashOf(projectId) % this.savers.length]!;
    return thread.run<Fetched[K]>(errand, { signal, seconds: READ_SECONDS });
  }

  /**
   * Makes what goes out, after everything else that is being made of the same thing; what it is made from is fetched when its
   * turn has come. Throws InputError, Stopped, and what fetching throws.
   */
  async make<K extends 'out' | 'csv' | 'summary'>(
    of: string,
    errand: () => Promise<Of<K>>,
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
    const all = [...this.savers, this.largeSavers, this.readers, this.makers];
    await Promise.all(all.map((threads) => threads.close()));
  }
}

/** A buffer that is shared with others is copied, one of its own is handed over. */
function ownBuffer({ body: { buffer, byteLength } }: Reading): ArrayBuffer[] {
  return buffer instanceof ArrayBuffer && byteLength === buffer.byteLength ? [buffer] : [];
}

/** A number of a text, the same each time. */
function hashOf(text: string): number {
  let hash = 0;
  for (let i = 0; i < text.length; i++) hash = (hash * 31 + text.charCodeAt(i)) >>> 0;
  return hash;
}

function threads(count: number, warm = 0): Aside {
  return new Aside({ file: 'errand-worker.js', threads: count, warm, heapMb: HEAP_MB });
}
