import { dayNumber, glassFactor, isInLeaf, type Scene, screenFactor } from '../scene';
import { meetTriangle } from './ray-triangle';
import { type TreeBuffers, TriangleTree } from './tree';

const GLASS = 0;
const FENCE = 1;
const LEAVES = 2;
const SCREEN = 3;

/** The buffers of a transmission, for crossing a thread boundary. */
export interface TransmissionBuffers extends TreeBuffers {
  /**
   * For each triangle: what it is, shares that pass (leaves: in leaf and bare; of screens `bare` is how deep their holes are),
   * days in leaf as month × 100 + day.
   */
  kind: Uint8Array;
  share: Float64Array;
  bare: Float64Array;
  leafFrom: Uint16Array;
  leafUntil: Uint16Array;
  surface: Uint32Array;
}

/**
 * What a ray meets that lets some of the light pass: panes, fences, crowns of trees.
 * A pane passes its share at normal incidence × 1.018 cos θ (1 + sin³ θ) (Rivero 1958), at most that share; a fence its
 * openness, a screen too, less what the depth of its holes takes; a crown its openness of the day once for the whole way through it.
 */
export class Transmission {
  /** Everything that lets light pass, as a tree of its own. */
  readonly tree: TriangleTree;

  private constructor(readonly buffers: TransmissionBuffers) {
    this.tree = TriangleTree.from(buffers);
  }

  static from(buffers: TransmissionBuffers): Transmission {
    return new Transmission(buffers);
  }

  /** The transmission of a scene, or null when everything in it blocks. */
  static of(scene: Pick<Scene, 'positions' | 'surfaceOf' | 'surfaces' | 'opaque'>): Transmission | null {
    const count = scene.surfaceOf.length - scene.opaque;
    if (count === 0) return null;
    const { bounds, links, vertices, order } = TriangleTree.build(scene.positions.subarray(scene.opaque * 9));
    const buffers: TransmissionBuffers = {
      bounds,
      links,
      vertices,
      order,
      kind: new Uint8Array(count),
      share: new Float64Array(count),
      bare: new Float64Array(count),
      leafFrom: new Uint16Array(count),
      leafUntil: new Uint16Array(count),
      surface: scene.surfaceOf.slice(scene.opaque),
    };
    for (let t = 0; t < count; t++) {
      const passing = scene.surfaces[buffers.surface[t]!]!.passing!;
      if (passing.through === 'leaves') {
        buffers.kind[t] = LEAVES;
        buffers.share[t] = passing.leaf;
        buffers.bare[t] = passing.bare;
        buffers.leafFrom[t] = dayNumber(passing.from);
        buffers.leafUntil[t] = dayNumber(passing.until);
      } else if (passing.through === 'screen') {
        buffers.kind[t] = SCREEN;
        buffers.share[t] = passing.share;
        buffers.bare[t] = passing.holeDepth;
      } else {
        buffers.kind[t] = passing.through === 'glass' ? GLASS : FENCE;
        buffers.share[t] = passing.share;
      }
    }
    return new Transmission(buffers);
  }

  private readonly hitSurface = new Uint32Array(64);
  private readonly hitAt = new Float64Array(64);
  /** The surface that took most of the light of the ray asked for last; −1 when none took any. */
  obstruction = -1;
  /** Of the ray followed last: the crowns on its way, as triangles here, and how many. */
  readonly crowns = new Uint32Array(64);
  crownCount = 0;
  /** The least that one pane or fence let through, and whose it was. */
  private least = 1;

  /**
   * Share of the light along a ray that gets through everything here, 0 to 1.
   * @param day month × 100 + day, for the leaves
   * @param isGone whether a surface is to be passed over, as if it were not there
   */
  share(
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    day: number,
    isGone: ((surface: number) => boolean) | null = null,
  ): number {
    let passed = this.follow(ox, oy, oz, dx, dy, dz, isGone);
    for (let c = 0; c < this.crownCount; c++) {
      const triangle = this.crowns[c]!;
      const part = this.crownShare(triangle, day);
      if (part < this.least) {
        this.least = part;
        this.obstruction = this.buffers.surface[triangle]!;
      }
      passed *= part;
    }
    return passed;
  }

  /** Share that a crown, named by one of its triangles, lets through on a day. */
  crownShare(triangle: number, day: number): number {
    const { share, bare, leafFrom, leafUntil } = this.buffers;
    return isInLeaf(day, leafFrom[triangle]!, leafUntil[triangle]!) ? share[triangle]! : bare[triangle]!;
  }

