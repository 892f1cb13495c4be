import type { DevicePlace, MovedBy } from '../devices';
import type { MeshStore } from '../geometry';
import { surroundingsOf } from '../light';
import type { Project } from '../project';
import { assembleScene } from '../scene';
import { positionsKey } from '../shade';
import {
  flatTargets,
  type GlassPlan,
  glassPoints,
  type GlassState,
  glassState,
  leftInside,
  lightByMonth,
  movedByOf,
  type PaneRays,
  pointsFor,
  type PointsWanted,
  radiationSamples,
  type Reaches,
  ReflectedLight,
  skyOf,
  type SolarHours,
  solarHours,
  StudyTracer,
  sunsOf,
} from '../study';
import { sceneLayers } from '../trace';
import type { WeatherYear } from '../weather';
import { openingsYear, openingTargetId } from './openings-year';

/** How finely windows are looked at hour by hour: points of their panes, directions of the sky, rays to what throws light back. */
export interface HourlyPrecision {
  points: PointsWanted;
  parts: number;
  rays: PaneRays;
}

/** For a figure that stands. */
const AT_REST: HourlyPrecision = {
  points: { together: 1024, least: 64, most: 512 },
  parts: 4096,
  rays: { together: 4096, least: 256, most: 1024 },
};

/** Directions of the sky of each of the ways in which what moves hangs. */
const MOVED_PARTS = 1024;

/** What windows are asked about. */
export interface WindowsAsked {
  project: Project;
  optionId: string;
  meshes: MeshStore;
  places: readonly Pick<DevicePlace, 'owner' | 'face' | 'opening'>[];
  /** Option that holds the body of the windows; null: a neighbour. */
  optionOf: string | null;
  weather?: WeatherYear | null;
  /** On the glass, or through it and past what hangs inside. */
  reaches?: Reaches;
  precision?: HourlyPrecision;
}

/**
 * What comes in through windows hour by hour (design: solar gain through a window): each window by points in a
 * low-discrepancy order, the glass without its frame, beam where the sun of the hour is open, sky direction by direction,
 * what is thrown back from where it comes, all with the g-value of the angle. What moves stands as its rule has it in each
 * hour, for beam, sky and what is thrown back alike; sheets inside leave their factor of all three.
 * Throws InputError `weather`, and what `flatTargets` throws.
 */
export function windowGains(asked: WindowsAsked): SolarHours {
  const { project, optionId, meshes, places, optionOf, weather = null } = asked;
  const { reaches = 'inside', precision = AT_REST } = asked;
  const scene = assembleScene(project, optionId, meshes);
  const owners = [...new Set(places.map(({ owner }) => owner.id))];
  // The hours of the window are kept one by one.
  const { asked: measured, study } = openingsYear(project, optionOf, { owners }, { peakHour: true });
  const wanted = new Set(places.map(openingTargetId));
  const targets = flatTargets(measured, optionId, study, meshes).filter(({ id }) => wanted.has(id));
  const samples = radiationSamples(project, study, weather, precision.parts);
  const perPane = pointsFor(precision.points, targets.length);
  const points = glassPoints(targets, project.site.ground, scene.pieces.slice(1), perPane);
  const plan: GlassPlan = { ...points, targets, directions: samples };
  const traced = { study, grid: points.grid, targets };
  const { rays } = precision;
  const sky = skyOf(
    samples,
    scene.moving.length > 0 ? Math.min(MOVED_PARTS, precision.parts) : precision.parts,
  );

  /** The panes past everything as it stands at a moment. */
  const stateAt = (by: MovedBy | null): GlassState => {
    // What moves stands among the rest.
    const still = sceneLayers({ ...(by ? assembleScene(project, optionId, meshes, by) : scene), moving: [] });
    const own = new StudyTracer({ ...traced, directions: sky }, still);
    const light = samples.isOpenGround
      ? null
      : new ReflectedLight(
          surroundingsOf([still]),
          samples,
          (grid, directions) =>
            new StudyTracer({ study, grid, targets, directions }, still).open(0, grid.count),
          lightByMonth(samples),
          true,
        );
    return glassState(plan, {
      reaches,
      factorOf: (target) => leftInside(targets[target]!.glass!, by),
      sky,
      openSky: (from, to) => own.open(from, to),
      light,
      rays,
    });
  };
  const states = new Map<string, GlassState>();
  const stateOf = (sun: number | null): GlassState => {
    const by = sun === null || scene.moving.length === 0 ? null : movedByOf(samples, sun);
    const key = positionsKey(scene, by);
    let state = states.get(key);
    if (!state) states.set(key, (state = stateAt(by)));
    return state;
  };
  const suns = new StudyTracer({ ...traced, directions: sunsOf(samples) }, sceneLayers(scene));
  // Of each pane with a sheet inside, what this leaves at each sun: told once, not point by point.
  const left = targets.map(({ glass }) =>
    glass?.inside
      ? Float64Array.from({ length: samples.suns }, (_, d) => leftInside(glass, movedByOf(samples, d)))
      : null,
  );
  const factorAt = left.some((own) => own) ? (target: number, sun: number) => left[target]?.[sun] ?? 1 : null;
  return solarHours(plan, suns, reaches, stateOf, factorAt);
}
