import { contentHash } from '../content-hash';
import { surroundingsOf } from '../light';
import { quickHashOf } from '../quick-hash';
import {
  type DirectionSet,
  directionSetOf,
  isOpen,
  type Kernel,
  KeptLayer,
  type KeptShares,
  kernelFor,
  type LayeredObstacles,
  type MaskOf,
  maskWords,
  type MaskStore,
  type ShareRow,
  TRACING_VERSION,
} from '../trace';
import {
  type Directions,
  type MoreOpen,
  type OpenDirections,
  STUDY_KINDS,
  isRadiation,
  type RadiationSamples,
  type StudyValues,
  type WeighAsks,
  type WeighedAt,
} from './kinds';
import { hangingStates, hungObstacles, hungTargets } from './hanging-states';
import type { LightDirections } from './light-directions';
import { meanOfPoints, pointRange } from './cell-points';
import { movedShares } from './moved-shares';
import { MovingTracer } from './moving-tracer';
import { openTogether } from './open-together';
import { hoursOf, lightByMonth, lightByMonthAndHour, ReflectedLight } from './reflected-light';
import type { StudyPlan } from './run-study';
import { FREE, gridOf, type SensorGrid } from './sensor-grid';

/** What of a plan is traced. */
type TracedPlan = Pick<StudyPlan, 'study' | 'targets' | 'grid' | 'directions'> & {
  points?: StudyPlan['points'] | undefined;
};

/** The sensors that rays leave from: those of its grid, or the points that these are means of. */
const tracedGrid = ({ grid, points }: Pick<TracedPlan, 'grid' | 'points'>): SensorGrid =>
  points?.grid ?? grid;

/** Traces and weighs a stretch of sensors at a time, keeping what threads need between batches. */
export class StudyTracer {
  private readonly directions: DirectionSet;
  private readonly layers: KeptLayer[];
  private readonly at: WeighedAt;
  private readonly grid: SensorGrid;
  private readonly passing: Kernel | null;
  private readonly keptShares: KeptShares | null;
  private readonly moving: MovingTracer | null;
  private light: ReflectedLight | null = null;
  private hung: StudyTracer[] | null = null;
  /** Rays to its directions that were traced, and not known from before, on all layers together. */
  traced = 0;

  /** @param masks where masks are kept; nowhere when left out */
  constructor(
    private readonly plan: TracedPlan,
    private readonly obstacles: LayeredObstacles,
    private readonly masks: MaskStore | null = null,
  ) {
    const { directions } = plan;
    const grid = tracedGrid(plan);
    this.grid = grid;
    this.directions = directionSetOf(directions.vectors);
    const keys = masks && maskKeys(plan, obstacles);
    this.layers = obstacles.layers.map((layer, i) => {
      const of = keys && keys.layers[i]!;
      const kept = of && masks!.mask(of, grid.count);
      const others = of ? masks!.otherMasks(of) : [];
      return new KeptLayer(layer, directions.vectors, this.directions, kept, others);
    });
    this.keptShares = keys && obstacles.transmission ? masks!.shares(keys.shares) : null;
    if (this.keptShares && this.keptShares.length === 0)
      movedShares(directions.vectors, masks!.otherShares(keys!.shares), this.keptShares);
    this.at = { ...grid, targets: plan.targets };
    this.passing = obstacles.transmission && kernelFor(obstacles.transmission.tree);
    this.moving = obstacles.moving.length > 0 ? new MovingTracer(obstacles.moving, directions) : null;
  }

  /** Values of the sensors from `from` up to `to`. */
  trace(from: number, to: number): StudyValues {
    const { study, grid, directions, points } = this.plan;
    const kind = STUDY_KINDS[study.kind];
    if (this.isHung()) return this.traceHung(from, to);
    if (points) {
      const range = pointRange(points, from, to);
      const open = this.open(range.from, range.to);
      const values = kind.weigh(open, directions, this.at, this.asks(range.from, range.to));
      const means = meanOfPoints(values, points, from, to, kind.measures[0].key);
      return blankCovered(means, grid.covered, from);
    }
    const open = this.open(from, to);
    const values = kind.weigh(open, directions, this.at, {
      ...this.asks(from, to),
      more: (sensors, more) => this.traceMore(sensors, more, from),
    });
    return blankCovered(values, grid.covered, from);
  }

