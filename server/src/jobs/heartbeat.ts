import { log } from '../log';
import { databaseTrouble, type Database } from '../store/database';
import { noteProgress } from '../store/runs';

/** How often the book is told that a run is alive, and asked whether it is to stop. */
const BEAT_MS = 300;

/** What is told of a run with a beat. */
export interface Progress {
  sensorsDone: number;
  /** The picture so far, when it is due. */
  picture: Uint8Array | null;
}

/**
 * Tells the book that a run is alive, from its begin to its end, and hears whether it is to stop. While the database is
 * away it goes on trying; the run goes on meanwhile.
 */
export class Heartbeat {
  private readonly abort = new AbortController();
  private readonly beating: Promise<void>;
  private over = false;
  private wake = () => {};
  private progress: () => Progress = () => ({ sensorsDone: 0, picture: null });
  /** Why the run is to end early: it was asked to stop, another worker has it, or the book cannot be kept. */
  word: 'go' | 'stop' | 'lost' | 'trouble' = 'go';
  /** What went wrong with the book. */
  trouble: unknown = null;

  /** Raised when the run is to end early. */
  readonly signal: AbortSignal = this.abort.signal;

  constructor(
    private readonly db: Database,
    private readonly runId: string,
    private readonly worker: string,
    private readonly told: () => Promise<void>,
  ) {
    this.beating = this.beat();
  }

  /** From now on the beats carry this progress. */
  follow(progress: () => Progress): void {
    this.progress = progress;
  }

  /** Beats at once, because there is something to show. */
  hurry(): void {
    this.wake();
  }

  async end(): Promise<void> {
    this.over = true;
    this.wake();
    await this.beating;
  }

  private async beat(): Promise<void> {
    while (!this.over) {
      try {
        const { sensorsDone, picture } = this.progress();
        const word = await noteProgress(this.db, this.runId, this.worker, sensorsDone, picture);
        if (word !== 'go') return this.giveUp(word);
        await this.told();
      } catch (error) {
        // What passes is waited for: the run is worked on meanwhile.
        if (databaseTrouble(error)?.status !== 503) {
          this.trouble = error;
          return this.giveUp('trouble');
        }
        log.warn({ run: this.runId, error: (error as Error).message }, 'the database is away from a run');
      }
      if (this.over) return;
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, BEAT_MS);
        this.wake = () => {
          clearTimeout(timer);
          resolve();
        };
      });
    }
  }

  private giveUp(word: 'stop' | 'lost' | 'trouble'): void {
    this.word = word;
    this.abort.abort();
  }
}
