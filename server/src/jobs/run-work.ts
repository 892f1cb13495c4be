import {
  batches,
  blankValues,
  contentHash,
  inVariant,
  InputError,
  isFound,
  placeValues,
  requireStudy,
  resultFromBytes,
  resultToBytes,
  sameJson,
  signature,
  type StudyPlan,
  type StudyValues,
  valuesSoFar,
} from '@dial-shade/core';
import { log } from '../log';
import { databaseTrouble, type Database, whileOffline } from '../store/database';
import { putBlob } from '../store/blobs';
import { projectMeshBytes } from '../store/projects';
import { findRun, finishRun, giveBack, notifyRun, partialResult, runDocument } from '../store/runs';
import type { Aside } from './aside';
import { Heartbeat } from './heartbeat';
import { RunMasks } from './run-masks';
import type { PlanTask, SharedRun, Traced, TraceTask } from './run-worker';

/** How often the picture so far is stored, at most. */
const PICTURE_MS = 1500;

/** What a run has when it ends, early or not. */
interface Outcome {
  run: SharedRun | null;
  values: StudyValues | null;
  done: number;
  /** Rays that were traced, and not known from before. */
  rays: number;
  /** Sensors that a server which ended had done before. */
  before: number;
}

/** What a run leaves to the next one: what blocks the light, and its masks. */
export interface LeftOver {
  run: SharedRun;
  masks: RunMasks | null;
}

/** The work on one run that was begun, from its preparation to its end in the book. */
export class RunWork {
  private readonly heart: Heartbeat;
  private readonly started = Date.now();
  private readonly outcome: Outcome = { run: null, values: null, done: 0, rays: 0, before: 0 };
  private masks: RunMasks | null = null;

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
   * @param isClosing whether the server is about to end: the run is then given back
   */
  async toItsEnd(
    plan: StudyPlan | null,
    last: LeftOver | null,
    isClosing: () => boolean,
  ): Promise<LeftOver | null> {
    let failure: unknown = null;
    try {
      await this.prepare(plan, last);
      await this.trace();
    } catch (error) {
      failure = error;
    }
    await this.heart.end();
    const { word } = this.heart;
    if (word === 'lost') return this.leftOver();
    if (isClosing() && !this.isWhole()) {
      await this.giveBack();
      return null;
    }
    if (word === 'trouble') failure = this.heart.trouble;
    const isWhole = this.isWhole();
    if (word === 'stop' && !isWhole) await this.enter('stopped');
    else if (failure && !isWhole) await this.enter('failed', this.reason(failure));
    else await this.enter('done');
    if (isWhole && !failure) await this.remember();
    return this.leftOver();
  }

  private isWhole(): boolean {
    const { run, done } = this.outcome;
    return run !== null && done === run.plan.grid.count;
  }

  /** Lets another server work the run, and shows what there is of it meanwhile. What cannot be told now is found by its silence. */
  private async giveBack(): Promise<void> {
    const { run, values, done } = this.outcome;
    const picture = run && values && done > 0 ? resultToBytes(run.plan, values) : null;
    try {
      await giveBack(this.db, this.id, this.worker, done, picture);
      await this.notify();
    } catch (error) {
      log.warn({ run: this.id, error: (error as Error).message }, 'a run could not be given back');
    }
  }

  private leftOver(): LeftOver | null {
    return this.outcome.run && { run: this.outcome.run, masks: this.masks };
  }

  /** Keeps the masks for later; a run is done whether or not they can be kept. */
  private async remember(): Promise<void> {
    try {
      await this.masks?.remember(this.db);
    } catch (error) {
      log.warn({ run: this.id, error: (error as Error).message }, 'the masks of a run could not be kept');
    }
  }

  private async prepare(plan: StudyPlan | null, last: LeftOver | null): Promise<void> {
    const { signal } = this.heart;
    const line = await whileOffline(() => findRun(this.db, this.id));
    if (!line) throw new Error('the run is gone');
    const document = await whileOffline(() => runDocument(this.db, this.id));
    const { project, optionId } = inVariant(document, line.optionId);
    const meshes = await whileOffline(() => projectMeshBytes(this.db, project));
    const { studyId } = line;
    const task: PlanTask = { kind: 'prepare', id: this.id, project, optionId, studyId, meshes, plan };
    if (last) task.last = { modelKey: last.run.modelKey, obstacles: last.run.obstacles };
    const run = await this.tracers.run<SharedRun>(task, { signal });
    this.outcome.run = run;
    // What was found is gone on from unless another program would find it differently.
    const isSame = () =>
      sameJson(line.signature, signature(document, line.optionId, requireStudy(document, studyId)));
    this.outcome.values = await this.soFar(run.plan, isSame);
    if (!run.masks) return;
    this.masks = new RunMasks(run.masks, run.obstacles.transmission !== null);
    await whileOffline(() => this.masks!.recall(this.db, last?.masks ?? null));
  }

  /** What a server that has ended had found of the run; null where there is nothing to go on from. */
  private async soFar(plan: StudyPlan, isSame: () => boolean): Promise<StudyValues | null> {
    const partial = await whileOffline(() => partialResult(this.db, this.id));
    return partial && isSame() ? valuesSoFar(plan, resultFromBytes(partial)) : null;
  }

  /** Traces stretch by stretch on all threads; the heartbeat carries how far it is, and the picture so far. */
  private async trace(): Promise<void> {
    const { outcome, heart } = this;
    const run = outcome.run!;
    const { plan } = run;
    const earlier = outcome.values;
    const values = (outcome.values = earlier ?? blankValues(plan.study, plan.grid.count));
    const all = batches(plan);
    const queue = earlier ? all.filter((stretch) => !isFound(plan, earlier, stretch)) : all;
    outcome.before = plan.grid.count - queue.reduce((sum, { from, to }) => sum + to - from, 0);
    outcome.done = outcome.before;
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
        const { from, to } = next;
        const known = this.masks?.shares.slice(from, to) ?? [];
        const shares = known.length === to - from && known.every(Boolean) ? known : [];
        const task: TraceTask = { kind: 'trace', run, from, to, shares };
        const found = await this.tracers.run<Traced>(task, { signal: heart.signal });
        placeValues(values, from, found.values);
        found.shares.forEach((row, k) => row && this.masks && (this.masks.shares[from + k] = row));
        outcome.rays += found.rays;
        outcome.done += to - from;
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
    const { run, values, done, rays } = this.outcome;
    const bytes = run && values && done > 0 && status !== 'failed' ? resultToBytes(run.plan, values) : null;
    const resultHash = bytes && contentHash(bytes);
    const said = message ?? this.remark();
    await whileOffline(async () => {
      if (bytes && resultHash) await putBlob(this.db, resultHash, 'result', bytes);
      await finishRun(this.db, this.id, this.worker, {
        status,
        seconds: (Date.now() - this.started) / 1000,
        sensorsDone: done,
        rays,
        ...(said && { message: said }),
        ...(resultHash && { resultHash }),
      });
      await this.notify();
    });
  }

  /** What is to be known of how it was worked; none where all went as ever. */
  private remark(): string | undefined {
    const { before } = this.outcome;
    const said = [
      before > 0 &&
        `Its server ended on the way; it went on from the ${before.toLocaleString('en')} points that were there.`,
      this.masks?.wasLetGo && 'Traced anew: what was known from before had had to make room.',
    ].filter(Boolean);
    return said.length > 0 ? said.join(' ') : undefined;
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
