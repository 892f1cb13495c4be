import { RaysBack, type Surroundings } from '../light';
import { GROUND } from '../scene';
import { maskWords } from '../trace';
import type { OpenDirections } from './kinds/kind';
import { openSums } from './kinds/open-sums';
import { HOURS, MONTHS, type RadiationSamples } from './kinds/radiation-samples';
import { type LightDirections, lightDirections } from './light-directions';
import { fanAbout } from './light-fans';
import { blankPoints, FREE, type SensorGrid } from './sensor-grid';

/** How rays go out from sensors to what throws light back. */
export interface RaysAsked {
  /** Of each sensor. */
  rays: number;
  /** Of how many together sensors take theirs in turn, so that neighbours look other ways; the same of all when left out. */
  inTurn?: number;
  /** Whose turn it is: the number of a point in its pane, as its grid has it, when left out. */
  turnOf?: (sensor: number) => number;
  /** What comes in of light at a cosine; all of it when left out. The same for sensors that have the same `also`. */
  passes?: (sensor: number, cosine: number) => number;
  also?: (sensor: number) => string;
}

/** Of each point of glass: points of a pane look sixteen ways in turn. */
export const GLASS_RAYS = { rays: 16, inTurn: 256 };

/** Ways of facing of cells by which sums are kept: walls, and the faces of a device with its slats, have few more. */
const FACINGS = 32;

/** What is thrown back onto each sensor of a stretch, by set: Wh/m², of what comes in where that is asked for. */
export interface ThrownBack {
  ground: Float64Array[];
  /** Off facades, roofs, devices, trees. */
  standing: Float64Array[];
}

/** The cells that a sensor sees: what a W/m² that each throws back all ways brings onto it, and what of that comes in, W/m². */
export interface CellsSeen {
  cell: number[];
  onto: number[];
  inside: number[];
}

/** Light that is summed: of each sun, and of each direction of the sky of `lightDirections`, Wh/m² on a plane that faces it. */
export interface LightSet {
  suns: Float64Array;
  sky: Float64Array;
  /** First sun that has any, and the one after the last. */
  from: number;
  to: number;
}

/** Traces places to some directions. */
export type PlaceTracer = (grid: SensorGrid, directions: LightDirections) => OpenDirections;

/**
 * Light that the ground and what stands about throw back, once: rays from a sensor meet cells, and each brings what the sun
 * and the sky give there × its reflectance. What cells get is worked out once, whatever sees them.
 */
export class ReflectedLight {
  private readonly rays: RaysBack;
  private readonly directions: LightDirections;
  /** Sets × cells: Wh/m² that fall on each. */
  private readonly light: number[] = [];
  /** By stretches of cells, what is open over them; kept where directions are asked about. */
  private readonly open: { from: number; open: OpenDirections }[] = [];
  private lit = 0;

  /**
   * @param sets what is summed
   * @param keepsOpen whether `addTowards` is asked
   */
  constructor(
    around: Surroundings,
    private readonly samples: RadiationSamples,
    private readonly tracer: PlaceTracer,
    private readonly sets: readonly LightSet[],
    private readonly keepsOpen: boolean,
  ) {
    this.rays = new RaysBack(around);
    this.directions = lightDirections(samples);
  }

  /** What is thrown back onto the sensors from `from` up to `to`; nothing on those that are covered. */
  onto(grid: SensorGrid, from: number, to: number, asked: RaysAsked): ThrownBack {
    const make = () => this.sets.map(() => new Float64Array(to - from));
    const found: ThrownBack = { ground: make(), standing: make() };
    const sensors = Array.from({ length: to - from }, (_, i) => from + i);
    this.seenFrom(grid, sensors, asked).forEach(({ cell, inside }, s) => {
      cell.forEach((c, i) => {
        const into = this.isGround(c) ? found.ground : found.standing;
        into.forEach((one, k) => (one[s]! += inside[i]! * this.backOf(c, k)));
      });
    });
    return found;
  }

  /** What a cell throws back of a set, as if it shone all ways alike, Wh/m². */
  backOf(cell: number, set: number): number {
    return this.reflectanceOf(cell) * this.light[cell * this.sets.length + set]!;
  }

  /** What it throws back of all sets. */
  yearOf(cell: number): number {
    return this.sets.reduce((sum, _, k) => sum + this.backOf(cell, k), 0);
  }

  private isGround(cell: number): boolean {
    return this.rays.cells.reflects[cell] === GROUND;
  }

  private reflectanceOf(cell: number): number {
    return this.samples.reflectances[this.rays.cells.reflects[cell]!]!;
  }

