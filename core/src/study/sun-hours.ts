import { InputError, Stopped } from '../errors';
import type { MeshStore } from '../geometry';
import { type Project, requireOption, standingBodies, type Study, type Target } from '../project';
import { assembleScene, refuseTooLarge } from '../scene';
import {
  isOpen,
  type Kernel,
  kernelFor,
  MaskTracer,
  maskWords,
  type Obstacles,
  sceneObstacles,
} from '../trace';
import { cellCount, layGrid, type SensorGrid } from './sensor-grid';
import { type SunSamples, sunSamples } from './sun-samples';

/** Rays that one run may take. */
export const MAX_RAYS = 400_000_000;
/** Sensors that one run may have. */
export const MAX_SENSORS = 200_000;

/** What a sun-hours run is going to do: everything but the tracing. */
export interface SunHoursPlan {
  study: Study;
  optionId: string;
  targets: Target[];
  grid: SensorGrid;
  suns: SunSamples;
  rays: number;
  /** Things to know before reading the result, one sentence each. */
  notes: string[];
}

/** Values at each sensor, in the order of the grid. */
export interface SunHoursValues {
  /** Hours of direct sun in the window. */
  hours: Float32Array;
  /** Longest stretch of sun without a break, hours. */
  longest: Float32Array;
  /** Earliest clock minute with sun on any day of the window, NaN without sun. */
  first: Float32Array;
  /** Latest clock minute with sun on any day of the window, NaN without sun. */
  last: Float32Array;
}

/** Tells about progress and may stop the work. */
export interface RunControl {
  progress?: (doneSensors: number, values: SunHoursValues) => void;
  signal?: { readonly aborted: boolean };
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
 * Plans a sun-hours study of an option: sensors, suns and cost.
 * Throws InputError `option`, `mesh`, `no-target`, `empty-grid`, `too-many-openings`, `too-many-triangles` or
 * `too-many-rays` (which offers the spacing that fits).
 */
export function planSunHours(
  project: Project,
  optionId: string,
  study: Study,
  meshes: MeshStore,
): SunHoursPlan {
  requireOption(project, optionId);
  const targets = project.targets.filter((target) => study.targets.includes(target.id));
  if (targets.length === 0)
    throw new InputError('no-target', `The study “${study.name}” has no target; draw one and choose it.`);
  refuseTooLarge(project, optionId);
  const suns = sunSamples(project.site, study.window, study.stepMinutes);
  const cells = targets.reduce((sum, target) => sum + cellCount(target), 0);
  refuseTooMany(cells, suns.count, targets);
  const scene = assembleScene(project, optionId, meshes);
  const grid = layGrid(
    targets,
    project.site.ground,
    standingBodies(project, optionId),
    scene.pieces.slice(1),
  );
  refuseTooMany(grid.count, suns.count, targets);
  if (grid.count === 0)
    throw new InputError(
      'empty-grid',
      'Nothing of the target is left to measure: a building covers it, or it lies inside the ground or a solid.',
    );
  return {
    study,
    optionId,
    targets,
    grid,
    suns,
    rays: grid.count * suns.count,
    notes: planNotes(suns, targets, grid),
  };
}

function refuseTooMany(cells: number, suns: number, targets: Target[]): void {
  const limit = Math.min(MAX_SENSORS, MAX_RAYS / Math.max(1, suns));
  if (cells <= limit) return;
  const factor = Math.sqrt(cells / limit) * 1.02;
  const coarsest = Math.max(...targets.map((target) => target.spacingM));
  const spacing = (coarsest * factor).toPrecision(2);
  const rays = cells * Math.max(1, suns);
  const tooMany =
    cells > MAX_SENSORS ? `${formatCount(MAX_SENSORS)} points` : `${formatCount(MAX_RAYS)} rays`;
  throw new InputError(
    'too-many-rays',
    `This grid would need ${formatCount(cells)} points × ${formatCount(suns)} sun positions = ${formatCount(rays)} rays; ` +
      `${tooMany} are allowed. A spacing of ${Number(spacing)} m fits, or a smaller target.`,
  );
}

/** A large number for reading: 1.2 million, 3.4 thousand million. */
export function formatCount(n: number): string {
  if (n >= 1e9) return `${(n / 1e9).toFixed(1)} thousand million`;
  if (n >= 1e6) return `${(n / 1e6).toFixed(1)} million`;
  return Math.round(n).toLocaleString('en');
}

function planNotes(suns: SunSamples, targets: Target[], grid: SensorGrid): string[] {
  const notes: string[] = [];
  if (suns.count === 0)
    notes.push(
      'The sun is below the horizon throughout this window of time (polar night, or night hours), so every point has 0 h.',
    );
  else if (suns.sunlessDays > 0)
    notes.push(
      `On ${suns.sunlessDays} of the ${suns.days} days the sun is below the horizon throughout these hours.`,
    );
  targets.forEach((target, t) => {
    const area = grid.builtOverM2[t]!;
    if (area > 0.005) notes.push(`${area.toFixed(1)} m² of “${target.name}” are built over and not counted.`);
    const inside = grid.insideM2[t]!;
    if (inside > 0.005)
      notes.push(
        `${inside.toFixed(1)} m² of “${target.name}” lie inside the ground or a solid and are not counted.`,
      );
  });
  return notes;
}

/** Traces and weighs a stretch of sensors at a time, keeping what threads need between batches. */
export class SunHoursTracer {
  private readonly blocking: MaskTracer;
  private readonly passing: Kernel | null;

