import type { DevicePlace } from '../devices';
import type { MeshStore } from '../geometry';
import type { Project } from '../project';
import { assembleScene, type Scene } from '../scene';
import { positionsKey } from '../shade';
import {
  flatTargets,
  glassGains,
  type GlassPlan,
  glassPoints,
  movedByOf,
  pointsFor,
  radiationSamples,
  skyOf,
  type SolarHours,
  solarHours,
  StudyTracer,
  type TowardsSky,
  towardsSkyOf,
} from '../study';
import { sceneLayers } from '../trace';
import type { WeatherYear } from '../weather';
import { openingsYear, openingTargetId } from './openings-year';

/** Points of the panes of a room, and directions of the sky. */
const POINTS = { together: 1024, least: 64, most: 512 };
const SKY_PARTS = 4096;

/**
 * What comes in through windows hour by hour (design: solar gain through a window): each window by points in a
 * low-discrepancy order, the glass without its frame, beam where the sun of the hour is open, sky direction by direction,
 * ground with nothing in its way, all with the g-value of the angle; what moves stands as its rule has it in each hour.
 * Throws InputError `weather`, and what `flatTargets` throws.
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
  const wanted = new Set(places.map(openingTargetId));
  const targets = flatTargets(asked, optionId, study, meshes).filter(({ id }) => wanted.has(id));
  const samples = radiationSamples(project, study, weather, SKY_PARTS);
  const perPane = pointsFor(POINTS, targets.length);
  const points = glassPoints(targets, project.site.ground, scene.pieces.slice(1), perPane);
  const plan: GlassPlan = { ...points, targets, directions: samples };
  const traced = { study, grid: points.grid, targets };
  const tracer = new StudyTracer({ ...traced, directions: samples }, sceneLayers(scene));
  if (scene.moving.length === 0) return solarHours(plan, tracer);
  // Sky light too meets devices as they stand in the hour.
  const sky = skyOf(samples);
  const known = new Map<string, TowardsSky>();
  return solarHours(plan, tracer, (sun) => {
    const by = movedByOf(samples, sun)!;
    const key = positionsKey(scene, by);
    let towards = known.get(key);
    if (!towards) {
      const past = sceneLayers(assembleScene(project, optionId, meshes, by));
      const own = new StudyTracer({ ...traced, directions: sky }, past);
      towards = towardsSkyOf(samples, glassGains({ ...plan, directions: sky }, own));
      known.set(key, towards);
    }
    return towards;
  });
}
