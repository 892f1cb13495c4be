import type { Point3 } from '../geometry';
import { type CellsMet, cosineFan, frameOf, RaysBack } from '../light';
import { GROUND } from '../scene';
import { type DirectionSet, directionSetOf, type LayeredObstacles, maskWords } from '../trace';
import type { OpenDirections } from './kinds/kind';
import { openSums } from './kinds/open-sums';
import { HOURS, MONTHS, type RadiationSamples } from './kinds/radiation-samples';
import { type LightDirections, lightDirections } from './light-directions';
import { blankPoints, FREE, type SensorGrid } from './sensor-grid';

/** How rays go out from sensors to what throws light back. */
export interface RaysAsked {
  /** Of each sensor. */
  rays: number;
  /** Of how many together sensors take theirs in turn, so that neighbours look other ways; the same of all when left out. */
  inTurn?: number;
  /** What counts of light that comes in at a cosine; 1 when left out. The same for sensors that have the same `also`. */
  passes?: (sensor: number, cosine: number) => number;
  also?: (sensor: number) => string;
}

/** Of each point of glass: points of a pane look sixteen ways in turn. */
export const GLASS_RAYS = { rays: 16, inTurn: 256 };

/** What is thrown back onto each sensor of a stretch, Wh/m²: by month, then by hour of the day where that is asked for. */
export interface ThrownBack {
  ground: Float64Array[];
  /** Off facades, roofs, devices, trees. */
  standing: Float64Array[];
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
  private readonly sets: number;
  /** By stretches of cells, what is open over them; kept where hours are asked for. */
  private readonly open: { from: number; open: OpenDirections }[] = [];
  private lit = 0;

  /** @param hourly whether cells are asked about hour by hour, and by hour of the day */
  constructor(
    obstacles: LayeredObstacles,
    private readonly samples: RadiationSamples,
    private readonly tracer: PlaceTracer,
    private readonly isHourly: boolean,
  ) {
    this.rays = new RaysBack(obstacles);
    this.directions = lightDirections(samples);
    this.sets = MONTHS + (isHourly ? HOURS : 0);
  }

  /** What is thrown back onto the sensors from `from` up to `to`; nothing on those that are covered. */
  onto(grid: SensorGrid, from: number, to: number, asked: RaysAsked): ThrownBack {
    const { sets } = this;
    const make = () => Array.from({ length: sets }, () => new Float64Array(to - from));
    const found: ThrownBack = { ground: make(), standing: make() };
    const met = this.metBy(grid, from, to, asked);
    const { reflectances } = this.samples;
    const { reflects } = this.rays.cells;
    met.forEach(({ cell, weight }, s) => {
      for (let i = 0; i < cell.length; i++) {
        const c = cell[i]!;
        const what = reflects[c]!;
        const into = what === GROUND ? found.ground : found.standing;
        const w = weight[i]! * reflectances[what]!;
        for (let k = 0; k < sets; k++) into[k]![s]! += w * this.light[c * sets + k]!;
      }
    });
    return found;
  }

  /** What is thrown back onto a sensor in each hour of the samples, W/m²: of the sky as that of the whole time is spread. */
  hoursOnto(grid: SensorGrid, sensor: number, asked: RaysAsked): Float64Array {
    const [met] = this.metBy(grid, sensor, sensor + 1, asked);
    const towards = new Float64Array(this.directions.count);
    this.addTowards(met!, towards);
    return hoursOf(this.samples, towards);
  }

