import { InputError, Stopped } from '../errors';
import type { MeshStore } from '../geometry';
import type { Project, Study } from '../project';
import { assembleScene, type Scene } from '../scene';
import { allBlocks, groundReach, type Obstacles, sceneObstacles } from '../trace';
import type { FlatTarget } from './flat-target';
import { STUDY_KINDS, type WeighedAt } from './kinds';
import { massingGrid, type MassingMap, mapOfMassing } from './massing-map';
import { formatCount, type RunControl, type StudyPlan } from './run-study';
import { POINT_PARTS } from './glass-points';
import { FREE, gridOf, type SensorGrid } from './sensor-grid';

/** Rays that may be told to their owners at a time: each is followed to its end. */
export const MAX_TOLD_RAYS = 66_000_000;

/** Someone who takes light: a neighbour, a mass, the ground; or one storey of it. */
export interface Taker {
  /** Index among the owners of the scene. */
  owner: number;
  id: string;
  name: string;
  layer: Scene['owners'][number]['layer'];
  optionId: string | null;
  /** Storey from 0; null: all of it. */
  storey: number | null;
  /** What it takes as the first along the ray, on average over what is measured, in the unit of the measure. */
  takes: number;
  /** What it takes alone: so much more there would be without it. */
  alone: number;
  /** The same by place. */
  takesAt: Float64Array;
  aloneAt: Float64Array;
}

/** What cutting the option's massing down to a level would give back. */
export interface Slice {
  fromM: number;
  /** Given back by cutting from the top down to the bottom of this slice, on average over what is measured. */
  gives: number;
}

/** Whose fault it is: what is measured, what there would be with nothing in its way, and who takes the difference. */
export interface WhoTakes {
  kind: Study['kind'];
  /** Key of the measure. */
  measure: string;
  places: { id: string; name: string; areaM2: number; value: number; open: number }[];
  /** Means over all places, weighted with area. */
  value: number;
  open: number;
  /** Most first: owners, each followed by its storeys where it has several. */
  takers: Taker[];
  /** Of the option's own massing, from the lowest slice up; empty where it takes nothing. */
  slices: Slice[];
  massing: MassingMap | null;
  rays: number;
}

/** Height of a slice, metres. */
const SLICE_M = 1;
/** Sensors that are told between two looks at whether to stop. */
const STRETCH = 64;

/** What one taker has taken so far: value × area, first and alone, by place. */
interface Sums {
  owner: number;
  storey: number | null;
  takes: Float64Array;
  alone: Float64Array;
}

/**
 * Tells every loss of a planned study to its owner: to the first thing along the ray, and, where nothing else stands in
 * the way, to it alone. What lets light pass takes what it keeps of open rays. Losses by the first along the ray and the
 * value sum to the open value. Throws InputError `who-takes` for a kind whose value is no sum over directions, or for too
 * many rays; Stopped when the signal is raised.
 */
export function whoTakes(
  project: Project,
  plan: StudyPlan,
  meshes: MeshStore,
  control: Pick<RunControl, 'signal'> & { progress?: (doneSensors: number) => void } = {},
): WhoTakes {
  const { study, directions, targets } = plan;
  const grid = toldGrid(plan);
  const rays = plan.points ? grid.count * directions.count : plan.rays;
  const kind = STUDY_KINDS[study.kind];
  const { weights } = kind;
  if (!weights)
    throw new InputError(
      'who-takes',
      `${kind.name} is not a sum of what comes from directions; nobody can be told to take it.`,
    );
  if (rays > MAX_TOLD_RAYS)
    throw new InputError(
      'who-takes',
      `${formatCount(rays)} rays are too many to be told to their owners one by one; ${formatCount(MAX_TOLD_RAYS)} are allowed. Widen the spacing or shorten the window.`,
    );
  const scene = assembleScene(project, plan.optionId, meshes);
  const teller = new Teller(scene, sceneObstacles(scene), targets.length);
  const grids = massingGrid(project, plan.optionId, scene, meshes);
  const at: WeighedAt = { ...grid, targets };
  const areas = new Float64Array(targets.length);
  const [values, opens] = [new Float64Array(targets.length), new Float64Array(targets.length)];
  const weight = new Float64Array(directions.count);
  const given = new Map<number, number>();
  for (let s = 0; s < grid.count; s++) {
    if (s % STRETCH === 0) {
      if (control.signal?.aborted) throw new Stopped();
      control.progress?.(s);
    }
    // What covers a point of glass takes its light.
    if (grid.covered[s] !== FREE && !plan.points) continue;
    const place = grid.target[s]!;
    const area = grid.areas[s]!;
    const constant = weights(directions, at, s, weight);
    areas[place]! += area;
    values[place]! += constant * area;
    opens[place]! += constant * area;
    for (let d = 0; d < directions.count; d++) {
      const w = weight[d]! * area;
      if (w === 0) continue;
      opens[place]! += w;
      const share = teller.tell(grid.positions, s, directions.vectors, d, directions.date[d]!, place, w);
      values[place]! += w * share;
      const back = teller.givenBack;
      if (back > 0) {
        const level = Math.floor(teller.firstZ / SLICE_M);
        given.set(level, (given.get(level) ?? 0) + back);
        grids?.take(teller.firstTriangle, [teller.firstX, teller.firstY, teller.firstZ], back);
      }
    }
  }
  const whole = areas.reduce((sum, area) => sum + area, 0) || 1;
  return {
    kind: study.kind,
    measure: kind.measures[0].key,
    places: targets.map(({ id, name }: FlatTarget, t) => ({
      id,
      name,
      areaM2: areas[t]!,
      value: areas[t]! > 0 ? values[t]! / areas[t]! : NaN,
      open: areas[t]! > 0 ? opens[t]! / areas[t]! : NaN,
    })),
    value: values.reduce((sum, one) => sum + one, 0) / whole,
    open: opens.reduce((sum, one) => sum + one, 0) / whole,
    takers: teller.takers(scene, areas),
    slices: slicesOf(given, whole),
    massing: grids ? mapOfMassing(grids) : null,
    rays,
  };
}

