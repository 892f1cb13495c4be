import {
  assembleScene,
  meshesFromBytes,
  planStudy,
  refuseTooLarge,
  type Project,
  requireStudy,
  sceneLayers,
  type SensorGrid,
  type StudyPlan,
  StudyTracer,
  type StudyValues,
  type Directions,
  type LayerBuffers,
  layersFrom,
  layerBuffers,
  contentHash,
  type KeptShares,
  MAX_MASK_BYTES,
  type MaskOf,
  maskKeys,
  maskWords,
  type MaskStore,
  type ShareRow,
} from '@dial-shade/core';
import { answered, type Refusal } from './aside';
import { MAX_RUN_MASK_BYTES, type SharedMasks } from './run-masks';

/** What a thread needs to trace any stretch of a run; all arrays lie in shared memory. */
export interface SharedRun {
  id: string;
  plan: StudyPlan;
  obstacles: LayerBuffers;
  /** Masks that all threads fill; null where they would take too much room. */
  masks: SharedMasks | null;
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
  /** What open rays of these sensors lose, where that is known from before. */
  shares: (ShareRow | undefined)[];
}

/** What a stretch of a run has come to. */
export interface Traced {
  values: StudyValues;
  /** What open rays of its sensors lose, where that was followed now. */
  shares: (ShareRow | undefined)[];
  /** Rays that were traced for it. */
  rays: number;
}

/** The tracer of the run at hand; one run is worked at a time. */
let current: { id: string; tracer: StudyTracer; shares: KeptShares } | null = null;

/** Entry of a thread of the pool: plans a run, prepares it for all threads, or traces a stretch of it. */
export default function work(task: PlanTask | TraceTask): Promise<StudyPlan | SharedRun | Traced | Refusal> {
  return answered<StudyPlan | SharedRun | Traced>(() => {
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
    ...(plan.points && { points: sharedFields(plan.points) }),
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
  const planned = task.plan ?? plan(task);
  const obstacles = task.last?.modelKey === modelKey ? task.last.obstacles : sharedObstacles(task);
  return { id: task.id, plan: planned, obstacles, masks: sharedMasks(planned, obstacles), modelKey };
}

function sharedObstacles({ project, optionId, meshes }: PlanTask): LayerBuffers {
  const obstacles = layerBuffers(sceneLayers(assembleScene(project, optionId, meshesFromBytes(meshes))));
  return {
    ...obstacles,
    layers: obstacles.layers.map((layer) => ({ ...layer, tree: sharedFields(layer.tree) })),
    transmission: obstacles.transmission && sharedFields(obstacles.transmission),
  };
}

/** Room for the masks of a plan, layer by layer, in shared memory. */
function sharedMasks(planned: StudyPlan, obstacles: LayerBuffers): SharedMasks | null {
  // Masks of points of glass are not kept: there are hundreds of them to a window.
  if (planned.points) return null;
  const { count } = planned.grid;
  const words = maskWords(planned.directions.count);
  const size = count * words * 4;
  if (size > MAX_MASK_BYTES || size * obstacles.layers.length > MAX_RUN_MASK_BYTES) return null;
  return {
    keys: maskKeys(planned, obstacles),
    others: obstacles.layers.map(() => []),
    layers: obstacles.layers.map(() => ({
      mask: new Uint32Array(new SharedArrayBuffer(size)),
      done: new Uint8Array(new SharedArrayBuffer(count)),
    })),
  };
}

/** The shared masks of a run as the tracer of one thread asks for them. */
function storeOf({ keys, layers, others }: SharedMasks, shares: KeptShares): MaskStore {
  const layerOf = ({ key }: MaskOf) => keys.layers.findIndex((of) => of.key === key);
  return {
    mask: (of) => layers[layerOf(of)] ?? null,
    shares: ({ key }) => (key === keys.shares.key ? shares : null),
    otherMasks: (of) => others[layerOf(of)] ?? [],
    otherShares: () => [],
  };
}

function trace({ run, from, to, shares }: TraceTask): Traced {
  if (current?.id !== run.id) {
    const kept: KeptShares = [];
    const store = run.masks && storeOf(run.masks, kept);
    current = {
      id: run.id,
      tracer: new StudyTracer(run.plan, layersFrom(run.obstacles), store),
      shares: kept,
    };
  }
  const { tracer, shares: kept } = current;
  const before = tracer.traced;
  for (let s = from; s < to; s++) kept[s] = shares[s - from];
  const values = tracer.trace(from, to);
  const found = kept.slice(from, to);
  // Not to pile up in every thread what the server keeps.
  for (let s = from; s < to; s++) kept[s] = undefined;
  return { values, shares: shares.length > 0 ? [] : found, rays: tracer.traced - before };
}

/** A copy whose typed arrays lie in shared memory, so that passing it to a thread copies nothing. */
function sharedFields<T extends object>(value: T): T {
  const copy: Record<string, unknown> = {};
  for (const [key, field] of Object.entries(value))
    copy[key] = ArrayBuffer.isView(field) ? shared(field) : isPlain(field) ? sharedFields(field) : field;
  return copy as T;
}

function isPlain(field: unknown): field is object {
  return typeof field === 'object' && field !== null && Object.getPrototypeOf(field) === Object.prototype;
}

function shared(view: ArrayBufferView): ArrayBufferView {
  const memory = new SharedArrayBuffer(view.byteLength);
  new Uint8Array(memory).set(new Uint8Array(view.buffer, view.byteOffset, view.byteLength));
  const Kind = view.constructor as new (buffer: SharedArrayBuffer) => ArrayBufferView;
  return new Kind(memory);
}