  /** The cells that each of some sensors sees, all of them lit; those that are covered see none. */
  seenFrom(grid: SensorGrid, sensors: readonly number[], asked: RaysAsked): CellsSeen[] {
    const seen = sensors.map((): CellsSeen => ({ cell: [], onto: [], inside: [] }));
    const { rays, inTurn = rays, turnOf = (sensor: number) => grid.cells[sensor * 2]!, passes, also } = asked;
    const turns = inTurn / rays;
    const { normals: n, positions: p } = grid;
    const groups = new Map<string, number[]>();
    sensors.forEach((s, i) => {
      if (grid.covered[s] !== FREE) return;
      const turn = turnOf(s) % turns;
      const key = `${n[s * 3]} ${n[s * 3 + 1]} ${n[s * 3 + 2]} ${turn} ${also ? also(s) : ''}`;
      const group = groups.get(key);
      if (group) group.push(i);
      else groups.set(key, [i]);
    });
    for (const group of groups.values()) {
      const first = sensors[group[0]!]!;
      const normal = [n[first * 3]!, n[first * 3 + 1]!, n[first * 3 + 2]!] as const;
      const { directions, cosines, each } = fanAbout(normal, rays, inTurn, turnOf(first) % turns);
      const comesIn = cosines.map((cosine) => (passes ? passes(first, cosine) : 1));
      const places = new Float64Array(group.length * 3);
      group.forEach((i, k) => places.set(p.subarray(sensors[i]! * 3, sensors[i]! * 3 + 3), k * 3));
      this.rays.from(places, directions).forEach(({ cell, ray, left }, i) => {
        const onto = left.map((part, k) => part * each[ray[k]!]!);
        seen[group[i]!] = { cell, onto, inside: onto.map((part, k) => part * comesIn[ray[k]!]!) };
      });
    }
    this.lightCells();
    return seen;
  }

  /**
   * Adds what a W/m² on a plane that faces each direction of `lightDirections` brings by way of a cell, W/m².
   * @param weight of what the cell throws back
   */
  addTowards(cell: number, weight: number, into: Float64Array): void {
    const { normals } = this.rays.cells;
    const { vectors: v, count } = this.directions;
    const words = maskWords(count);
    const { from, open } = this.openOf(cell);
    const row = cell - from;
    const [nx, ny, nz] = [normals[cell * 3]!, normals[cell * 3 + 1]!, normals[cell * 3 + 2]!];
    const all = weight * this.reflectanceOf(cell);
    const cosineOf = (d: number) => nx * v[d * 3]! + ny * v[d * 3 + 1]! + nz * v[d * 3 + 2]!;
    for (let k = 0; k < words; k++) {
      let bits = open.mask[row * words + k]! | 0;
      while (bits !== 0) {
        const low = bits & -bits;
        const d = k * 32 + 31 - Math.clz32(low);
        into[d]! += all * cosineOf(d);
        bits ^= low;
      }
    }
    const held = open.shares?.[row];
    held?.direction.forEach((d, i) => (into[d]! -= all * cosineOf(d) * (1 - held.share[i]!)));
  }

  /** The same of all cells that a sensor sees, of what comes in. */
  towardsOf(grid: SensorGrid, sensor: number, asked: RaysAsked): Float64Array {
    const [{ cell, inside }] = this.seenFrom(grid, [sensor], asked) as [CellsSeen];
    const towards = new Float64Array(this.directions.count);
    const of = new Map<number, number>();
    cell.forEach((c, i) => of.set(c, (of.get(c) ?? 0) + inside[i]!));
    for (const [c, weight] of of) this.addTowards(c, weight, towards);
    return towards;
  }