  /** What each sensor of a stretch meets, all of it lit. */
  metBy(grid: SensorGrid, from: number, to: number, asked: RaysAsked): CellsMet[] {
    const met = Array.from({ length: to - from }, (): CellsMet => ({ cell: [], weight: [] }));
    const groups = new Map<string, number[]>();
    const { rays, inTurn = rays, passes, also } = asked;
    const turns = inTurn / rays;
    const { normals: n, positions: p } = grid;
    for (let s = from; s < to; s++) {
      if (grid.covered[s] !== FREE) continue;
      const key = `${n[s * 3]} ${n[s * 3 + 1]} ${n[s * 3 + 2]} ${s % turns} ${also ? also(s) : ''}`;
      const group = groups.get(key);
      if (group) group.push(s);
      else groups.set(key, [s]);
    }
    for (const group of groups.values()) {
      const [first] = group;
      const normal: Point3 = [n[first! * 3]!, n[first! * 3 + 1]!, n[first! * 3 + 2]!];
      const { directions, cosines, each } = fanAbout(normal, rays, inTurn, first! % turns);
      const weights = cosines.map((cosine, i) => each[i]! * (passes ? passes(first!, cosine) : 1));
      const places = new Float64Array(group.length * 3);
      group.forEach((s, i) => places.set(p.subarray(s * 3, s * 3 + 3), i * 3));
      this.rays.from(places, directions, weights).forEach((own, i) => (met[group[i]! - from] = own));
    }
    this.lightCells();
    return met;
  }

  /**
   * Adds what a W/m² on a plane that faces each direction of `lightDirections` brings by way of some cells, W/m².
   * Only of light that is kept hour by hour.
   */
  addTowards({ cell, weight }: CellsMet, into: Float64Array, factor = 1): void {
    const { reflectances } = this.samples;
    const { reflects, normals } = this.rays.cells;
    const { vectors: v, count } = this.directions;
    const words = maskWords(count);
    const of = new Map<number, number>();
    for (let i = 0; i < cell.length; i++) of.set(cell[i]!, (of.get(cell[i]!) ?? 0) + weight[i]!);
    for (const [c, w] of of) {
      const { from, open } = this.openOf(c);
      const row = c - from;
      const [nx, ny, nz] = [normals[c * 3]!, normals[c * 3 + 1]!, normals[c * 3 + 2]!];
      const all = w * reflectances[reflects[c]!]! * factor;
      for (let k = 0; k < words; k++) {
        let bits = open.mask[row * words + k]!;
        while (bits !== 0) {
          const low = bits & -bits;
          const d = k * 32 + 31 - Math.clz32(low);
          into[d]! += all * (nx * v[d * 3]! + ny * v[d * 3 + 1]! + nz * v[d * 3 + 2]!);
          bits ^= low;
        }
      }
      const held = open.shares?.[row];
      if (held)
        for (let i = 0; i < held.direction.length; i++) {
          const d = held.direction[i]!;
          const cosine = nx * v[d * 3]! + ny * v[d * 3 + 1]! + nz * v[d * 3 + 2]!;
          into[d]! -= all * cosine * (1 - held.share[i]!);
        }
    }
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
    if (this.isHourly) this.open.push({ from: this.lit, open });
    const sums = this.sumsOf(open, grid);
    for (let c = 0; c < count; c++)
      for (let k = 0; k < sets; k++) this.light.push(sums[k]![c]! + sums[sets + k]![c]!);
    this.lit = cells.count;
  }