  /** Whether hours differ by what hangs in them. */
  private isHung(): boolean {
    const { directions, targets } = this.plan;
    return (
      isRadiation(directions) &&
      (this.obstacles.moving.length > 0 || targets.some(({ glass }) => glass?.inside !== undefined))
    );
  }

  /** The sums over all ways in which what moves hangs, each over its own hours past what hangs then. */
  private traceHung(from: number, to: number): StudyValues {
    const { obstacles, plan, masks } = this;
    this.hung ??= hangingStates(obstacles.moving, plan.directions as RadiationSamples).map(
      ({ samples, by }) =>
        new StudyTracer(
          { ...plan, directions: samples, targets: hungTargets(plan.targets, by) },
          hungObstacles(obstacles, by),
          masks,
        ),
    );
    const before = this.hung.reduce((sum, { traced }) => sum + traced, 0);
    const values = this.hung.map((tracer) => tracer.trace(from, to)).reduce(together);
    this.traced += this.hung.reduce((sum, { traced }) => sum + traced, 0) - before;
    return values;
  }

  /** What is asked of light that is thrown back: nothing of samples that hold the ground for open. */
  private asks(from: number, to: number): WeighAsks {
    const { directions, study } = this.plan;
    if (!isRadiation(directions) || directions.isOpenGround) return {};
    const light = (this.light ??= new ReflectedLight(
      surroundingsOf([this.obstacles]),
      directions,
      (grid, towards) => this.traceLight(grid, towards),
      study.kind === 'solar-gain' ? lightByMonthAndHour(directions) : lightByMonth(directions),
      study.peakHour === true,
    ));
    const { grid } = this;
    return {
      thrownBack: (asked) => light.onto(grid, from, to, asked),
      thrownBackHourly: (sensor, asked) => hoursOf(directions, light.towardsOf(grid, from + sensor, asked)),
    };
  }

  /** Traces places that throw light back, past all obstacles. */
  private traceLight(grid: SensorGrid, directions: LightDirections): OpenDirections {
    const plan = { ...this.plan, grid, directions, points: undefined };
    const tracer = new StudyTracer(plan, this.obstacles, this.masks);
    return tracer.open(0, grid.count);
  }

  /** Traces some sensors of a stretch to more directions; what is covered is left out. */
  private traceMore(wanted: readonly number[], directions: Directions, from: number): MoreOpen {
    const sensors = wanted.filter((s) => this.plan.grid.covered[from + s] === FREE);
    const grid = gridOf(
      this.plan.grid,
      sensors.map((s) => from + s),
    );
    const tracer = new StudyTracer({ ...this.plan, grid, directions }, this.obstacles, this.masks);
    const open = tracer.open(0, sensors.length);
    this.traced += tracer.traced;
    return { sensors, open, at: { ...this.at, ...grid } };
  }

  /** Which directions of the sensors (or points) from `from` up to `to` are open, and how far. */
  open(from: number, to: number): OpenDirections {
    const { grid } = this;
    const { directions } = this.plan;
    const mask = new Uint32Array((to - from) * maskWords(directions.count));
    this.layers.forEach((layer, i) => {
      const { mask: part, traced } = layer.mask(grid, from, to);
      this.traced += traced;
      if (i === 0) mask.set(part);
      else for (let w = 0; w < mask.length; w++) mask[w]! &= part[w]!;
    });
    const fixed = { sensors: to - from, from, mask, shares: this.shares(mask, from, to) };
    if (!this.moving) return fixed;
    this.traced += (to - from) * directions.count;
    return openTogether(fixed, this.moving.open(grid, from, to), directions.count);
  }

