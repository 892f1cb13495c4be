import type { Point3 } from '../geometry';
import { GROUND } from '../scene';
import {
  type DirectionSet,
  firstBlock,
  groundReach,
  type LayeredObstacles,
  meetTriangle,
  nearestLeaves,
} from '../trace';
import { LightCells } from './light-cells';

/** What rays from a surface meet that throws light back to it: cells, and how much each counts. */
export interface CellsMet {
  cell: number[];
  weight: number[];
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

  constructor(private readonly obstacles: LayeredObstacles) {
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
   * @param weightOf what a ray along each direction counts; one that counts nothing is not followed
   */
  from(places: Float64Array, directions: DirectionSet, weightOf: ArrayLike<number>): CellsMet[] {
    const { layers } = this.obstacles;
    const { count, vectors: v } = directions;
    const nearest = layers.map(({ tree }) => nearestLeaves(tree, places, directions));
    return Array.from({ length: places.length / 3 }, (_, s) => {
      const into: CellsMet = { cell: [], weight: [] };
      const [x, y, z] = [places[s * 3]!, places[s * 3 + 1]!, places[s * 3 + 2]!];
      for (let d = 0; d < count; d++)
        if (weightOf[d]! > 0) {
          const leaves = nearest.map((all) => all[s * count + d]!);
          this.follow(x, y, z, v[d * 3]!, v[d * 3 + 1]!, v[d * 3 + 2]!, leaves, weightOf[d]!, into);
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
    weight: number,
    into: CellsMet,
  ): void {
    const { layers, transmission } = this.obstacles;
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
    let left = weight;
    if (transmission) {
      left = this.passing(ox, oy, oz, dx, dy, dz, nearest, weight, into);
      if (left < LOST * weight) return;
    }
    if (layer < 0) return;
    const [x, y, z] = [ox + dx * nearest, oy + dy * nearest, oz + dz * nearest];
    const { planes } = this.cells;
    const { tree, reflects, ground } = layers[layer]!;
    let plane: number;
    if (leaf < 0) {
      const { normal: n, offset } = ground!;
      plane = this.groundOf(layer, n[0] * ox + n[1] * oy + n[2] * oz >= offset);
    } else plane = planes.ofLeaf(tree, reflects, leaf, isBehind(tree.vertices, leaf * 9, dx, dy, dz));
    into.cell.push(this.cells.cellAt(plane, x, y, z, nearest, leaf < 0));
    into.weight.push(left);
  }

  /** Adds what panes, screens and crowns up to `within` throw back; @returns what of the weight is left behind them */
  private passing(
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    within: number,
    weight: number,
    into: CellsMet,
  ): number {
    const transmission = this.obstacles.transmission!;
    transmission.meet(ox, oy, oz, dx, dy, dz, within);
    const { metCount, metTriangle, metAt, metCosine } = transmission;
    if (metCount === 0) return weight;
    const order = Array.from({ length: metCount }, (_, i) => i).sort(
      (a, b) => metAt[a]! - metAt[b]! || metTriangle[a]! - metTriangle[b]!,
    );
    const { tree, buffers } = transmission;
    let left = weight;
    for (const i of order) {
      const triangle = metTriangle[i]!;
      const at = metAt[i]!;
      const isFront = metCosine[i]! < 0;
      const isPane = transmission.isGlass(triangle);
      const isCrown = transmission.isCrown(triangle);
      // A pane throws back from outside; a crown where it is entered, and holds back where it is left.
      const through = isPane
        ? isFront
          ? 0
          : transmission.passedBy(triangle, metCosine[i]!)
        : isCrown
          ? transmission.crownMean(triangle)
          : transmission.passedBy(triangle, metCosine[i]!);
      if (isPane ? isFront : isCrown ? isFront : through < 1) {
        const plane = this.cells.planes.ofLeaf(
          tree,
          buffers.reflects,
          transmission.leafOf(triangle),
          !isFront,
        );
        const [x, y, z] = [ox + dx * at, oy + dy * at, oz + dz * at];
        into.cell.push(this.cells.cellAt(plane, x, y, z, at, false));
        into.weight.push(left * (1 - through));
      }
      if (!isCrown || !isFront) left *= through;
      if (left < LOST * weight) return 0;
    }
    return left;
  }
}

/** Whether a triangle's normal points along a direction. */
function isBehind(v: Float64Array, o: number, dx: number, dy: number, dz: number): boolean {
  const [ex, ey, ez] = [v[o + 3]! - v[o]!, v[o + 4]! - v[o + 1]!, v[o + 5]! - v[o + 2]!];
  const [fx, fy, fz] = [v[o + 6]! - v[o]!, v[o + 7]! - v[o + 1]!, v[o + 8]! - v[o + 2]!];
  return (ey * fz - ez * fy) * dx + (ez * fx - ex * fz) * dy + (ex * fy - ey * fx) * dz > 0;
}
