import type { MeshStore } from '../geometry';
import type { Project, Study } from '../project';
import { assembleScene } from '../scene';
import { type MaskStore, sceneLayers } from '../trace';
import type { StudyValues } from './kinds';
import { blankValues, placeValues, planStudy, runStudy, type StudyPlan } from './run-study';
import { StudyTracer } from './study-tracer';

/** Rays up to which a study is computed at once, where the page is, instead of being queued. */
export const MAX_AT_ONCE_RAYS = 3_500_000;
/** Rays up to which a study can follow every change: traced once, and weighed again from then on. */
export const MAX_LIVE_RAYS = 40_000_000;

/**
 * A small study computed at once, in one go; null when it has too many rays for that. With `coarse`, only the sensors of
 * the first, coarse picture have values. Throws what `planStudy` throws.
 */
export function runAtOnce(
  project: Project,
  optionId: string,
  study: Study,
  meshes: MeshStore,
  coarse = false,
  masks?: MaskStore,
  mostRays = MAX_AT_ONCE_RAYS,
): { plan: StudyPlan; values: StudyValues } | null {
  const plan = planStudy(project, optionId, study, meshes);
  if (plan.rays > mostRays) return null;
  if (!coarse || plan.grid.coarse === 0)
    return { plan, values: runStudy(project, plan, meshes, masks ? { masks } : {}) };
  const values = blankValues(plan.study, plan.grid.count);
  const obstacles = sceneLayers(assembleScene(project, optionId, meshes));
  placeValues(values, 0, new StudyTracer(plan, obstacles, masks).trace(0, plan.grid.coarse));
  return { plan, values };
}
