import type { Point3 } from '../geometry';
import type { Site } from '../project';
import type { Obstacles } from '../trace';
import { IN_SUN, type Owners, pointYear, type PointYear } from './point-year';

/** The year of a surface: as of a point, with the share of it that is in sun. */
export interface SurfaceYear extends PointYear {
  /** days × steps: share of the points in sun, 0 to 1. */
  share: Float32Array;
}

/**
 * The year of a surface by points spread over it, which all face the same way: in each step the share in sun and, where that
 * is less than half, who takes most of it. Panes, fences and crowns take nothing away, as in the sun in rooms; hours are
 * means over the points.
 * @param points at least one, a little off the surface
 */
export function surfaceYear(
  site: Site,
  points: readonly Point3[],
  normal: Point3,
  obstacles: Obstacles,
  owners: Owners,
  steps = 48,
): SurfaceYear {
  const bare: Obstacles = { ...obstacles, transmission: null };
  const years = points.map((at) => pointYear(site, at, normal, bare, owners, steps));
  const { days } = years[0]!;
  const state = new Int16Array(days * steps);
  const share = new Float32Array(days * steps);
  const takes = new Map<number, number>();
  for (let i = 0; i < state.length; i++) {
    takes.clear();
    let lit = 0;
    for (const year of years) {
      const own = year.state[i]!;
      if (own === IN_SUN) lit++;
      else takes.set(own, (takes.get(own) ?? 0) + 1);
    }
    share[i] = lit / years.length;
    const most = [...takes].reduce((best, one) => (one[1] > best[1] ? one : best), [IN_SUN, 0]);
    state[i] = lit * 2 >= years.length ? IN_SUN : most[0]!;
  }
  const lostHours = new Float64Array(owners.count);
  for (const year of years)
    year.lostHours.forEach((hours, owner) => (lostHours[owner]! += hours / years.length));
  const sunHours = years.reduce((sum, year) => sum + year.sunHours, 0) / years.length;
  return { days, steps, state, sunHours, lostHours, share };
}
