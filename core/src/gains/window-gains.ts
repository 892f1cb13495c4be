import type { DevicePlace } from '../devices';
import type { MeshStore } from '../geometry';
import type { Project } from '../project';
import { assembleScene, type Scene } from '../scene';
import { positionsKey } from '../shade';
import {
  glassGains,
  movedByOf,
  onNodes,
  skyOf,
  planStudy,
  type RadiationSamples,
  type SolarHours,
  solarHours,
  StudyTracer,
} from '../study';
import { sceneLayers } from '../trace';
import type { WeatherYear } from '../weather';
import { openingsYear, openingTargetId } from './openings-year';

/**
 * What comes in through windows hour by hour (design: solar gain through a window): each window by a grid of points, the
 * glass without its frame, beam where the sun of the hour is open, sky direction by direction, ground with nothing in its way, all
 * with the g-value of the angle; what moves stands as its rule has it in each hour. Throws InputError `weather`, and what `planStudy` throws.
 * @param optionOf option that holds the body of the windows; null: a neighbour
 */
export function windowGains(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  places: readonly Pick<DevicePlace, 'owner' | 'face' | 'opening'>[],
  optionOf: string | null,
  weather: WeatherYear | null = null,
  scene: Scene = assembleScene(project, optionId, meshes),
): SolarHours {
  const owners = [...new Set(places.map(({ owner }) => owner.id))];
  // The hours of the window are kept one by one.
  const { asked, study } = openingsYear(project, optionOf, { owners }, { peakHour: true });
  const plan = planStudy(asked, optionId, study, meshes, weather);
  const wanted = new Set(places.map(openingTargetId));
  const tracer = new StudyTracer(plan, sceneLayers(scene));
  const sensors = Array.from({ length: plan.grid.count }, (_, i) => i).filter((i) =>
    wanted.has(plan.targets[plan.grid.target[i]!]!.id),
  );
  if (scene.moving.length === 0) return solarHours(plan, tracer, sensors);
  // Sky light too meets devices as they stand in the hour.
  const samples = plan.directions as RadiationSamples;
  const sky = { ...plan, directions: skyOf(samples) };
  const known = new Map<string, Float64Array>();
  return solarHours(plan, tracer, sensors, (sun) => {
    const by = movedByOf(samples, sun)!;
    const key = positionsKey(scene, by);
    let towards = known.get(key);
    if (!towards) {
      const past = sceneLayers(assembleScene(project, optionId, meshes, by));
      towards = onNodes(glassGains(sky, new StudyTracer(sky, past), sensors).towards);
      known.set(key, towards);
    }
    return towards;
  });
}
