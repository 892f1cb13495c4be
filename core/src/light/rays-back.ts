import type { Point3 } from '../geometry';
import { GROUND } from '../scene';
import {
  cosineAt,
  type DirectionSet,
  firstBlock,
  groundReach,
  meetTriangle,
  nearestLeaves,
  type Transmission,
} from '../trace';
import { LightCells } from './light-cells';
import type { Surroundings } from './surroundings';

/** What rays from a place meet that throws light back to it. */
export interface CellsMet {
  cell: number[];
  /** Along which of the directions. */
  ray: number[];
  /** What of the ray gets there. */
  left: number[];
}

/** Less than this of a ray is not followed further. */
const LOST = 1e-3;

/**
 * Follows rays to what throws light back along them: the first thing that blocks, and on the way what panes, screens and
 * crowns keep. From outside a pane stops a ray: what lies behind it is dark against its own glance. Ground without end is
 * met as a plane.
 */
export class RaysBack {
  readonly cells: LightCells;
  private readonly met = { at: 0, leaf: 0 };
  private readonly grounds = new Map<number, number>();

  constructor(private readonly obstacles: Surroundings) {
    this.cells = new LightCells(obstacles);
  }

  /** The plane of a layer's ground, seen from above it or from below. */
  private groundOf(layer: number, isAbove: boolean): number {
    const key = layer * 2 + Number(isAbove);
    let plane = this.grounds.get(key);
    if (plane === undefined) {
      const { normal: n, offset } = this.obstacles.layers[layer]!.ground!;
      const side = isAbove ? 1 : -1;
      const turned: Point3 = [n[0] * side, n[1] * side, n[2] * side];
      const through: Point3 = [n[0] * offset, n[1] * offset, n[2] * offset];
      this.grounds.set(key, (plane = this.cells.planes.of(GROUND, turned, through)));
    }
    return plane;
  }

  /**
   * Follows rays from some places along some directions, and gives what those of each place meet.
   * @param places 3 numbers each
   */
  from(places: Float64Array, directions: DirectionSet): CellsMet[] {
    const { layers } = this.obstacles;
    const { count, vectors: v } = directions;
    const nearest = layers.map(({ tree }) => nearestLeaves(tree, places, directions));
    return Array.from({ length: places.length / 3 }, (_, s) => {
      const into: CellsMet = { cell: [], ray: [], left: [] };
      const [x, y, z] = [places[s * 3]!, places[s * 3 + 1]!, places[s * 3 + 2]!];
      for (let d = 0; d < count; d++) {
        const leaves = nearest.map((all) => all[s * count + d]!);
        this.follow(x, y, z, v[d * 3]!, v[d * 3 + 1]!, v[d * 3 + 2]!, leaves, into);
        while (into.ray.length < into.cell.length) into.ray.push(d);
      }
      return into;
    });
  }

  /** Adds what a ray meets. @param leaves of each layer, the nearest triangle, −1 where there is none */
  private follow(
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    leaves: readonly number[],
    into: CellsMet,
  ): void {
    const { layers, transmissions } = this.obstacles;
    let nearest = Infinity;
    let [layer, leaf] = [-1, -1];
    for (let i = 0; i < layers.length; i++) {
      const { tree, ground } = layers[i]!;
      if (ground) {
        const reach = groundReach(ground, ox, oy, oz, dx, dy, dz);
        if (reach < nearest) [nearest, layer, leaf] = [reach, i, -1];
      }
      if (leaves[i]! < 0) continue;
      const at = meetTriangle(tree.vertices, leaves[i]! * 9, ox, oy, oz, dx, dy, dz);
      if (at > 0 && at < nearest) [nearest, layer, leaf] = [at, i, leaves[i]!];
      // Through an edge, as it is in double precision.
      else if (!(at > 0) && firstBlock(tree, ox, oy, oz, dx, dy, dz, nearest, this.met) >= 0)
        [nearest, layer, leaf] = [this.met.at, i, this.met.leaf];
    }
    const left = transmissions.length > 0 ? this.passing(ox, oy, oz, dx, dy, dz, nearest, into) : 1;
    if (left < LOST) return;
    if (layer < 0) return;
    const [x, y, z] = [ox + dx * nearest, oy + dy * nearest, oz + dz * nearest];
    const { planes } = this.cells;
    const { tree, reflects, ground } = layers[layer]!;
    let plane: number;
    if (leaf < 0) {
      const { normal: n, offset } = ground!;
      plane = this.groundOf(layer, n[0] * ox + n[1] * oy + n[2] * oz >= offset);
    } else plane = planes.ofLeaf(tree, reflects, leaf, cosineAt(tree.vertices, leaf * 9, dx, dy, dz) > 0);
    into.cell.push(this.cells.cellAt(plane, x, y, z, nearest, leaf < 0));
    into.left.push(left);
  }

  /** Adds what panes, screens and crowns up to `within` throw back; @returns what of a ray is left behind them */
  private passing(
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    within: number,
    into: CellsMet,
  ): number {
    const { cells } = this;
    const met: { of: Transmission; triangle: number; at: number; cosine: number }[] = [];
    for (const of of this.obstacles.transmissions) {
      of.meet(ox, oy, oz, dx, dy, dz, within);
      for (let i = 0; i < of.metCount; i++)
        met.push({ of, triangle: of.metTriangle[i]!, at: of.metAt[i]!, cosine: of.metCosine[i]! });
    }
    if (met.length === 0) return 1;
    met.sort((a, b) => a.at - b.at || a.triangle - b.triangle);
    let left = 1;
    for (const { of, triangle, at, cosine } of met) {
      const isEntered = cosine < 0;
      const isCrown = of.isCrown(triangle);
      // A pane stops what comes from outside; a crown throws back where it is entered, and holds back where it is left.
      const through =
        of.isGlass(triangle) && isEntered
          ? 0
          : isCrown
            ? of.crownMean(triangle)
            : of.passedBy(triangle, cosine);
      if (of.isGlass(triangle) || isCrown ? isEntered : through < 1) {
        const { tree, buffers } = of;
        const plane = cells.planes.ofLeaf(tree, buffers.reflects, of.leafOf(triangle), !isEntered);
        into.cell.push(cells.cellAt(plane, ox + dx * at, oy + dy * at, oz + dz * at, at, false));
        into.left.push(left * (1 - through));
      }
      if (!isCrown || !isEntered) left *= through;
      if (left < LOST) return 0;
    }
    return left;
  }
}
