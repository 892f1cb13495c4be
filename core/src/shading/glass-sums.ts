import {
  angularG,
  BitSumsOfSets,
  interleaved,
  offOpenGround,
  type OpenDirections,
  openGroundThrough,
  partsError,
  POINT_PARTS,
} from '../study';
import { maskWords } from '../trace';
import { cosinesBefore } from './glass-sky';
import type { GlassYear } from './glass-year';

/** Of each sun or each part of the sky, in their order: what it has on a plane that faces it. */
export interface SumSet {
  of: 'suns' | 'sky';
  weight: ArrayLike<number>;
  /** The first that has a weight and the one after the last; all when left out. */
  range?: { from: number; to: number };
  /** `glass`: on the glass; `inside`: what of it comes in; `time`: whenever it stands before the glass, at whatever angle. */
  reaches: 'glass' | 'inside' | 'time';
}

/** What reaches glass, by set, and what each eighth of the points adds to it. */
export class SampledSums {
  readonly value: Float64Array;

  /** @param parts sets × eighths */
  constructor(readonly parts: Float64Array) {
    this.value = new Float64Array(parts.length / POINT_PARTS);
    for (let i = 0; i < parts.length; i++) this.value[Math.floor(i / POINT_PARTS)]! += parts[i]!;
  }

  /** What a set may be off by (±). */
  error(set: number): number {
    return partsError(this.parts, set * POINT_PARTS);
  }

  /** What the sum of some sets, and of what else each eighth adds, may be off by. */
  errorOf(sets: readonly number[], more: Float64Array = new Float64Array(POINT_PARTS)): number {
    const parts = more.slice();
    for (const set of sets)
      for (let b = 0; b < POINT_PARTS; b++) parts[b]! += this.parts[set * POINT_PARTS + b]!;
    return partsError(parts);
  }
}

/** Sets over the same directions, summed side by side: their numbers, and the stretch of directions. */
interface Stretch {
  sets: number[];
  from: number;
  to: number;
}

/**
 * Sums over the glass of some windows for some sets of weights, by tables that are made once: metres² of glass × what
 * reaches them, or `time`: mean over the glass.
 */
export class GlassSums {
  private readonly groups: {
    sensors: number[];
    /** One table a stretch. */
    tables: BitSumsOfSets[];
    /** What every direction adds, the sets of a direction side by side. */
    weights: Float64Array;
    whole: number[];
  }[];
  private readonly stretches: Stretch[];

  constructor(
    private readonly year: GlassYear,
    private readonly sets: readonly SumSet[],
  ) {
    const { samples } = year.sky;
    const { count, suns } = samples;
    const stretches = new Map<string, Stretch>();
    sets.forEach(({ of, range }, k) => {
      const first = of === 'suns' ? 0 : suns;
      const from = first + (range?.from ?? 0);
      const to = range ? first + range.to : of === 'suns' ? suns : count;
      const stretch = stretches.get(`${from}-${to}`) ?? { sets: [], from, to };
      stretch.sets.push(k);
      stretches.set(`${from}-${to}`, stretch);
    });
    this.stretches = [...stretches.values()].filter(({ from, to }) => to > from);
    const length = maskWords(count) * 32;
    this.groups = year.groups.map(({ sensors, normal, glass }) => {
      const cosines = cosinesBefore(samples, normal);
      const g = glass.gValue * (1 - glass.frameShare);
      const inside = cosines.map((cosine) => (cosine > 0 ? cosine * g * angularG(cosine, glass) : 0));
      const time = cosines.map((cosine) => Number(cosine > 0));
      const by = { glass: cosines, inside, time };
      const weights = sets.map(({ of, weight, reaches }) => {
        const into = new Float64Array(length);
        const first = of === 'suns' ? 0 : suns;
        for (let i = 0; i < weight.length; i++) into[first + i] = weight[i]! * by[reaches][first + i]!;
        return into;
      });
      return {
        sensors,
        tables: this.stretches.map(
          ({ sets: own, from, to }) =>
            new BitSumsOfSets(
              own.map((k) => weights[k]!),
              from,
              to,
            ),
        ),
        weights: interleaved(weights),
        whole: weights.map((one) => one.reduce((sum, value) => sum + value, 0)),
      };
    });
  }

  /** Of each set, what reaches the glass. */
  of(open: OpenDirections): SampledSums {
    const result = new Float64Array(this.sets.length * POINT_PARTS);
    const { part } = this.year;
    this.add(open, (s, k, value) => (result[k * POINT_PARTS + part[s]!]! += value));
    return new SampledSums(this.scaled(result, POINT_PARTS, this.year.areaM2));
  }

  /** The same pane by pane. */
  ofEach(open: OpenDirections): SampledSums[] {
    const { part, grid, targets } = this.year;
    const results = targets.map(() => new Float64Array(this.sets.length * POINT_PARTS));
    const areas = new Float64Array(targets.length);
    grid.areas.forEach((area, s) => (areas[grid.target[s]!]! += area));
    this.add(open, (s, k, value) => (results[grid.target[s]!]![k * POINT_PARTS + part[s]!]! += value));
    return results.map((result, t) => new SampledSums(this.scaled(result, POINT_PARTS, areas[t]!)));
  }

  /** Tells what each point adds to each set. */
  private add(open: OpenDirections, tell: (point: number, set: number, value: number) => void): void {
    const { areas } = this.year.grid;
    const words = maskWords(this.year.sky.samples.count);
    const sums = this.sets.map(() => new Float64Array(open.sensors));
    for (const { sensors, tables, weights } of this.groups) {
      this.stretches.forEach(({ sets }, i) =>
        tables[i]!.sums(
          open.mask,
          words,
          sensors,
          sets.map((k) => sums[k]!),
        ),
      );
      const held = new Float64Array(this.sets.length);
      for (const s of sensors) {
        held.fill(0);
        const row = open.shares?.[s];
        for (let i = 0; row && i < row.direction.length; i++) {
          const [first, part] = [row.direction[i]! * held.length, 1 - row.share[i]!];
          for (let k = 0; k < held.length; k++) held[k]! += weights[first + k]! * part;
        }
        for (let k = 0; k < held.length; k++) tell(s, k, (sums[k]![s]! - held[k]!) * areas[s]!);
      }
    }
  }

  /** Of each set, what would reach the glass with nothing before it. */
  get whole(): Float64Array {
    const { areas } = this.year.grid;
    const result = new Float64Array(this.sets.length);
    for (const { sensors, whole } of this.groups)
      for (const s of sensors) whole.forEach((value, k) => (result[k]! += value * areas[s]!));
    return this.scaled(result, 1, this.year.areaM2);
  }

  private scaled(sums: Float64Array, each: number, areaM2: number): Float64Array {
    return sums.map((sum, i) => (this.sets[Math.floor(i / each)]!.reaches === 'time' ? sum / areaM2 : sum));
  }
}

/**
 * What open ground throws back onto glass and through it, of W/m² on a plane that faces the ground, m².
 * @param pane of one pane alone; of all when left out
 */
export function groundSeen(
  { groups, grid }: GlassYear,
  pane: number | null = null,
): { glass: number; inside: number } {
  let [onGlass, inside] = [0, 0];
  for (const { sensors, glass } of groups)
    for (const s of sensors) {
      if (pane !== null && grid.target[s] !== pane) continue;
      onGlass += offOpenGround(grid, s) * grid.areas[s]!;
      inside += openGroundThrough(grid, s, glass) * grid.areas[s]!;
    }
  return { glass: onGlass, inside };
}
