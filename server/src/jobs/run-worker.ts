import {
  assembleScene,
  InputError,
  type Mesh,
  planSunHours,
  type Project,
  requireStudy,
  sceneObstacles,
  type SensorGrid,
  type SunHoursPlan,
  SunHoursTracer,
  type SunHoursValues,
  type SunSamples,
  type ObstacleBuffers,
  obstaclesFrom,
  obstacleBuffers,
  contentHash,
} from '@dial-shade/core';

/** What a thread needs to trace any stretch of a run; all arrays lie in shared memory. */
export interface SharedRun {
  id: string;
  plan: SunHoursPlan;
  obstacles: ObstacleBuffers;
  /** Tells whether another run has the same model, and so the same obstacles. */
  modelKey: string;
}

export interface PlanTask {
  kind: 'plan' | 'prepare';
  id: string;
  project: Project;
  optionId: string;
  studyId: string;
  meshes: Map<string, Mesh>;
  /** The obstacles of the run before, used again when the model is the same. */
  last: Pick<SharedRun, 'modelKey' | 'obstacles'> | null;
}

export interface TraceTask {
  kind: 'trace';
  run: SharedRun;
  from: number;
  to: number;
}

/** The tracer of the run at hand; one run is worked at a time. */
let current: { id: string; tracer: SunHoursTracer } | null = null;

/** A refusal meant for the user; errors lose their kind on the way out of a thread. */
export interface Refusal {
  refused: { code: string; message: string };
}

/** Entry of a thread of the pool: plans a run, prepares it for all threads, or traces a stretch of it. */
export default function work(
  task: PlanTask | TraceTask,
): SunHoursPlan | SharedRun | SunHoursValues | Refusal {
  try {
    return task.kind === 'trace' ? trace(task) : plan(task);
  } catch (error) {
    if (error instanceof InputError) return { refused: { code: error.code, message: error.message } };
    throw error;
  }
}

function plan(task: PlanTask): SunHoursPlan | SharedRun {
  const plan = planSunHours(
    task.project,
    task.optionId,
    requireStudy(task.project, task.studyId),
    task.meshes,
  );
  if (task.kind === 'plan') return plan;
  const { site, neighbours, neighbourRules, glazings, options } = task.project;
  const modelKey = contentHash([
    task.optionId,
    site.ground,
    site.north,
    neighbours,
    neighbourRules,
    glazings,
    options,
  ]);
  return {
    id: task.id,
    plan: { ...plan, grid: sharedFields<SensorGrid>(plan.grid), suns: sharedFields<SunSamples>(plan.suns) },
    obstacles: task.last?.modelKey === modelKey ? task.last.obstacles : sharedObstacles(task),
    modelKey,
  };
}

function sharedObstacles({ project, optionId, meshes }: PlanTask): ObstacleBuffers {
  const obstacles = obstacleBuffers(sceneObstacles(assembleScene(project, optionId, meshes)));
  return {
    ...obstacles,
    tree: sharedFields(obstacles.tree),
    transmission: obstacles.transmission && sharedFields(obstacles.transmission),
  };
}

function trace({ run, from, to }: TraceTask): SunHoursValues {
  if (current?.id !== run.id)
    current = {
      id: run.id,
      tracer: new SunHoursTracer(run.plan.grid, run.plan.suns, obstaclesFrom(run.obstacles)),
    };
  return current.tracer.trace(from, to);
}

/** A copy whose typed arrays lie in shared memory, so that passing it to a thread copies nothing. */
function sharedFields<T extends object>(value: T): T {
  const copy: Record<string, unknown> = {};
  for (const [key, field] of Object.entries(value))
    copy[key] = ArrayBuffer.isView(field) ? shared(field) : field;
  return copy as T;
}

function shared(view: ArrayBufferView): ArrayBufferView {
  const memory = new SharedArrayBuffer(view.byteLength);
  new Uint8Array(memory).set(new Uint8Array(view.buffer, view.byteOffset, view.byteLength));
  const Kind = view.constructor as new (buffer: SharedArrayBuffer) => ArrayBufferView;
  return new Kind(memory);
}
