import type { DevicePlace } from '../devices';
import type { MeshStore } from '../geometry';
import { type Project, type Study, TODAY } from '../project';
import { assembleScene, type Scene } from '../scene';
import { planStudy, type SolarHours, solarHours, StudyTracer } from '../study';
import { sceneLayers } from '../trace';
import type { WeatherYear } from '../weather';

/** The target that the windows are. */
const TARGET = 'gains';
/** Grid over the glass, metres. */
const SPACING_M = 0.25;

/**
 * What comes in through windows hour by hour (design: solar gain through a window): each window by a grid of points, the
 * glass without its frame, beam where the sun of the hour is open, sky patch by patch, ground with nothing in its way, all
 * with the g-value of the angle. Throws InputError `weather`, and what `planStudy` throws.
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
  const { year } = project.site;
  const owners = [...new Set(places.map(({ owner }) => owner.id))];
  const target = {
    id: TARGET,
    name: 'Windows',
    kind: 'openings' as const,
    among:
      optionOf === null
        ? ('neighbours' as const)
        : optionOf === TODAY
          ? ('today' as const)
          : ('option' as const),
    scope: { owners, sectors: null, storeys: null, walls: null, except: [] },
    withinM: null,
    facing: false,
    at: 'grid' as const,
    spacingM: SPACING_M,
    offsetM: 0.01,
  };
  const study: Study = {
    id: TARGET,
    name: 'Solar gain',
    kind: 'solar-gain',
    targets: [TARGET],
    window: { from: `${year}-01-01`, to: `${year}-12-31`, startMinutes: 0, endMinutes: 1440 },
    stepMinutes: 60,
    criterion: { atLeast: 0, share: 0, source: '' },
    scale: null,
    peakHour: true,
  };
  const plan = planStudy({ ...project, targets: [target] }, optionId, study, meshes, weather);
  const wanted = new Set(
    places.map(({ owner, face, opening }) =>
      [TARGET, owner.id, face.key.replaceAll('/', '-'), opening.id].join('.'),
    ),
  );
  const tracer = new StudyTracer(plan, sceneLayers(scene));
  const sensors = Array.from({ length: plan.grid.count }, (_, i) => i).filter((i) =>
    wanted.has(plan.targets[plan.grid.target[i]!]!.id),
  );
  return solarHours(plan, tracer, sensors);
}
