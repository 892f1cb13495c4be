import {
  blankValues,
  contentHash,
  InputError,
  placeValues,
  type Project,
  requireStudy,
  type RunLine,
  resultToBytes,
  signature,
  batches,
  type SunHoursPlan,
  type SunHoursValues,
  type Mesh,
} from '@dial-shade/core';
import { randomUUID } from 'node:crypto';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import PgBoss from 'pg-boss';
import { Piscina } from 'piscina';
import { log } from '../log';
import { projectRoot } from '../root';
import { type Database, whileOffline } from '../store/database';
import { projectMeshes, putBlob } from '../store/projects';
import {
  beginRun,
  claimOrphans,
  createRun,
  findRun,
  finishRun,
  noteProgress,
  runDocument,
  notifyRun,
} from '../store/runs';
import type { PlanTask, Refusal, SharedRun, TraceTask } from './run-worker';

const QUEUE = 'sun-hours-runs';
/** How often progress is noted, at most. */
const NOTE_MS = 300;
/** How often the picture so far is stored, at most. */
const PICTURE_MS = 1500;

/**
 * Runs as jobs: entered in the book, queued in the database, worked by a pool of threads. A run outlives the page that
 * asked for it and the server that began it.
 */
export class RunJobs {
  private readonly boss: PgBoss;
  private readonly pool: Piscina;
  private readonly threads = Math.max(1, Math.min(8, availableParallelism()));
  private watch: NodeJS.Timeout | null = null;
  private closing = false;
  /** Runs of this server are worked one after another. */
  private turn: Promise<void> = Promise.resolve();
  /** What blocks the light in the run worked last, for the next of the same model. */
  private last: Pick<SharedRun, 'modelKey' | 'obstacles'> | null = null;

  constructor(
    private readonly db: Database,
    url: string,
  ) {
    this.boss = new PgBoss({ connectionString: url, max: 4 });
    this.boss.on('error', (error) => log.warn({ error: error.message }, 'the queue had an error'));
    this.pool = new Piscina({
      filename: join(projectRoot(), 'dist/server/run-worker.js'),
      // Kept warm: a run begins without starting threads.
      minThreads: this.threads,
      maxThreads: this.threads,
      idleTimeout: 600_000,
    });
  }

  async start(): Promise<void> {
    await this.boss.start();
    await this.boss.createQueue(QUEUE);
    await this.boss.work<{ id: string }>(
      QUEUE,
      { batchSize: 1, pollingIntervalSeconds: 0.5 },
      async (jobs) => {
        for (const job of jobs) await this.inTurn(job.data.id);
      },
    );
    await this.takeOver();
    this.watch = setInterval(() => void this.takeOver(), 3000);
  }

  async stop(): Promise<void> {
    this.closing = true;
    if (this.watch) clearInterval(this.watch);
    await this.boss.stop({ graceful: false, close: true }).catch(() => {});
    await this.pool.destroy();
  }

  /**
   * Plans a study of an option and queues it. Throws InputError when it cannot be run.
   */
  async submit(
    projectId: string,
    project: Project,
    optionId: string,
    studyIdOrName: string,
  ): Promise<RunLine> {
    const study = requireStudy(project, studyIdOrName);
    const id = randomUUID();
    const meshes = await projectMeshes(this.db, project);
    const plan = await this.plan(id, project, optionId, study.id, meshes);
    const run = await createRun(this.db, {
      id,
      projectId,
      studyId: study.id,
      optionId,
      document: project,
      signature: signature(project, optionId, study),
      sensors: plan.grid.count,
      rays: plan.rays,
    });
    await this.boss.send(QUEUE, { id }, { retryLimit: 3, expireInHours: 2 });
    await notifyRun(this.db, run);
    // Not to wait for the next look at the queue; whoever begins the run first has it.
    void this.inTurn(id);
    return run;
  }

  private async plan(
    id: string,
    project: Project,
    optionId: string,
    studyId: string,
    meshes: Map<string, Mesh>,
  ): Promise<SunHoursPlan> {
    const task: PlanTask = { kind: 'plan', id, project, optionId, studyId, meshes, last: null };
    return this.inPool(task) as Promise<SunHoursPlan>;
  }

