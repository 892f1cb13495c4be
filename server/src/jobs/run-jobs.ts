import {
  inVariant,
  type Project,
  requireStudy,
  type RunLine,
  signature,
  type StudyPlan,
  type StoredProject,
} from '@dial-shade/core';
import { randomUUID } from 'node:crypto';
import { availableParallelism } from 'node:os';
import PgBoss from 'pg-boss';
import { log } from '../log';
import { type Database, whileOffline } from '../store/database';
import { projectMeshBytes } from '../store/projects';
import { beginRun, claimOrphans, createRun, notifyRun } from '../store/runs';
import { Aside } from './aside';
import { type LeftOver, RunWork } from './run-work';
import type { PlanTask } from './run-worker';

/** How the server before this one ended, as whatever started both says. */
function lastEnd(): string | undefined {
  const end = process.env.DIAL_SHADE_LAST_END;
  if (end === 'SIGABRT' || end === '134') return 'ran out of memory';
  if (end === 'SIGKILL' || end === '137')
    return 'was killed, by somebody or by a system that was short of memory';
  return end && `ended with ${end}`;
}

const QUEUE = 'sun-hours-runs';
/** How often the queue is looked at, and how often abandoned runs are looked for. */
const LOOK_MS = 500;
const WATCH_MS = 3000;
/** Time that laying a grid may take. */
const PLAN_SECONDS = 60;
/** Plans of runs that wait here, kept until they are begun. */
const MAX_PLANS = 4;
/** Triangles of a model up to which what blocks the light is kept for the next run. */
const MAX_KEPT_TRIANGLES = 400_000;

/**
 * Runs as jobs: entered in the book, queued in the database, worked by a pool of threads. A run outlives the page that
 * asked for it and the server that began it.
 */
export class RunJobs {
  private readonly boss: PgBoss;
  /** Threads that trace; planning has one of its own, so that a long run keeps nobody from asking. */
  private readonly tracers: Aside;
  private readonly planner: Aside;
  private readonly threads = Math.max(1, Math.min(8, availableParallelism()));
  private watch: NodeJS.Timeout | null = null;
  private closing = false;
  private looking: Promise<void> = Promise.resolve();
  /** Runs of this server are worked one after another. */
  private turn: Promise<void> = Promise.resolve();
  /** Runs that wait for their turn here or are at work. */
  private readonly own = new Set<string>();
  private readonly plans = new Map<string, StudyPlan>();
  /** What the run worked last has left: obstacles for the next of the same model, masks for what is only weighed again. */
  private last: LeftOver | null = null;

  constructor(
    private readonly db: Database,
    url: string,
  ) {
    this.boss = new PgBoss({ connectionString: url, max: 4 });
    this.boss.on('error', (error) => log.warn({ error: error.message }, 'the queue had an error'));
    this.tracers = new Aside({ file: 'run-worker.js', threads: this.threads });
    this.planner = new Aside({ file: 'run-worker.js', threads: 1 });
  }

  async start(): Promise<void> {
    await this.boss.start();
    await this.boss.createQueue(QUEUE);
    this.looking = this.look();
    await this.takeOver();
    this.watch = setInterval(() => void this.takeOver(), WATCH_MS);
  }

  async stop(): Promise<void> {
    this.closing = true;
    if (this.watch) clearInterval(this.watch);
    await Promise.all([this.tracers.close(), this.planner.close()]);
    await Promise.all([this.looking, this.turn]);
    await this.boss.stop({ graceful: false, close: true }).catch(() => {});
  }

  /**
   * Plans a study of an option (or of one with another scheme, by its id as a variant) and queues it; the very same run that has not ended is given again. Null when the project
   * is gone. Throws InputError when it cannot be run, Stopped when the signal was raised.
   */
  async submit(
    { id: projectId, project, revision }: StoredProject,
    optionId: string,
    studyIdOrName: string,
    signal: AbortSignal,
  ): Promise<RunLine | null> {
    const study = requireStudy(project, studyIdOrName);
    const id = randomUUID();
    const plan = await this.plan(id, project, optionId, study.id, signal);
    const created = await createRun(this.db, {
      id,
      projectId,
      studyId: study.id,
      optionId,
      revision,
      document: project,
      signature: signature(project, optionId, study),
      sensors: plan.grid.count,
      rays: plan.rays,
    });
    if (!created) return null;
    const { run, isNew, replaced } = created;
    for (const old of replaced) await notifyRun(this.db, old);
    if (!isNew) return run;
    this.keepPlan(id, plan);
    await this.boss.send(QUEUE, { id });
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
    signal: AbortSignal,
  ): Promise<StudyPlan> {
    const meshes = await projectMeshBytes(this.db, project);
    const task: PlanTask = { kind: 'plan', id, ...inVariant(project, optionId), studyId, meshes };
    return this.planner.run<StudyPlan>(task, { signal, seconds: PLAN_SECONDS });
  }

  private keepPlan(id: string, plan: StudyPlan): void {
    this.plans.set(id, plan);
    for (const old of this.plans.keys()) if (this.plans.size > MAX_PLANS) this.plans.delete(old);
  }

  /** Takes runs from the queue. A job only says that a run waits; how it stands is in the book. */
  private async look(): Promise<void> {
    while (!this.closing) {
      try {
        const [job] = (await this.boss.fetch<{ id: string }>(QUEUE)) ?? [];
        if (job) {
          const { id } = job.data;
          await this.inTurn(id);
          await this.boss.complete(QUEUE, job.id);
          continue;
        }
      } catch (error) {
        if (!this.closing) log.warn({ error: (error as Error).message }, 'could not look at the queue');
      }
      if (!this.closing) await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    }
  }

  /** Queues again the runs whose worker is gone, and ends those that were to stop or never come to an end. */
  private async takeOver(): Promise<void> {
    try {
      const { again, ended } = await claimOrphans(this.db, [...this.own], lastEnd());
      for (const run of ended) await notifyRun(this.db, run);
      for (const id of again) {
        log.info({ run: id }, 'taking over a run whose worker is gone');
        await this.boss.send(QUEUE, { id });
      }
    } catch (error) {
      if (!this.closing) log.warn({ error: (error as Error).message }, 'could not look for abandoned runs');
    }
  }

  private inTurn(id: string): Promise<void> {
    if (this.own.has(id)) return this.turn;
    this.own.add(id);
    this.turn = this.turn
      .then(() => (this.closing ? undefined : this.work(id)))
      // What is not worked to its end here waits for another server, or for the next start.
      .then(() => (this.closing ? this.boss.send(QUEUE, { id }) : undefined))
      .then(() => {})
      .catch((error: Error) => log.error({ run: id, error: error.stack }, 'a run could not be worked'))
      .finally(() => {
        this.own.delete(id);
        this.plans.delete(id);
      });
    return this.turn;
  }

  private async work(id: string): Promise<void> {
    const worker = randomUUID();
    if (!(await whileOffline(() => beginRun(this.db, id, worker)))) return;
    const work = new RunWork(this.db, this.tracers, this.threads, id, worker);
    const left = await work.toItsEnd(this.plans.get(id) ?? null, this.last, () => this.closing);
    const triangles = left?.run.obstacles.layers.reduce((sum, { tree }) => sum + tree.order.length, 0) ?? 0;
    this.last = triangles <= MAX_KEPT_TRIANGLES ? left : null;
  }
}
