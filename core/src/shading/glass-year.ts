import type { DevicePlace } from '../devices';
import { openingsYear, openingTargetId } from '../gains';
import { surroundingsOf } from '../light';
import type { MeshStore } from '../geometry';
import { InputError } from '../errors';
import type { Project, Study } from '../project';
import { assembleScene, type Piece } from '../scene';
import {
  type Directions,
  type FlatTarget,
  flatTargets,
  FREE,
  glassPoints,
  lightByMonth,
  type LightDirections,
  type PaneRays,
  pointsFor,
  type PointsWanted,
  openTogether,
  ReflectedLight,
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
import { KeptPlaces } from './kept-places';
import { panesBack, type PanesBack } from './panes-back';

/** How finely windows are looked at: points of their panes, and directions of the sky. */
export interface GlassPrecision extends PointsWanted {
  parts: number;
  /** Rays of the panes to what throws light back. */
  rays: PaneRays;
}

/** For a figure that stands: shares within 0.5 points, gains within 1 %, months within 2 %. */
export const AT_REST: GlassPrecision = {
  together: 2048,
  least: 64,
  most: 512,
  parts: 4096,
  rays: { together: 16_384, least: 256, most: 1024 },
};
/** For each device of many that are tried: shares within 0.5 points. */
export const IN_SWEEP: GlassPrecision = {
  together: 192,
  least: 192,
  most: 192,
  parts: 768,
  rays: { together: 256, least: 32, most: 256 },
};
/** While something is dragged: within 2 points. */
export const IN_MOTION: GlassPrecision = {
  together: 256,
  least: 32,
  most: 64,
  parts: 1024,
  rays: { together: 1024, least: 32, most: 256 },
};

/** What a year of some windows is of. */
export interface GlassAsked {
  /** As it stands without the devices that are to be read. */
  project: Project;
  optionId: string;
  meshes: MeshStore;
  weather?: WeatherYear | null;
  masks?: MaskStore | null;
}

/** Panes past some devices. */
export interface GlassPast {
  open: OpenDirections;
  /** Light that is thrown back onto them; null of open ground. Traced when it is first asked for. */
  readonly back: PanesBack | null;
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
  /** Points of the panes; those that something covers keep their area. */
  readonly grid: SensorGrid;
  /** Of each point, which eighth of its pane's it is among: what these differ by is the error. */
  readonly part: Uint8Array;
  readonly targets: FlatTarget[];
  readonly groups: GlassGroup[];
  readonly areaM2: number;
  /** The panes without devices. */
  readonly bare: GlassPast;
  private readonly study: Study;
  private readonly around: LayeredObstacles;
  private kernel: SimdKernel | null = null;
  private readonly seen = new KeptPlaces((grid, directions) => this.openFrom(grid, directions, this.around));

  /** Throws InputError `opening` where the windows have no glass that could be looked at, and what `flatTargets` throws. */
  constructor(
    asked: GlassAsked,
    readonly places: readonly DevicePlace[],
    readonly precision: GlassPrecision = AT_REST,
    skyOf: (sky: GlassSky) => GlassSky = (sky) => sky,
  ) {
    const { project, optionId, meshes, weather = null, masks = null } = asked;
    if (places.length === 0) throw new InputError('opening', 'There is no window to look at.');
    this.sky = skyOf(glassSky(project, weather, precision.parts));
    const wanted = new Map(places.map((place) => [openingTargetId(place), place]));
    const owners = [...new Set(places.map(({ owner }) => owner.id))];
    const { asked: measured, study } = openingsYear(project, optionId, { owners });
    this.study = study;
    this.targets = flatTargets(measured, optionId, study, meshes).filter(({ id }) => wanted.has(id));
    const scene = assembleScene(project, optionId, meshes);
    const perPane = pointsFor(precision, this.targets.length);
    const { grid, part } = glassPoints(this.targets, project.site.ground, scene.pieces.slice(1), perPane);
    this.grid = grid;
    this.part = part;
    const { samples } = this.sky;
    this.around = sceneLayers(scene);
    const tracer = new StudyTracer(this.plan(), this.around, masks);
    const bare = tracer.open(0, this.grid.count);
    for (let s = 0; s < this.grid.count; s++)
      if (this.grid.covered[s] !== FREE) this.blank(bare.mask, s, maskWords(samples.count));
    this.bare = this.pastOf(bare, []);
    const glassOf = (sensor: number) => this.targets[this.grid.target[sensor]!]!.glass!;
    this.groups = sameFacing(bare, this.grid.normals, (s) => JSON.stringify(glassOf(s))).map((sensors) => ({
      sensors,
      normal: [0, 1, 2].map((k) => this.grid.normals[sensors[0]! * 3 + k]!) as [number, number, number],
      glass: glassOf(sensors[0]!),
    }));
    this.areaM2 = this.grid.areas.reduce((sum, area) => sum + area, 0);
    if (!(this.areaM2 > 0)) throw new InputError('opening', 'These windows have no glass to look at.');
  }

  /**
   * The panes past these devices too, and past some that move: suns past these as they stand then, the sky and what is thrown
   * back as they stand at rest.
   */
  past(devices: readonly Piece[], moving: readonly MovingObstacle[] = []): GlassPast {
    if (devices.length === 0 && moving.length === 0) return this.bare;
    const obstacles = pieceLayers(devices, moving);
    const { layers, transmission } = obstacles;
    const own =
      transmission || moving.length > 0
        ? new StudyTracer(this.plan(), obstacles).open(0, this.grid.count)
        : this.traced(layers[0]!.tree);
    return this.pastOf(openTogether(this.bare.open, own, this.sky.samples.count), [obstacles]);
  }

  private pastOf(open: OpenDirections, devices: readonly LayeredObstacles[]): GlassPast {
    const trace = () => (this.sky.samples.isOpenGround ? null : this.thrownBack(devices));
    let back: PanesBack | null | undefined;
    return {
      open,
      get back() {
        if (back === undefined) back = trace();
        return back;
      },
    };
  }

  private thrownBack(devices: readonly LayeredObstacles[]): PanesBack {
    const { samples } = this.sky;
    const tracer = (grid: SensorGrid, directions: LightDirections) =>
      devices
        .map((obstacles) => this.openFrom(grid, directions, obstacles))
        .reduce((all, one) => openTogether(all, one, directions.count), this.seen.open(grid, directions));
    const past = surroundingsOf([this.around, ...devices]);
    const light = new ReflectedLight(past, samples, tracer, lightByMonth(samples), false);
    return panesBack(this, light, this.precision.rays);
  }

  /** What is open from some places past some obstacles. */
  private openFrom(
    grid: SensorGrid,
    directions: LightDirections,
    obstacles: LayeredObstacles,
  ): OpenDirections {
    const { study, targets } = this;
    return new StudyTracer({ study, grid, targets, directions }, obstacles).open(0, grid.count);
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
