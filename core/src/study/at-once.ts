import type { MeshStore } from '../geometry';
import type { Project, Study } from '../project';
import { assembleScene } from '../scene';
import { sceneObstacles } from '../trace';
import {
  blankValues,
  placeValues,
  planSunHours,
  runSunHours,
  type SunHoursPlan,
  SunHoursTracer,
  type SunHoursValues,
} from './sun-hours';

/** Rays up to which a study is computed at once, where the page is, instead of being queued. */
export const MAX_AT_ONCE_RAYS = 2_000_000;

/**
 * A small study computed at once, in one go; null when it has too many rays for that. With `coarse`, only the sensors of
 * the first, coarse picture have values. Throws what `planSunHours` throws.
 */
export function runAtOnce(
  project: Project,
  optionId: string,
  study: Study,
  meshes: MeshStore,
  coarse = false,
): { plan: SunHoursPlan; values: SunHoursValues } | null {
  const plan = planSunHours(project, optionId, study, meshes);
  if (plan.rays > MAX_AT_ONCE_RAYS) return null;
  if (!coarse || plan.grid.coarse === 0) return { plan, values: runSunHours(project, plan, meshes) };
  const values = blankValues(plan.grid.count);
  const obstacles = sceneObstacles(assembleScene(project, optionId, meshes));
  placeValues(values, 0, new SunHoursTracer(plan.grid, plan.suns, obstacles).trace(0, plan.grid.coarse));
  return { plan, values };
}