  /** Which open rays meet panes, fences and crowns, and what gets through on their day; null where there are none. */
  private shares(mask: Uint32Array, from: number, to: number): OpenDirections['shares'] {
    const { transmission } = this.obstacles;
    if (!transmission) return null;
    const { date } = this.plan.directions;
    const known = this.keptShares;
    let isKnown = known !== null;
    for (let s = from; s < to && isKnown; s++) isKnown = known![s] !== undefined;
    const rows = isKnown ? known!.slice(from, to) : this.followed(mask, from, to);
    return rows.map((row) => {
      const { direction, fixed, ends, crowns } = row!;
      const share = fixed.slice();
      for (let k = 0, c = 0; k < direction.length; k++)
        for (; c < ends[k]!; c++) share[k]! *= transmission.crownShare(crowns[c]!, date[direction[k]!]!);
      return { direction, share };
    });
  }

  /** Follows open rays through what lets light pass, and keeps what they meet where it is to be kept. */
  private followed(mask: Uint32Array, from: number, to: number): ShareRow[] {
    const { count, vectors: v } = this.plan.directions;
    const { positions: p, normals } = this.grid;
    const transmission = this.obstacles.transmission!;
    const words = maskWords(count);
    // First which rays meet anything at all, in packets; only those are followed through.
    const clear = new Uint32Array((to - from) * words);
    this.passing!.trace(p, normals, from, to, this.directions, clear);
    this.traced += (to - from) * count;
    return Array.from({ length: to - from }, (_, s) => {
      const o = (from + s) * 3;
      const [direction, fixed, ends, crowns]: number[][] = [[], [], [], []];
      for (let d = 0; d < count; d++) {
        if (!isOpen(mask, words, s, d) || isOpen(clear, words, s, d)) continue;
        const share = transmission.follow(
          p[o]!,
          p[o + 1]!,
          p[o + 2]!,
          v[d * 3]!,
          v[d * 3 + 1]!,
          v[d * 3 + 2]!,
        );
        if (share === 1 && transmission.crownCount === 0) continue;
        direction!.push(d);
        fixed!.push(share);
        for (let c = 0; c < transmission.crownCount; c++) crowns!.push(transmission.crowns[c]!);
        ends!.push(crowns!.length);
      }
      const row: ShareRow = {
        direction: Uint32Array.from(direction!),
        fixed: Float32Array.from(fixed!),
        ends: Uint32Array.from(ends!),
        crowns: Uint32Array.from(crowns!),
      };
      if (this.keptShares) this.keptShares[from + s] = row;
      return row;
    });
  }
}

/** What masks of a plan are of. */
export interface MaskKeys {
  layers: MaskOf[];
  /** Of what open rays meet of panes, fences and crowns. */
  shares: MaskOf;
}

/** The keys of a plan's masks among these obstacles. */
export function maskKeys(
  plan: Pick<TracedPlan, 'grid' | 'directions' | 'points'>,
  { layers, passingKey }: { layers: readonly { key: string }[]; passingKey: string },
): MaskKeys {
  const { vectors } = plan.directions;
  const grid = tracedGrid(plan);
  const sensors = [grid.positions, grid.normals].map(quickHashOf);
  const towards = quickHashOf(vectors);
  const of = (place: string): MaskOf => ({ place, key: contentHash([place, towards]), vectors });
  const places = layers.map(({ key }) => contentHash([TRACING_VERSION, key, ...sensors]));
  return { layers: places.map(of), shares: of(contentHash([passingKey, ...places])) };
}

/** Values over some hours and over others: their sums, and of the strongest hour the stronger one. */
function together(some: StudyValues, others: StudyValues): StudyValues {
  const sums: StudyValues = {};
  for (const [key, values] of Object.entries(some)) {
    const more = others[key]!;
    const { peak } = some;
    const isLater = (s: number) => others.peak![s]! > peak![s]! || Number.isNaN(some.peakAt![s]!);
    if (key === 'peak') sums[key] = values.map((value, s) => Math.max(value, more[s]!));
    else if (key === 'peakAt') sums[key] = values.map((value, s) => (isLater(s) ? more[s]! : value));
    else sums[key] = values.map((value, s) => value + more[s]!);
  }
  return sums;
}

/** Takes the values from sensors of a stretch that are covered in this option. */
function blankCovered(values: StudyValues, covered: Uint8Array, from: number): StudyValues {
  for (const part of Object.values(values))
    for (let s = 0; s < part.length; s++) if (covered[from + s] !== FREE) part[s] = NaN;
  return values;
}
