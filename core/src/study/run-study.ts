import { InputError, Stopped } from '../errors';
import type { MeshStore } from '../geometry';
import { type Project, requireOption, standingBodies, type Study } from '../project';
import { assembleScene, refuseTooLarge } from '../scene';
import type { WeatherYear } from '../weather';
import { type MaskStore, sceneLayers } from '../trace';
import { type CellPoints, cellPoints } from './cell-points';
import { type FlatTarget, flatTargets } from './flat-target';
import { cellCount, freeSensors, layGrid, type SensorGrid } from './sensor-grid';
import { StudyTracer } from './study-tracer';
import type { ResultGrid } from './summary';
import { type Directions, isRadiation, measuresOf, STUDY_KINDS, type StudyValues } from './kinds';

/** How studies meet what moves. */
const MOVING_NOTE = {
  suns: 'Each sun meets blinds, awnings and slats that turn as they stand at its moment; sky light meets them at rest: blinds up, awnings in.',
  all: 'Beam, sky and light thrown back meet blinds, awnings and slats that turn as they stand in each hour.',
};

/** Rays that one run may take. */
export const MAX_RAYS = 1_000_000_000;
/** Sensors that one run may have. */
export const MAX_SENSORS = 200_000;

/** What a run is going to do: everything but the tracing. */
export interface StudyPlan {
  study: Study;
  optionId: string;
  targets: FlatTarget[];
  grid: SensorGrid;
  directions: Directions;
  /** Of a kind over glass: the points that its values are means of. */
  points?: CellPoints;
  rays: number;
  /** Things to know before reading the result, one sentence each. */
  notes: string[];
}

/** Tells about progress and may stop the work. */
export interface RunControl {
  progress?: (doneSensors: number, values: StudyValues) => void;
  signal?: { readonly aborted: boolean };
  /** Where masks are kept, so that what was traced before is only weighed. */
  masks?: MaskStore;
}

/** The study with this id or name. Throws InputError `study`, naming those that exist. */
export function requireStudy(project: Project, idOrName: string): Study {
  const study =
    project.studies.find((s) => s.id === idOrName) ?? project.studies.find((s) => s.name === idOrName);
  if (study) return study;
  const known = project.studies.map((s) => `“${s.name}”`).join(', ');
  throw new InputError(
    'study',
    `The study “${idOrName}” does not exist; ${known ? `there ${project.studies.length > 1 ? 'are' : 'is'} ${known}` : 'the project has none'}.`,
  );
}

/**
 * Plans a study of an option: sensors, directions and cost.
 * Throws InputError `option`, `mesh`, `no-target`, `weather`, `empty-grid`, `too-many-openings`, `too-many-triangles` or
 * `too-many-rays` (which offers the spacing that fits).
 */
export function planStudy(
  project: Project,
  optionId: string,
  study: Study,
  meshes: MeshStore,
  weather: WeatherYear | null = null,
): StudyPlan {
  requireOption(project, optionId);
  if (!project.targets.some(({ id }) => study.targets.includes(id)))
    throw new InputError('no-target', `The study “${study.name}” has no target; draw one and choose it.`);
  refuseTooLarge(project, optionId, meshes);
  const targets = flatTargets(project, optionId, study, meshes);
  const kind = STUDY_KINDS[study.kind];
  kind.check?.(targets);
  const directions = kind.directions(project, study, weather);
  const cells = targets.reduce((sum, target) => sum + cellCount(target), 0);
  refuseTooMany(cells, directions.count, targets);
  const scene = assembleScene(project, optionId, meshes);
  const solids = scene.pieces.slice(1);
  const grid = layGrid(
    targets,
    project.site.ground,
    standingBodies(project, optionId),
    // What a device covers of glass stays in the account: nothing reaches it.
    solids.filter((_, i) => !kind.overGlass || scene.owners[i + 1]!.layer !== 'devices'),
  );
  const points = kind.overGlass ? cellPoints(targets, grid, project.site.ground, solids) : null;
  const traced = points?.grid ?? grid;
  if (points) refuseTooManyPoints(traced.count, directions.count, targets.length);
  else refuseTooMany(grid.count, directions.count, targets);
  if (freeSensors(grid) === 0)
    throw new InputError(
      'empty-grid',
      'Nothing of the target is left to measure: a building covers it, or it lies inside the ground or a solid.',
    );
  return {
    study,
    optionId,
    targets,
    grid,
    directions,
    ...(points && { points }),
    rays: traced.count * directions.count,
    notes: [
      ...kind.notes(directions),
      ...gridNotes(targets, grid),
      ...(scene.moving.length > 0 ? [MOVING_NOTE[isRadiation(directions) ? 'all' : 'suns']] : []),
    ],
  };
}

function refuseTooMany(cells: number, directions: number, targets: FlatTarget[]): void {
  const limit = Math.min(MAX_SENSORS, MAX_RAYS / Math.max(1, directions));
  if (cells <= limit) return;
  const factor = Math.sqrt(cells / limit) * 1.02;
  const coarsest = targets.reduce((most, { spacingM }) => Math.max(most, spacingM), 0);
  const spacing = (coarsest * factor).toPrecision(2);
  const rays = cells * Math.max(1, directions);
  const tooMany =
    cells > MAX_SENSORS ? `${formatCount(MAX_SENSORS)} points` : `${formatCount(MAX_RAYS)} rays`;
  throw new InputError(
    'too-many-rays',
    `This grid would need ${formatCount(cells)} points × ${formatCount(directions)} directions = ${formatCount(rays)} rays; ` +
      `${tooMany} are allowed. A spacing of ${Number(spacing)} m fits, or a smaller target.`,
  );
}

