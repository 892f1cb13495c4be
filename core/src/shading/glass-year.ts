import type { DevicePlace } from '../devices';
import { openingsYear, openingTargetId } from '../gains';
import type { MeshStore } from '../geometry';
import { InputError } from '../errors';
import { type Project, standingBodies, type Study } from '../project';
import { assembleScene, type Piece } from '../scene';
import {
  type Directions,
  type FlatTarget,
  flatTargets,
  FREE,
  layGrid,
  openTogether,
  type OpenDirections,
  sameFacing,
  type SensorGrid,
  StudyTracer,
} from '../study';
import {
  directionSetOf,
  type LayeredObstacles,
  type MaskStore,
  maskWords,
  type MovingObstacle,
  pieceLayers,
  sceneLayers,
  SimdKernel,
  type TriangleTree,
} from '../trace';
import type { WeatherYear } from '../weather';
import { glassSky, type GlassSky } from './glass-sky';

/** Points that a window is looked at with, about: fewer each where many windows are read together, but never less than the least. */
const POINTS = 50;
const POINTS_TOGETHER = 1500;
const POINTS_LEAST = 16;

/** What a year of some windows is of. */
export interface GlassAsked {
  /** As it stands without the devices that are to be read. */
  project: Project;
  optionId: string;
  meshes: MeshStore;
  weather?: WeatherYear | null;
  masks?: MaskStore | null;
}

/** Sensors that face the same way and have the same glass. */
export interface GlassGroup {
  sensors: number[];
  normal: readonly [number, number, number];
  glass: NonNullable<FlatTarget['glass']>;
}

/**
 * Some windows through the year: what of each sun and each part of the sky reaches points of their glass past everything
 * that stays. Devices are traced alone and laid over it, so that trying one costs no more than tracing it.
 */
export class GlassYear {
  readonly sky: GlassSky;
  readonly grid: SensorGrid;
  readonly targets: FlatTarget[];
  readonly groups: GlassGroup[];
  readonly areaM2: number;
  /** What reaches the glass without devices. */
  readonly bare: OpenDirections;
  private readonly study: Study;
  private readonly around: LayeredObstacles;
  private kernel: SimdKernel | null = null;

  /** Throws InputError `opening` where the windows have no glass that could be looked at, and what `flatTargets` throws. */
  constructor(
    asked: GlassAsked,
    readonly places: readonly DevicePlace[],
    points = Math.min(POINTS, Math.max(POINTS_LEAST, POINTS_TOGETHER / Math.max(1, places.length))),
  ) {
    const { project, optionId, meshes, weather = null, masks = null } = asked;
    if (places.length === 0) throw new InputError('opening', 'There is no window to look at.');
    this.sky = glassSky(project, weather);
    const wanted = new Map(places.map((place) => [openingTargetId(place), place]));
    const owners = [...new Set(places.map(({ owner }) => owner.id))];
    const glassM2 = places.reduce((sum, { box }) => sum + (box.u1 - box.u0) * (box.v1 - box.v0), 0);
    const spacingM = Math.min(0.5, Math.max(0.04, Math.sqrt(glassM2 / places.length / points)));
    const { asked: measured, study } = openingsYear(project, optionId, { owners }, {}, spacingM);
    this.study = study;
    this.targets = flatTargets(measured, optionId, study, meshes).filter(({ id }) => wanted.has(id));
    const scene = assembleScene(project, optionId, meshes);
    this.grid = layGrid(
      this.targets,
      project.site.ground,
      standingBodies(project, optionId),
      scene.pieces.slice(1),
    );
    const { samples } = this.sky;
    this.around = sceneLayers(scene);
    const tracer = new StudyTracer(this.plan(), this.around, masks);
    this.bare = tracer.open(0, this.grid.count);
    for (let s = 0; s < this.grid.count; s++)
      if (this.grid.covered[s] !== FREE) this.blank(this.bare.mask, s, maskWords(samples.count));
    const glassOf = (sensor: number) => this.targets[this.grid.target[sensor]!]!.glass!;
    this.groups = sameFacing(this.bare, this.grid.normals, (s) => JSON.stringify(glassOf(s))).map(
      (sensors) => ({
        sensors,
        normal: [0, 1, 2].map((k) => this.grid.normals[sensors[0]! * 3 + k]!) as [number, number, number],
        glass: glassOf(sensors[0]!),
      }),
    );
    this.areaM2 = this.grid.areas.reduce((sum, area) => sum + area, 0);
    if (!(this.areaM2 > 0)) throw new InputError('opening', 'These windows have no glass to look at.');
  }

  /** What reaches the glass past these devices too, and past some that move. */
  past(devices: readonly Piece[], moving: readonly MovingObstacle[] = []): OpenDirections {
    if (devices.length === 0 && moving.length === 0) return this.bare;
    const obstacles = pieceLayers(devices, moving);
    const { layers, transmission } = obstacles;
    if (transmission || moving.length > 0) {
      const own = new StudyTracer(this.plan(), obstacles);
      return openTogether(this.bare, own.open(0, this.grid.count), this.sky.samples.count);
    }
    return openTogether(this.bare, this.traced(layers[0]!.tree), this.sky.samples.count);
  }

  /** What reaches the glass from other directions: past everything but the devices, and past the devices alone. */
  towards(directions: Directions, devices: readonly Piece[]): { bare: OpenDirections; own: OpenDirections } {
    const plan = { ...this.plan(), directions };
    const open = (obstacles: LayeredObstacles) => new StudyTracer(plan, obstacles).open(0, this.grid.count);
    return { bare: open(this.around), own: open(pieceLayers(devices)) };
  }

  /** The same as a tracer gives, by a kernel that keeps what it made of the directions from device to device. */
  private traced(tree: TriangleTree): OpenDirections {
    const { positions, normals, count } = this.grid;
    const { vectors } = this.sky.samples;
    if (this.kernel) this.kernel.setTree(tree);
    else this.kernel = new SimdKernel(tree);
    const mask = new Uint32Array(count * maskWords(this.sky.samples.count));
    this.kernel.trace(positions, normals, 0, count, directionSetOf(vectors), mask);
    return { sensors: count, from: 0, mask, shares: null };
  }

  private plan() {
    const { study, grid, targets } = this;
    return { study, grid, targets, directions: this.sky.samples };
  }

  private blank(mask: Uint32Array, sensor: number, words: number): void {
    mask.fill(0, sensor * words, (sensor + 1) * words);
  }
}