  /** Of suns, set by set; then of the sky. */
  private sumsOf(open: OpenDirections, grid: SensorGrid): Float64Array[] {
    const { samples, isHourly } = this;
    const { suns, energy, month, hour, vectors: v } = samples;
    const light = this.directions;
    const months = Array.from({ length: MONTHS }, (_, m) => rangeOf(light.month, m));
    const hours = Array.from({ length: isHourly ? HOURS : 0 }, () => ({ from: 0, to: light.suns }));
    const sky = { from: light.suns, to: light.count };
    const ranges = [...months, ...hours, ...[...months, ...hours].map(() => sky)];
    const sets = this.sets;
    return openSums(
      open,
      light.count,
      grid,
      ranges,
      (cell, into) => {
        const n = grid.normals.subarray(cell * 3, cell * 3 + 3);
        for (let d = 0; d < suns; d++) {
          if (energy[d] === 0) continue;
          const cosine = n[0]! * v[d * 3]! + n[1]! * v[d * 3 + 1]! + n[2]! * v[d * 3 + 2]!;
          if (!(cosine > 0)) continue;
          const own = energy[d]! * cosine;
          into[month[d]!]![light.sunOf[d]!]! += own;
          if (isHourly) into[MONTHS + hour[d]!]![light.sunOf[d]!]! += own;
        }
        const w = light.vectors;
        for (let p = 0; p < light.parts; p++) {
          const d = light.suns + p;
          const cosine = n[0]! * w[d * 3]! + n[1]! * w[d * 3 + 1]! + n[2]! * w[d * 3 + 2]!;
          if (!(cosine > 0)) continue;
          for (let m = 0; m < MONTHS; m++)
            into[sets + m]![d] = light.skyByMonth[m * light.parts + p]! * cosine;
          if (isHourly)
            for (let h = 0; h < HOURS; h++)
              into[sets + MONTHS + h]![d] = light.skyByHour[h * light.parts + p]! * cosine;
        }
      },
      undefined,
      { of: samples, sums: isHourly ? 'light by month and hour' : 'light by month' },
    );
  }
}

/**
 * What comes by way of cells in each hour of some samples, of what a W/m² towards each direction of `lightDirections`
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
  for (let p = 0; p < parts; p++)
    for (let m = 0; m < MONTHS; m++) {
      const own = skyByMonth[m * parts + p]!;
      brought += own * towards[suns + p]!;
      level += own * vectors[(suns + p) * 3 + 2]!;
    }
  return level > 0 ? brought / level : 0;
}

interface Fan {
  directions: DirectionSet;
  /** Of the angles with the normal. */
  cosines: Float64Array;
  /** What each counts. */
  each: Float64Array;
}

const fans = new Map<string, Fan>();
/** Ways of facing whose fans are kept. */
const MAX_FANS = 64;

/**
 * Directions about a normal, one in so many of a whole fan. Of the whole fan those that point below the horizon count
 * (1 − n_z)/2 together, as open ground is seen, and those above the rest.
 */
function fanAbout(normal: Point3, rays: number, whole: number, turn: number): Fan {
  const key = `${normal.join(' ')} ${rays} ${whole} ${turn}`;
  let fan = fans.get(key);
  if (!fan) {
    const { local } = cosineFan(whole);
    const { u, v } = frameOf(normal);
    const vectors = new Float64Array(rays * 3);
    const [cosines, each] = [new Float64Array(rays), new Float64Array(rays)];
    const zOf = (d: number) => local[d]! * u[2] + local[d + 1]! * v[2] + local[d + 2]! * normal[2];
    let falling = 0;
    for (let d = 0; d < whole; d++) if (zOf(d * 3) < 0) falling++;
    const below = (1 - normal[2]) / 2;
    const weights = {
      falling: (falling > 0 ? (below * whole) / falling : 0) / rays,
      rising: (falling < whole ? ((1 - below) * whole) / (whole - falling) : 0) / rays,
    };
    for (let i = 0; i < rays; i++) {
      const d = ((i * whole) / rays + turn) * 3;
      const [a, b, c] = [local[d]!, local[d + 1]!, local[d + 2]!];
      for (let k = 0; k < 3; k++) vectors[i * 3 + k] = a * u[k]! + b * v[k]! + c * normal[k]!;
      cosines[i] = c;
      each[i] = zOf(d) < 0 ? weights.falling : weights.rising;
    }
    fan = { directions: directionSetOf(vectors), cosines, each };
    if (fans.size >= MAX_FANS) fans.delete(fans.keys().next().value!);
    fans.set(key, fan);
  }
  return fan;
}

/** Where a month begins and ends among suns that go by month. */
function rangeOf(months: Uint8Array, month: number): { from: number; to: number } {
  const from = months.indexOf(month);
  return from < 0 ? { from: 0, to: 0 } : { from, to: months.lastIndexOf(month) + 1 };
}