  constructor(
    private readonly grid: SensorGrid,
    private readonly suns: SunSamples,
    private readonly obstacles: Obstacles,
  ) {
    this.blocking = new MaskTracer(obstacles, suns.vectors);
    this.passing = obstacles.transmission && kernelFor(obstacles.transmission.tree);
  }

  /** Values of the sensors from `from` up to `to`. */
  trace(from: number, to: number): SunHoursValues {
    const mask = new Uint32Array((to - from) * maskWords(this.suns.count));
    this.blocking.trace(this.grid.positions, this.grid.normals, from, to, mask);
    return weighSunHours(mask, to - from, this.suns, this.shares(mask, from, to));
  }

  /** How much of each open ray gets through panes, fences and crowns; null where there are none. */
  private shares(mask: Uint32Array, from: number, to: number): Float32Array | null {
    const { transmission } = this.obstacles;
    if (!transmission || !this.passing) return null;
    const { count, vectors: v, date } = this.suns;
    const { positions: p } = this.grid;
    const words = maskWords(count);
    // First which rays meet anything at all, in packets; only those are followed through.
    const clear = new Uint32Array((to - from) * words);
    this.passing.trace(this.grid.positions, this.grid.normals, from, to, this.blocking.directions, clear);
    const shares = new Float32Array((to - from) * count).fill(1);
    for (let s = 0; s < to - from; s++) {
      const o = (from + s) * 3;
      for (let d = 0; d < count; d++)
        if (isOpen(mask, words, s, d) && !isOpen(clear, words, s, d))
          shares[s * count + d] = transmission.share(
            p[o]!,
            p[o + 1]!,
            p[o + 2]!,
            v[d * 3]!,
            v[d * 3 + 1]!,
            v[d * 3 + 2]!,
            date[d]!,
          );
    }
    return shares;
  }
}

/**
 * Weighs masks over sun samples with time: nothing is traced. Where `shares` are given (sensors × suns), a sun counts with
 * the share that gets through; stretches, first and last sun are those of suns of which at least half gets through.
 */
export function weighSunHours(
  mask: Uint32Array,
  sensors: number,
  suns: SunSamples,
  shares: Float32Array | null = null,
): SunHoursValues {
  const words = maskWords(suns.count);
  const values = blankValues(sensors);
  for (let s = 0; s < sensors; s++) {
    let total = 0;
    let stretch = 0;
    let longest = 0;
    let previous = -2;
    let first = NaN;
    let last = NaN;
    for (let d = 0; d < suns.count; d++) {
      if (!isOpen(mask, words, s, d)) continue;
      const minutes = suns.minutes[d]!;
      const share = shares ? shares[s * suns.count + d]! : 1;
      total += minutes * share;
      if (share < 0.5) continue;
      stretch = suns.step[d] === previous + 1 ? stretch + minutes : minutes;
      previous = suns.step[d]!;
      if (stretch > longest) longest = stretch;
      const start = suns.clock[d]! - minutes / 2;
      const end = suns.clock[d]! + minutes / 2;
      if (!(first <= start)) first = start;
      if (!(last >= end)) last = end;
    }
    values.hours[s] = total / 60;
    values.longest[s] = longest / 60;
    values.first[s] = first;
    values.last[s] = last;
  }
  return values;
}

/** Values of no sensor yet: all NaN. */
export function blankValues(count: number): SunHoursValues {
  const make = () => new Float32Array(count).fill(NaN);
  return { hours: make(), longest: make(), first: make(), last: make() };
}

/** Copies the values of a stretch of sensors to their place. */
export function placeValues(into: SunHoursValues, from: number, part: SunHoursValues): void {
  into.hours.set(part.hours, from);
  into.longest.set(part.longest, from);
  into.first.set(part.first, from);
  into.last.set(part.last, from);
}

/**
 * Cuts the sensors of a plan into batches of about `raysEach` rays, the coarse picture ending at a cut; it is cut at least
 * into four, so that several threads make the first picture together.
 */
export function batches(plan: SunHoursPlan, raysEach = 1_500_000): { from: number; to: number }[] {
  const each = Math.max(1, Math.floor(raysEach / Math.max(1, plan.suns.count)));
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
export function runSunHours(
  project: Project,
  plan: SunHoursPlan,
  meshes: MeshStore,
  control: RunControl = {},
): SunHoursValues {
  const obstacles = sceneObstacles(assembleScene(project, plan.optionId, meshes));
  const tracer = new SunHoursTracer(plan.grid, plan.suns, obstacles);
  const values = blankValues(plan.grid.count);
  for (const { from, to } of batches(plan)) {
    if (control.signal?.aborted) throw new Stopped();
    placeValues(values, from, tracer.trace(from, to));
    control.progress?.(to, values);
  }
  return values;
}