/** The sensors whose rays are told; of a kind over glass its points, as many eighths of them as may be told. */
function toldGrid({ grid, points, directions }: StudyPlan): SensorGrid {
  if (!points) return grid;
  const { part, ends } = points;
  let eighths = POINT_PARTS;
  while (eighths > 1 && (points.grid.count * directions.count * eighths) / POINT_PARTS > MAX_TOLD_RAYS)
    eighths /= 2;
  const told: number[] = [];
  for (let s = 0, k = 0; s < grid.count; s++)
    for (; k < ends[s]!; k++)
      if (grid.covered[s] === FREE && (part[k]! < eighths || part[k] === POINT_PARTS)) told.push(k);
  const some = gridOf(points.grid, told);
  told.forEach((k, i) => {
    if (part[k]! < POINT_PARTS) some.areas[i]! *= POINT_PARTS / eighths;
  });
  return some;
}

/** From the top down: what each level and all above it give together. */
function slicesOf(given: ReadonlyMap<number, number>, whole: number): Slice[] {
  if (given.size === 0) return [];
  const levels = [...given.keys()];
  const [low, high] = [Math.min(...levels), Math.max(...levels)];
  const slices: Slice[] = [];
  let sum = 0;
  for (let level = high; level >= low; level--) {
    sum += given.get(level) ?? 0;
    slices.unshift({ fromM: level * SLICE_M, gives: sum / whole });
  }
  return slices;
}

/** Follows rays to their end and keeps who takes what. */
class Teller {
  private readonly sums = new Map<string, Sums>();
  /** Of the ray told last: what of it would come if the option's own massing went, and where it meets that first. */
  givenBack = 0;
  firstTriangle = -1;
  firstX = 0;
  firstY = 0;
  firstZ = 0;

  constructor(
    private readonly scene: Scene,
    private readonly obstacles: Obstacles,
    private readonly places: number,
  ) {}

