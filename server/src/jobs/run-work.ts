import {
  batches,
  blankValues,
  contentHash,
  InputError,
  placeValues,
  resultToBytes,
  type StudyPlan,
  type StudyValues,
} from '@dial-shade/core';
import { log } from '../log';
import { databaseTrouble, type Database, whileOffline } from '../store/database';
import { projectMeshBytes, putBlob } from '../store/projects';
import { findRun, finishRun, notifyRun, runDocument } from '../store/runs';
import type { Aside } from './aside';
import { Heartbeat } from './heartbeat';
import type { PlanTask, SharedRun, TraceTask } from './run-worker';

/** How often the picture so far is stored, at most. */
const PICTURE_MS = 1500;

/** What a run has when it ends, early or not. */
interface Outcome {
  run: SharedRun | null;
  values: StudyValues | null;
  done: number;
}

/** The work on one run that was begun, from its preparation to its end in the book. */
export class RunWork {
  private readonly heart: Heartbeat;
  private readonly started = Date.now();
  private readonly outcome: Outcome = { run: null, values: null, done: 0 };

  constructor(
    private readonly db: Database,
    private readonly tracers: Aside,
    private readonly threads: number,
    private readonly id: string,
    private readonly worker: string,
  ) {
    this.heart = new Heartbeat(db, id, worker, () => this.notify());
  }

  /**
   * Works the run and enters how it ended. Gives what was prepared, for the next run of the same model.
   * @param plan of the run, when it was planned here
   * @param isClosing whether the server is about to end; another then takes the run over
   */
  async toItsEnd(
    plan: StudyPlan | null,
    last: PlanTask['last'],
    isClosing: () => boolean,
  ): Promise<SharedRun | null> {
    let failure: unknown = null;
    try {
      await this.prepare(plan, last ?? null);
      await this.trace();
    } catch (error) {
      failure = error;
    }
    await this.heart.end();
    const { word } = this.heart;
    if (word === 'lost' || isClosing()) return this.outcome.run;
    if (word === 'trouble') failure = this.heart.trouble;
    const { run, done } = this.outcome;
    const isWhole = run !== null && done === run.plan.grid.count;
    if (word === 'stop' && !isWhole) await this.enter('stopped');
    else if (failure && !isWhole) await this.enter('failed', this.reason(failure));
    else await this.enter('done');
    return this.outcome.run;
  }

  private async prepare(plan: StudyPlan | null, last: PlanTask['last'] | null): Promise<void> {
    const { signal } = this.heart;
    const line = await whileOffline(() => findRun(this.db, this.id));
    if (!line) throw new Error('the run is gone');
    const project = await whileOffline(() => runDocument(this.db, this.id));
    const meshes = await whileOffline(() => projectMeshBytes(this.db, project));
    const { optionId, studyId } = line;
    const task: PlanTask = { kind: 'prepare', id: this.id, project, optionId, studyId, meshes, last, plan };
    this.outcome.run = await this.tracers.run<SharedRun>(task, { signal });
  }

  /** Traces stretch by stretch on all threads; the heartbeat carries how far it is, and the picture so far. */
  private async trace(): Promise<void> {
    const { outcome, heart } = this;
    const run = outcome.run!;
    const { plan } = run;
    const values = (outcome.values = blankValues(plan.study.kind, plan.grid.count));
    const queue = batches(plan);
    let pictured = 0;
    heart.follow(() => {
      const { done } = outcome;
      const due = done > 0 && done >= plan.grid.coarse && Date.now() - pictured > PICTURE_MS;
      if (due) pictured = Date.now();
      return { sensorsDone: done, picture: due ? resultToBytes(plan, values) : null };
    });
    const lane = async () => {
      while (!heart.signal.aborted) {
        const next = queue.shift();
        if (!next) return;
        const task: TraceTask = { kind: 'trace', run, ...next };
        placeValues(values, next.from, await this.tracers.run<StudyValues>(task, { signal: heart.signal }));
        outcome.done += next.to - next.from;
        if (pictured === 0 && outcome.done >= plan.grid.coarse && queue.length > 0) heart.hurry();
      }
    };
    try {
      await Promise.all(Array.from({ length: this.threads }, lane));
    } finally {
      // When one lane fails, the others stop with what they are at.
      queue.length = 0;
    }
  }

  /** Enters how the run ended, with the result as far as there is one. */
  private async enter(status: 'done' | 'stopped' | 'failed', message?: string): Promise<void> {
    const { run, values, done } = this.outcome;
    const bytes = run && values && done > 0 && status !== 'failed' ? resultToBytes(run.plan, values) : null;
    const resultHash = bytes && contentHash(bytes);
    await whileOffline(async () => {
      if (bytes && resultHash) await putBlob(this.db, resultHash, 'result', bytes);
      await finishRun(this.db, this.id, this.worker, {
        status,
        seconds: (Date.now() - this.started) / 1000,
        sensorsDone: done,
        ...(message && { message }),
        ...(resultHash && { resultHash }),
      });
      await this.notify();
    });
  }

  private reason(failure: unknown): string {
    if (failure instanceof InputError) return failure.message;
    log.error({ run: this.id, error: (failure as Error).stack }, 'a run failed');
    return databaseTrouble(failure)?.sentence ?? 'The run failed; the server’s log says why. Try it again.';
  }

  private async notify(): Promise<void> {
    const run = await findRun(this.db, this.id);
    if (run) await notifyRun(this.db, run);
  }
}
