import {
  assembleScene,
  meshesFromBytes,
  planStudy,
  refuseTooLarge,
  type Project,
  requireStudy,
  sceneObstacles,
  type SensorGrid,
  type StudyPlan,
  StudyTracer,
  type StudyValues,
  type Directions,
  type ObstacleBuffers,
  obstaclesFrom,
  obstacleBuffers,
  contentHash,
} from '@dial-shade/core';
import { answered, type Refusal } from './aside';

/** What a thread needs to trace any stretch of a run; all arrays lie in shared memory. */
export interface SharedRun {
  id: string;
  plan: StudyPlan;
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
  /** Bytes of the meshes that the project names, by hash. */
  meshes: Map<string, Uint8Array>;
  /** The obstacles of the run before, used again when the model is the same. */
  last?: Pick<SharedRun, 'modelKey' | 'obstacles'> | null;
  /** The plan, when it was made already. */
  plan?: StudyPlan | null;
}

export interface TraceTask {
  kind: 'trace';
  run: SharedRun;
  from: number;
  to: number;
}

/** The tracer of the run at hand; one run is worked at a time. */
let current: { id: string; tracer: StudyTracer } | null = null;

/** Entry of a thread of the pool: plans a run, prepares it for all threads, or traces a stretch of it. */
export default function work(
  task: PlanTask | TraceTask,
): Promise<StudyPlan | SharedRun | StudyValues | Refusal> {
  return answered<StudyPlan | SharedRun | StudyValues>(() => {
    if (task.kind === 'trace') return trace(task);
    return task.kind === 'plan' ? plan(task) : prepare(task);
  });
}

/** The plan of a run; its arrays lie in shared memory. */
function plan({ project, optionId, studyId, meshes }: PlanTask): StudyPlan {
  const plan = planStudy(project, optionId, requireStudy(project, studyId), meshesFromBytes(meshes));
  return {
    ...plan,
    grid: sharedFields<SensorGrid>(plan.grid),
    directions: sharedFields<Directions>(plan.directions),
  };
}

function prepare(task: PlanTask): SharedRun {
  refuseTooLarge(task.project, task.optionId);
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
    plan: task.plan ?? plan(task),
    obstacles: task.last?.modelKey === modelKey ? task.last.obstacles : sharedObstacles(task),
    modelKey,
  };
}

function sharedObstacles({ project, optionId, meshes }: PlanTask): ObstacleBuffers {
  const obstacles = obstacleBuffers(
    sceneObstacles(assembleScene(project, optionId, meshesFromBytes(meshes))),
  );
  return {
    ...obstacles,
    tree: sharedFields(obstacles.tree),
    transmission: obstacles.transmission && sharedFields(obstacles.transmission),
  };
}

function trace({ run, from, to }: TraceTask): StudyValues {
  if (current?.id !== run.id)
    current = {
      id: run.id,
      tracer: new StudyTracer(run.plan, obstaclesFrom(run.obstacles)),
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