  /** Tells one ray of weight `w` to a place; gives the share of it that arrives. */
  tell(
    positions: Float64Array,
    sensor: number,
    vectors: Float64Array,
    direction: number,
    date: number,
    place: number,
    w: number,
  ): number {
    const { scene, obstacles } = this;
    const [ox, oy, oz] = [positions[sensor * 3]!, positions[sensor * 3 + 1]!, positions[sensor * 3 + 2]!];
    const [dx, dy, dz] = [vectors[direction * 3]!, vectors[direction * 3 + 1]!, vectors[direction * 3 + 2]!];
    let [first, nearest] = [-1, Infinity];
    let [owner, storey]: [number, number | null] = [-1, null];
    let [oneOwner, oneStorey, onlyOption] = [true, true, true];
    const meet = (triangle: number, distance: number) => {
      const surface = scene.surfaceOf[triangle]!;
      const by = scene.ownerOf[surface]!;
      const of = storeyOf(scene, surface, by);
      if (owner < 0) [owner, storey] = [by, of];
      else {
        if (by !== owner) oneOwner = false;
        if (by !== owner || of !== storey) oneStorey = false;
      }
      if (scene.owners[by]!.layer !== 'option') onlyOption = false;
      if (distance < nearest) [first, nearest] = [triangle, distance];
    };
    const reach = groundReach(obstacles.ground, ox, oy, oz, dx, dy, dz);
    if (reach < Infinity) meet(0, reach);
    allBlocks(obstacles.tree, ox, oy, oz, dx, dy, dz, (triangle, distance) =>
      meet(triangle + obstacles.firstTriangle, distance),
    );
    this.firstTriangle = first;
    const { transmission } = obstacles;
    /** What would get through if some were gone. */
    const passes = (isGone: ((surface: number) => boolean) | null) =>
      transmission ? transmission.share(ox, oy, oz, dx, dy, dz, date, isGone) : 1;
    if (first >= 0) {
      const surface = scene.surfaceOf[first]!;
      const taker = scene.ownerOf[surface]!;
      const back = oneOwner ? w * passes((other) => scene.ownerOf[other] === taker) : 0;
      this.add(taker, null, place, w, back);
      const of = storeyOf(scene, surface, taker);
      if (of !== null) this.add(taker, of, place, w, oneStorey ? back : 0);
      [this.firstX, this.firstY, this.firstZ] = [ox + dx * nearest, oy + dy * nearest, oz + dz * nearest];
      this.givenBack = onlyOption
        ? w * passes((other) => scene.owners[scene.ownerOf[other]!]!.layer === 'option')
        : 0;
      return 0;
    }
    this.givenBack = 0;
    const share = passes(null);
    if (share < 1 && transmission!.obstruction >= 0) {
      const taker = scene.ownerOf[transmission!.obstruction]!;
      const without = passes((other) => scene.ownerOf[other] === taker);
      this.add(taker, null, place, w * (1 - share), w * (without - share));
    }
    return share;
  }

  private add(owner: number, storey: number | null, place: number, takes: number, alone: number): void {
    const key = `${owner}/${storey ?? ''}`;
    let sums = this.sums.get(key);
    if (!sums) {
      sums = { owner, storey, takes: new Float64Array(this.places), alone: new Float64Array(this.places) };
      this.sums.set(key, sums);
    }
    sums.takes[place]! += takes;
    sums.alone[place]! += alone;
  }

  /** Means by place and over all, owners by what they take, each followed by its storeys from the top. */
  takers({ owners }: Scene, areas: Float64Array): Taker[] {
    const whole = areas.reduce((sum, area) => sum + area, 0) || 1;
    const total = (values: Float64Array) => values.reduce((sum, value) => sum + value, 0) / whole;
    const mean = (values: Float64Array) =>
      values.map((value, t) => (areas[t]! > 0 ? value / areas[t]! : NaN));
    const all = [...this.sums.values()].map(({ owner, storey, takes, alone }): Taker => {
      const { id, name, layer, optionId } = owners[owner]!;
      return {
        owner,
        id,
        name,
        layer,
        optionId,
        storey,
        takes: total(takes),
        alone: total(alone),
        takesAt: mean(takes),
        aloneAt: mean(alone),
      };
    });
    return all
      .filter(({ storey }) => storey === null)
      .sort((a, b) => b.takes - a.takes || a.owner - b.owner)
      .flatMap((one) => {
        const storeys = all.filter(({ owner, storey }) => owner === one.owner && storey !== null);
        return storeys.length > 1 ? [one, ...storeys.sort((a, b) => b.storey! - a.storey!)] : [one];
      });
  }
}

/** The storey of what belongs to a mass; roofs belong to the uppermost. Null of neighbours and the ground. */
function storeyOf(scene: Scene, surface: number, owner: number): number | null {
  const { layer } = scene.owners[owner]!;
  if (layer !== 'option' && layer !== 'today') return null;
  const { storey } = scene.surfaces[surface]!;
  return storey ?? topStorey(scene, owner);
}

const tops = new WeakMap<Scene, Map<number, number | null>>();

function topStorey(scene: Scene, owner: number): number | null {
  let known = tops.get(scene);
  if (!known) {
    known = new Map();
    scene.surfaces.forEach(({ storey }, surface) => {
      const of = scene.ownerOf[surface]!;
      const before = known!.get(of) ?? null;
      if (storey !== null && (before === null || storey > before)) known!.set(of, storey);
    });
    tops.set(scene, known);
  }
  return known.get(owner) ?? null;
}