/** Points of glass are as many as its windows ask for, whatever the spacing. */
function refuseTooManyPoints(points: number, directions: number, windows: number): void {
  if (points * directions <= MAX_RAYS) return;
  const fit = Math.floor((windows * MAX_RAYS) / (points * directions));
  throw new InputError(
    'too-many-rays',
    `${windows.toLocaleString('en')} windows would need ${formatCount(points)} points × ${formatCount(directions)} directions = ${formatCount(points * directions)} rays; ` +
      `${formatCount(MAX_RAYS)} are allowed. About ${fit.toLocaleString('en')} windows fit: narrow the rule of the target.`,
  );
}

/** A large number for reading: 1.2 million, 3.4 thousand million. */
export function formatCount(n: number): string {
  if (n >= 1e9) return `${(n / 1e9).toFixed(1)} thousand million`;
  if (n >= 1e6) return `${(n / 1e6).toFixed(1)} million`;
  return Math.round(n).toLocaleString('en');
}

/** What is not counted, a sentence for each place of a few, one for all of many. */
function gridNotes(targets: FlatTarget[], grid: SensorGrid): string[] {
  const told = (areas: Float64Array | readonly number[], why: string): string[] => {
    const byName = new Map<string, number>();
    targets.forEach(({ name }, t) => {
      if (areas[t]! > 0.005) byName.set(name, (byName.get(name) ?? 0) + areas[t]!);
    });
    const names = [...byName];
    if (names.length <= FEW_NAMES)
      return names.map(([name, area]) => `${area.toFixed(1)} m² of “${name}” ${why} and are not counted.`);
    const all = names.reduce((sum, [, area]) => sum + area, 0);
    const largest = names.sort((a, b) => b[1] - a[1]).slice(0, FEW_NAMES);
    const most = largest.map(([name, area]) => `“${name}” ${area.toFixed(1)} m²`).join(', ');
    return [
      `${all.toFixed(1)} m² of ${names.length} places ${why} and are not counted: ${most} and ${names.length - FEW_NAMES} more.`,
    ];
  };
  return [
    ...told(grid.builtOverM2, 'are built over'),
    ...told(grid.insideM2, 'lie inside the ground or a solid'),
  ];
}

/** Places that are told one by one. */
const FEW_NAMES = 3;

/** Values of a study at no sensor yet: all NaN. */
export function blankValues(study: Study, count: number): StudyValues {
  return Object.fromEntries(measuresOf(study).map(({ key }) => [key, new Float32Array(count).fill(NaN)]));
}

/**
 * The values that an earlier run of the very same plan has found before it was left off, to go on from; null where they are
 * of another one.
 */
export function valuesSoFar({ study, grid }: StudyPlan, earlier: EarlierRun): StudyValues | null {
  const blank = blankValues(study, grid.count);
  const isSame =
    earlier.grid.count === grid.count &&
    sameNumbers(earlier.grid.positions, grid.positions) &&
    sameNumbers(earlier.grid.normals, grid.normals) &&
    sameNumbers(earlier.grid.covered, grid.covered) &&
    Object.keys(blank).every((key) => earlier.values[key]?.length === grid.count);
  return isSame ? Object.fromEntries(Object.keys(blank).map((key) => [key, earlier.values[key]!])) : null;
}

/** What of a run is needed to go on from it. */
export interface EarlierRun {
  grid: Pick<ResultGrid, 'count' | 'positions' | 'normals' | 'covered'>;
  values: StudyValues;
}

/** Whether all sensors of a stretch that are measured have their values. */
export function isFound(
  { study, grid }: StudyPlan,
  values: StudyValues,
  { from, to }: { from: number; to: number },
): boolean {
  const main = values[measuresOf(study)[0]!.key]!;
  for (let s = from; s < to; s++) if (!grid.covered[s] && Number.isNaN(main[s]!)) return false;
  return true;
}

function sameNumbers(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

/** Copies the values of a stretch of sensors to their place. */
export function placeValues(into: StudyValues, from: number, part: StudyValues): void {
  for (const [key, values] of Object.entries(part)) into[key]!.set(values, from);
}

/**
 * Cuts the sensors of a plan into batches of about `raysEach` rays, the coarse picture ending at a cut; it is cut at least
 * into four, so that several threads make the first picture together.
 */
export function batches(plan: StudyPlan, raysEach = 4_000_000): { from: number; to: number }[] {
  const each = Math.max(1, Math.floor((raysEach * plan.grid.count) / Math.max(1, plan.rays)));
  const cuts: { from: number; to: number }[] = [];
  const ends = [plan.grid.coarse, plan.grid.medium, plan.grid.count];
  let from = 0;
  for (const end of ends) {
    while (from < end) {
      const most = end === plan.grid.coarse ? Math.min(each, Math.ceil(end / 4)) : each;
      const to = Math.min(end, from + most);
      cuts.push({ from, to });
      from = to;
    }
  }
  return cuts;
}

/**
 * Runs a plan on this thread, stretch by stretch. Throws Stopped when the signal is raised between two batches.
 */
export function runStudy(
  project: Project,
  plan: StudyPlan,
  meshes: MeshStore,
  control: RunControl = {},
): StudyValues {
  const tracer = new StudyTracer(
    plan,
    sceneLayers(assembleScene(project, plan.optionId, meshes)),
    control.masks,
  );
  const values = blankValues(plan.study, plan.grid.count);
  for (const { from, to } of batches(plan)) {
    if (control.signal?.aborted) throw new Stopped();
    placeValues(values, from, tracer.trace(from, to));
    control.progress?.(to, values);
  }
  return values;
}