  private openOf(cell: number): { from: number; open: OpenDirections } {
    let [low, high] = [0, this.open.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.open[middle]!.from <= cell) low = middle;
      else high = middle - 1;
    }
    return this.open[low]!;
  }

  /** Works out what falls on cells that were met since. */
  private lightCells(): void {
    const { cells } = this.rays;
    const count = cells.count - this.lit;
    if (count === 0) return;
    const grid = blankPoints(count, 1);
    grid.positions.set(cells.positions.slice(this.lit * 3));
    grid.normals.set(cells.normals.slice(this.lit * 3));
    const { directions, sets } = this;
    const open = this.tracer(grid, directions);
    if (this.keepsOpen) this.open.push({ from: this.lit, open });
    const sums = this.sumsOf(open, grid);
    for (let c = 0; c < count; c++)
      sets.forEach((_, k) => this.light.push(sums[k]![c]! + sums[sets.length + k]![c]!));
    this.lit = cells.count;
  }

  /** Of suns, set by set; then of the sky. */
  private sumsOf(open: OpenDirections, grid: SensorGrid): Float64Array[] {
    const { vectors: v } = this.samples;
    const { sets, directions: light } = this;
    const suns = sets.map(({ from, to }) => {
      const own = light.sunOf.subarray(from, to);
      return own.reduce((range, d) => ({ from: Math.min(range.from, d), to: Math.max(range.to, d + 1) }), {
        from: to > from ? light.suns : 0,
        to: 0,
      });
    });
    const sky = { from: light.suns, to: light.count };
    return openSums(
      open,
      light.count,
      grid,
      [...suns, ...sets.map(() => sky)],
      (cell, into) => {
        const n = grid.normals.subarray(cell * 3, cell * 3 + 3);
        const [nx, ny, nz] = [n[0]!, n[1]!, n[2]!];
        const before = (of: Float64Array, d: number) =>
          Math.max(0, nx * of[d * 3]! + ny * of[d * 3 + 1]! + nz * of[d * 3 + 2]!);
        const cosines = new Float64Array(light.sunOf.length);
        for (let d = 0; d < cosines.length; d++) cosines[d] = before(v, d);
        sets.forEach(({ suns: energy, from, to, sky: radiance }, k) => {
          const own = into[k]!;
          for (let d = from; d < to; d++) own[light.sunOf[d]!]! += energy[d]! * cosines[d]!;
          const above = into[sets.length + k]!;
          for (let i = 0; i < light.parts; i++)
            above[light.suns + i] = radiance[i]! * before(light.vectors, light.suns + i);
        });
      },
      undefined,
      { of: sets, sums: 'light', facings: FACINGS },
    );
  }
}

const months = new WeakMap<RadiationSamples, LightSet[]>();
const hours = new WeakMap<RadiationSamples, LightSet[]>();

/** The light of each month of some samples; made once. */
export function lightByMonth(samples: RadiationSamples): LightSet[] {
  let sets = months.get(samples);
  if (!sets) {
    const { skyByMonth } = lightDirections(samples);
    months.set(samples, (sets = setsBy(samples, samples.month, skyByMonth, MONTHS)));
  }
  return sets;
}

/** The same, and then that of each hour of the day. */
export function lightByMonthAndHour(samples: RadiationSamples): LightSet[] {
  let sets = hours.get(samples);
  if (!sets) {
    const { skyByHour } = lightDirections(samples);
    sets = [...lightByMonth(samples), ...setsBy(samples, samples.hour, skyByHour, HOURS)];
    hours.set(samples, sets);
  }
  return sets;
}

function setsBy(
  { suns, energy }: RadiationSamples,
  of: Uint8Array,
  sky: Float64Array,
  count: number,
): LightSet[] {
  const parts = sky.length / count;
  return Array.from({ length: count }, (_, k) => {
    const own = Float64Array.from({ length: suns }, (_, d) => (of[d] === k ? energy[d]! : 0));
    const from = own.findIndex((one) => one > 0);
    const to = own.findLastIndex((one) => one > 0) + 1;
    return { suns: own, sky: sky.subarray(k * parts, (k + 1) * parts), from: Math.max(0, from), to };
  });
}

/**
 * What comes by way of cells in each hour of some samples, W/m², of what a W/m² towards each direction of `lightDirections`
 * brings: beam by the suns that stand for those of the hour, the sky of an hour as that of the whole time is spread.
 */
export function hoursOf(samples: RadiationSamples, towards: Float64Array): Float64Array {
  const { sunOf, sunEnds, beam, skyAt, count } = samples.hourly!;
  const light = lightDirections(samples);
  const sky = skyShare(light, towards);
  return Float64Array.from({ length: count }, (_, k) => {
    let sum = 0;
    for (let i = k > 0 ? sunEnds[k - 1]! : 0; i < sunEnds[k]!; i++) sum += towards[light.sunOf[sunOf[i]!]!]!;
    return sum * beam[k]! + sky * samples.skies.diffuse[skyAt[k]!]!;
  });
}

/** What a W/m² of the sky on level ground brings, of all the time together. */
function skyShare({ suns, parts, skyByMonth, vectors }: LightDirections, towards: Float64Array): number {
  let [brought, level] = [0, 0];
  for (let i = 0; i < parts; i++)
    for (let m = 0; m < MONTHS; m++) {
      const own = skyByMonth[m * parts + i]!;
      brought += own * towards[suns + i]!;
      level += own * vectors[(suns + i) * 3 + 2]!;
    }
  return level > 0 ? brought / level : 0;
}