  /** Runs a task in the pool. Throws InputError when the thread refused it. */
  private async inPool(task: PlanTask | TraceTask): Promise<unknown> {
    const answer = (await this.pool.run(task)) as object | Refusal;
    if ('refused' in answer) throw new InputError(answer.refused.code, answer.refused.message);
    return answer;
  }

  /** Queues again the runs whose worker is gone. */
  private async takeOver(): Promise<void> {
    try {
      for (const id of await claimOrphans(this.db)) {
        log.info({ run: id }, 'taking over a run whose worker is gone');
        await this.boss.send(QUEUE, { id }, { retryLimit: 3, expireInHours: 2 });
      }
    } catch (error) {
      log.warn({ error: (error as Error).message }, 'could not look for abandoned runs');
    }
  }

  private async notify(id: string): Promise<void> {
    const run = await findRun(this.db, id);
    if (run) await notifyRun(this.db, run);
  }

  private inTurn(id: string): Promise<void> {
    this.turn = this.turn
      .then(() => (this.closing ? undefined : this.work(id)))
      .catch((error: Error) => log.error({ run: id, error: error.stack }, 'a run could not be begun'));
    return this.turn;
  }

  private async work(id: string): Promise<void> {
    const worker = randomUUID();
    if (!(await whileOffline(() => beginRun(this.db, id, worker)))) return;
    const started = Date.now();
    try {
      await this.notify(id);
      const line = await findRun(this.db, id);
      if (!line) return;
      const project = await runDocument(this.db, id);
      const meshes = await projectMeshes(this.db, project);
      const run = (await this.inPool({
        kind: 'prepare',
        id,
        project,
        optionId: line.optionId,
        studyId: line.studyId,
        meshes,
        last: this.last,
      })) as SharedRun;
      this.last = { modelKey: run.modelKey, obstacles: run.obstacles };
      const { values, done, stopped, lost } = await this.trace(run, worker);
      if (this.closing || lost) return;
      const bytes = resultToBytes(run.plan, values);
      const resultHash = contentHash(bytes);
      await whileOffline(async () => {
        if (done > 0) await putBlob(this.db, resultHash, 'result', bytes);
        await finishRun(this.db, id, worker, {
          status: stopped ? 'stopped' : 'done',
          ...(done > 0 && { resultHash }),
          seconds: (Date.now() - started) / 1000,
          sensorsDone: done,
        });
        await this.notify(id);
      });
    } catch (error) {
      if (this.closing) return;
      const known = error instanceof InputError;
      if (!known) log.error({ run: id, error: (error as Error).stack }, 'a run failed');
      const message = known
        ? (error as Error).message
        : 'The run failed; the server’s log says why. Try it again.';
      await whileOffline(async () => {
        await finishRun(this.db, id, worker, { status: 'failed', message });
        await this.notify(id);
      });
    }
  }

  /** Traces stretch by stretch on all threads, noting progress; ends early when asked to stop. */
  private async trace(
    run: SharedRun,
    worker: string,
  ): Promise<{ values: SunHoursValues; done: number; stopped: boolean; lost: boolean }> {
    const { plan } = run;
    const values = blankValues(plan.grid.count);
    const queue = batches(plan);
    let done = 0;
    let stopped = false;
    let lost = false;
    let pictured = 0;
    const ticker = async () => {
      while (done < plan.grid.count && !stopped && !this.closing) {
        const due =
          done > 0 && (pictured === 0 || Date.now() - pictured > PICTURE_MS) && done >= plan.grid.coarse;
        const picture = due ? resultToBytes(plan, values) : null;
        if (due) pictured = Date.now();
        const word = await whileOffline(() => noteProgress(this.db, run.id, worker, done, picture));
        lost = word === 'lost';
        if (word !== 'go') stopped = true;
        await whileOffline(() => this.notify(run.id));
        await new Promise((resolve) => setTimeout(resolve, NOTE_MS));
      }
    };
    const lane = async () => {
      while (!stopped && !this.closing) {
        const next = queue.shift();
        if (!next) return;
        const part = (await this.inPool({ kind: 'trace', run, ...next })) as SunHoursValues;
        placeValues(values, next.from, part);
        done += next.to - next.from;
      }
    };
    const ticking = ticker();
    try {
      await Promise.all(Array.from({ length: this.threads }, lane));
    } finally {
      if (done < plan.grid.count) stopped = true;
      await ticking;
    }
    return { values, done, stopped, lost };
  }
}