  /** Share that panes and fences along a ray let through, whatever the day; the crowns on its way are noted. */
  follow(
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    isGone: ((surface: number) => boolean) | null = null,
  ): number {
    const { bounds, links, vertices: v, order } = this.tree;
    const { kind, share, bare, surface } = this.buffers;
    const ix = 1 / (Math.abs(dx) < 1e-18 ? 1e-18 : dx);
    const iy = 1 / (Math.abs(dy) < 1e-18 ? 1e-18 : dy);
    const iz = 1 / (Math.abs(dz) < 1e-18 ? 1e-18 : dz);
    const length = Math.hypot(dx, dy, dz);
    let passed = 1;
    let hits = 0;
    this.least = 1;
    this.obstruction = -1;
    this.crownCount = 0;
    let top = 0;
    stack[top++] = 0;
    while (top > 0) {
      const node = stack[--top]!;
      const b = node * 6;
      const x0 = (bounds[b]! - ox) * ix;
      const x1 = (bounds[b + 3]! - ox) * ix;
      const y0 = (bounds[b + 1]! - oy) * iy;
      const y1 = (bounds[b + 4]! - oy) * iy;
      const z0 = (bounds[b + 2]! - oz) * iz;
      const z1 = (bounds[b + 5]! - oz) * iz;
      const enter = Math.max(Math.min(x0, x1), Math.min(y0, y1), Math.min(z0, z1), 0);
      const leave = Math.min(Math.max(x0, x1), Math.max(y0, y1), Math.max(z0, z1));
      if (!(enter <= leave)) continue;
      const link = links[node * 2]!;
      if (link >= 0) {
        stack[top++] = link;
        stack[top++] = node + 1;
        continue;
      }
      const end = ~link + links[node * 2 + 1]!;
      for (let t = ~link; t < end; t++) {
        const o = t * 9;
        const distance = meetTriangle(v, o, ox, oy, oz, dx, dy, dz);
        if (!(distance > 0)) continue;
        const triangle = order[t]!;
        const cosine = cosineAt(v, o, dx, dy, dz) / length;
        // Of a closed crown only the side on which the ray leaves counts: that which it meets from behind.
        if (kind[triangle] === LEAVES && cosine < 0) continue;
        if (isGone !== null && isGone(surface[triangle]!)) continue;
        if (this.isTwice(surface[triangle]!, distance, hits)) continue;
        if (hits < 64) {
          this.hitSurface[hits] = surface[triangle]!;
          this.hitAt[hits] = distance;
          hits++;
        }
        if (kind[triangle] === LEAVES) {
          if (this.crownCount < 64) this.crowns[this.crownCount++] = triangle;
          continue;
        }
        let part = share[triangle]!;
        if (kind[triangle] === GLASS) part *= glassFactor(Math.abs(cosine));
        else if (kind[triangle] === SCREEN) part *= screenFactor(Math.abs(cosine), bare[triangle]!);
        if (part < this.least) {
          this.least = part;
          this.obstruction = surface[triangle]!;
        }
        passed *= part;
      }
    }
    return passed;
  }

  /** Whether a surface was already met at this distance: a ray through the edge between two of its triangles. */
  private isTwice(surface: number, distance: number, hits: number): boolean {
    for (let i = 0; i < hits; i++)
      if (this.hitSurface[i] === surface && Math.abs(this.hitAt[i]! - distance) < 1e-7 * (1 + distance))
        return true;
    return false;
  }
}

const stack = new Int32Array(128);

/** The normal of a triangle along a direction, times the direction's length: positive where the face is met from behind. */
function cosineAt(v: Float64Array, o: number, dx: number, dy: number, dz: number): number {
  const ex = v[o + 3]! - v[o]!,
    ey = v[o + 4]! - v[o + 1]!,
    ez = v[o + 5]! - v[o + 2]!;
  const fx = v[o + 6]! - v[o]!,
    fy = v[o + 7]! - v[o + 1]!,
    fz = v[o + 8]! - v[o + 2]!;
  const nx = ey * fz - ez * fy;
  const ny = ez * fx - ex * fz;
  const nz = ex * fy - ey * fx;
  return (nx * dx + ny * dy + nz * dz) / Math.hypot(nx, ny, nz);
}
