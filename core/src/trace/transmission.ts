import { dayNumber, glassFactor, isInLeaf, reflectingOf, type Scene, screenFactor } from '../scene';
import { cosineAt, meetTriangle } from './ray-triangle';
import { type TreeBuffers, TriangleTree } from './tree';

const GLASS = 0;
const FENCE = 1;
const LEAVES = 2;
const SCREEN = 3;
/** As many as a ray may meet. */
const MAX_MET = 256;

/** The buffers of a transmission, for crossing a thread boundary. */
export interface TransmissionBuffers extends TreeBuffers {
  /**
   * For each triangle: what it is, shares that pass (leaves: in leaf and bare; of screens `bare` is how deep their holes are),
   * days in leaf as month × 100 + day.
   */
  kind: Uint8Array;
  /** What each throws light back as, a number in `REFLECTING`. */
  reflects: Uint8Array;
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
      reflects: new Uint8Array(count),
      share: new Float64Array(count),
      bare: new Float64Array(count),
      leafFrom: new Uint16Array(count),
      leafUntil: new Uint16Array(count),
      surface: scene.surfaceOf.slice(scene.opaque),
    };
    for (let t = 0; t < count; t++) {
      const surface = scene.surfaces[buffers.surface[t]!]!;
      const passing = surface.passing!;
      buffers.reflects[t] = reflectingOf(surface, false);
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

  private leaves: Uint32Array | null = null;
  /** Several as one; null where there is none. */
  static together(all: readonly (Transmission | null)[]): Transmission | null {
    const some = all.filter((one) => one !== null);
    if (some.length < 2) return some[0] ?? null;
    const positions: number[] = [];
    const [kind, reflects, share, bare, leafFrom, leafUntil, surface]: number[][] = [
      [],
      [],
      [],
      [],
      [],
      [],
      [],
    ];
    let surfaces = 0;
    for (const { tree, buffers } of some) {
      const first = positions.length;
      tree.order.forEach((triangle, leaf) => {
        for (let k = 0; k < 9; k++) positions[first + triangle * 9 + k] = tree.vertices[leaf * 9 + k]!;
      });
      kind!.push(...buffers.kind);
      reflects!.push(...buffers.reflects);
      share!.push(...buffers.share);
      bare!.push(...buffers.bare);
      leafFrom!.push(...buffers.leafFrom);
      leafUntil!.push(...buffers.leafUntil);
      for (const own of buffers.surface) surface!.push(own + surfaces);
      surfaces += buffers.surface.reduce((most, own) => Math.max(most, own), 0) + 1;
    }
    const { bounds, links, vertices, order } = TriangleTree.build(Float64Array.from(positions));
    return new Transmission({
      ...{ bounds, links, vertices, order },
      kind: Uint8Array.from(kind!),
      reflects: Uint8Array.from(reflects!),
      share: Float64Array.from(share!),
      bare: Float64Array.from(bare!),
      leafFrom: Uint16Array.from(leafFrom!),
      leafUntil: Uint16Array.from(leafUntil!),
      surface: Uint32Array.from(surface!),
    });
  }

  /** Of what was asked for last by `meet`. */
  metCount = 0;
  readonly metTriangle = new Uint32Array(MAX_MET);
  readonly metAt = new Float64Array(MAX_MET);
  readonly metCosine = new Float64Array(MAX_MET);
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
    const { kind, surface } = this.buffers;
    this.meet(ox, oy, oz, dx, dy, dz, Infinity, isGone);
    let passed = 1;
    this.least = 1;
    this.obstruction = -1;
    this.crownCount = 0;
    for (let i = 0; i < this.metCount; i++) {
      const triangle = this.metTriangle[i]!;
      if (kind[triangle] === LEAVES) {
        // Of a closed crown only the side on which the ray leaves counts: that which it meets from behind.
        if (this.metCosine[i]! >= 0 && this.crownCount < 64) this.crowns[this.crownCount++] = triangle;
        continue;
      }
      const part = this.passedBy(triangle, this.metCosine[i]!);
      if (part < this.least) {
        this.least = part;
        this.obstruction = surface[triangle]!;
      }
      passed *= part;
    }
    return passed;
  }

  /** Share that a pane, fence or screen lets through at a cosine of the angle of incidence, whatever its sign. */
  passedBy(triangle: number, cosine: number): number {
    const { kind, share, bare } = this.buffers;
    if (kind[triangle] === GLASS) return share[triangle]! * glassFactor(Math.abs(cosine));
    if (kind[triangle] === SCREEN) return share[triangle]! * screenFactor(Math.abs(cosine), bare[triangle]!);
    return share[triangle]!;
  }

  /** The same of a crown, in the middle between in leaf and bare. */
  crownMean(triangle: number): number {
    return (this.buffers.share[triangle]! + this.buffers.bare[triangle]!) / 2;
  }

  /** The place of a triangle in leaf order. */
  leafOf(triangle: number): number {
    if (!this.leaves) {
      this.leaves = new Uint32Array(this.tree.order.length);
      this.tree.order.forEach((own, leaf) => (this.leaves![own] = leaf));
    }
    return this.leaves[triangle]!;
  }

  /** Whether a triangle belongs to a pane, and to a crown. */
  isGlass(triangle: number): boolean {
    return this.buffers.kind[triangle] === GLASS;
  }

  isCrown(triangle: number): boolean {
    return this.buffers.kind[triangle] === LEAVES;
  }

  /**
   * Finds all that a ray meets within so many lengths of its direction, in no order: triangles, how far, and the cosine of
   * the angle with their normal, positive where they are met from behind. They stand in `metTriangle`, `metAt`, `metCosine`.
   */
  meet(
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    within: number,
    isGone: ((surface: number) => boolean) | null = null,
  ): void {
    const { bounds, links, vertices: v, order } = this.tree;
    const { surface } = this.buffers;
    const ix = 1 / (Math.abs(dx) < 1e-18 ? 1e-18 : dx);
    const iy = 1 / (Math.abs(dy) < 1e-18 ? 1e-18 : dy);
    const iz = 1 / (Math.abs(dz) < 1e-18 ? 1e-18 : dz);
    const length = Math.hypot(dx, dy, dz);
    this.metCount = 0;
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
      const leave = Math.min(Math.max(x0, x1), Math.max(y0, y1), Math.max(z0, z1), within);
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
        if (!(distance > 0 && distance < within)) continue;
        const triangle = order[t]!;
        if (isGone !== null && isGone(surface[triangle]!)) continue;
        const cosine = cosineAt(v, o, dx, dy, dz) / length;
        if (this.isTwice(triangle, distance, cosine)) continue;
        if (this.metCount === MAX_MET) continue;
        this.metTriangle[this.metCount] = triangle;
        this.metAt[this.metCount] = distance;
        this.metCosine[this.metCount++] = cosine;
      }
    }
  }

  /** Whether a surface was already met at this distance from this side: a ray through the edge between two of its triangles. */
  private isTwice(triangle: number, distance: number, cosine: number): boolean {
    const { surface } = this.buffers;
    for (let i = 0; i < this.metCount; i++)
      if (
        surface[this.metTriangle[i]!] === surface[triangle] &&
        Math.abs(this.metAt[i]! - distance) < 1e-7 * (1 + distance) &&
        this.metCosine[i]! < 0 === cosine < 0
      )
        return true;
    return false;
  }
}

const stack = new Int32Array(128);
