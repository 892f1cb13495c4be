import { type DirectionLanes, type DirectionSet, PACKET } from './direction-set';
import type { TriangleTree } from './tree';

/** Recent blockers kept for the sensor at hand. */
const RECENT = 4;
/** Numbers kept for a prepared triangle: three plane vectors through the origin of the rays. */
const PLANES = 9;

/** Words of 32 bits that hold one sensor's mask. */
export function maskWords(directions: number): number {
  return (directions + 31) >>> 5;
}

/** Whether a direction is open in a sensor's mask. */
export function isOpen(mask: Uint32Array, words: number, sensor: number, direction: number): boolean {
  return ((mask[sensor * words + (direction >>> 5)]! >>> (direction & 31)) & 1) === 1;
}

/** Traces sensors to directions against a tree, any hit. */
export interface Kernel {
  /**
   * Sets one bit for every open direction; a bit stays 0 where the direction is blocked or lies behind the sensor.
   * @param sensors 3 numbers a sensor: where rays begin
   * @param normals 3 numbers a sensor; directions with a component ≤ 0 along it are not traced. Null: all are traced
   * @param mask written from word 0 for sensor `from`: maskWords(directions.count) words a sensor, 0 before
   */
  trace(
    sensors: Float64Array,
    normals: Float64Array | null,
    from: number,
    to: number,
    directions: DirectionSet,
    mask: Uint32Array,
  ): void;
}

/**
 * The kernel in plain TypeScript and double precision: the reference that the other must agree with.
 * Traces sensors against a tree and sets one bit for every open direction; a bit stays 0 where the direction is blocked
 * or lies behind the sensor's surface.
 *
 * A ray meets a triangle when it passes on the inner side of the three planes through its origin and the triangle's
 * edges. The planes are formed from corners relative to the origin, once for all directions of a packet; two triangles
 * that share an edge get exactly opposite planes, so no ray slips between them. The last few blockers are tried before
 * the tree.
 */
export class MaskKernel implements Kernel {
  private readonly stack = new Int32Array(128);
  private readonly lanes = new Int32Array(PACKET);
  private readonly recentPlanes = new Float64Array(RECENT * PLANES);
  private readonly recentTriangle = new Int32Array(RECENT);
  private readonly kept = new Int32Array(RECENT);
  private recentCount = 0;
  private recentNext = 0;

  constructor(private readonly tree: TriangleTree) {}

  trace(
    sensors: Float64Array,
    normals: Float64Array | null,
    from: number,
    to: number,
    directions: DirectionSet,
    mask: Uint32Array,
  ): void {
    const words = maskWords(directions.count);
    const set = directions.lanes;
    for (let s = from; s < to; s++) {
      const ox = sensors[s * 3]!;
      const oy = sensors[s * 3 + 1]!;
      const oz = sensors[s * 3 + 2]!;
      this.refreshRecent(ox, oy, oz);
      const nx = normals ? normals[s * 3]! : 0;
      const ny = normals ? normals[s * 3 + 1]! : 0;
      const nz = normals ? normals[s * 3 + 2]! : 0;
      const base = (s - from) * words;
      for (let p = 0; p < set.packets; p++) {
        let active = this.select(set, p, normals !== null, nx, ny, nz);
        if (active > 0) active = this.tryRecent(set, active);
        if (active > 0) active = this.traverse(set, p, active, ox, oy, oz);
        for (let i = 0; i < active; i++) {
          const d = set.index[this.lanes[i]!]!;
          mask[base + (d >>> 5)]! |= 1 << (d & 31);
        }
      }
    }
  }

  /** Fills the lanes with the directions of a packet that lie before the surface; returns how many. */
  private select(
    { index, x, y, z }: DirectionLanes,
    packet: number,
    bounded: boolean,
    nx: number,
    ny: number,
    nz: number,
  ): number {
    const { lanes } = this;
    let active = 0;
    const first = packet * PACKET;
    for (let k = first; k < first + PACKET; k++) {
      if (index[k]! < 0) break;
      if (bounded && x[k]! * nx + y[k]! * ny + z[k]! * nz <= 0) continue;
      lanes[active++] = k;
    }
    return active;
  }

  /** Takes out the lanes that one of the recent blockers stops; returns how many are left. */
  private tryRecent({ x, y, z }: DirectionLanes, active: number): number {
    const { lanes, recentPlanes: q } = this;
    for (let r = 0; r < this.recentCount && active > 0; r++) {
      const o = r * PLANES;
      const ax = q[o]!,
        ay = q[o + 1]!,
        az = q[o + 2]!;
      const bx = q[o + 3]!,
        by = q[o + 4]!,
        bz = q[o + 5]!;
      const cx = q[o + 6]!,
        cy = q[o + 7]!,
        cz = q[o + 8]!;
      let left = 0;
      for (let i = 0; i < active; i++) {
        const k = lanes[i]!;
        const dx = x[k]!,
          dy = y[k]!,
          dz = z[k]!;
        if (
          dx * ax + dy * ay + dz * az >= 0 &&
          dx * bx + dy * by + dz * bz >= 0 &&
          dx * cx + dy * cy + dz * cz >= 0
        )
          continue;
        lanes[left++] = k;
      }
      active = left;
    }
    return active;
  }

  /** Walks the tree with the lanes of a packet; returns how many meet nothing. */
  private traverse(
    set: DirectionLanes,
    packet: number,
    active: number,
    ox: number,
    oy: number,
    oz: number,
  ): number {
    const { lanes, stack } = this;
    const { bounds, links } = this.tree;
    if (links.length === 0) return active;
    const { ix, iy, iz, spread } = set;
    const octant = set.octant[packet]!;
    const nearX = octant & 1 ? 3 : 0,
      farX = 3 - nearX;
    const nearY = octant & 2 ? 4 : 1,
      farY = 5 - nearY;
    const nearZ = octant & 4 ? 5 : 2,
      farZ = 7 - nearZ;
    const sx = octant & 1 ? -1 : 1,
      sy = octant & 2 ? -1 : 1,
      sz = octant & 4 ? -1 : 1;
    const w = packet * 6;
    const lowX = spread[w]!,
      highX = spread[w + 1]!;
    const lowY = spread[w + 2]!,
      highY = spread[w + 3]!;
    const lowZ = spread[w + 4]!,
      highZ = spread[w + 5]!;
    let top = 0;
    let node = 0;
    for (;;) {
      let hit = false;
      const b = node * 6;
      const x1 = (bounds[b + farX]! - ox) * sx;
      const y1 = (bounds[b + farY]! - oy) * sy;
      const z1 = (bounds[b + farZ]! - oz) * sz;
      if (x1 >= 0 && y1 >= 0 && z1 >= 0) {
        const x0 = (bounds[b + nearX]! - ox) * sx;
        const y0 = (bounds[b + nearY]! - oy) * sy;
        const z0 = (bounds[b + nearZ]! - oz) * sz;
        let enter = x0 > 0 ? x0 * lowX : 0;
        if (y0 > 0 && y0 * lowY > enter) enter = y0 * lowY;
        if (z0 > 0 && z0 * lowZ > enter) enter = z0 * lowZ;
        if (enter <= x1 * highX && enter <= y1 * highY && enter <= z1 * highZ) {
          for (let i = 0; i < active; i++) {
            const k = lanes[i]!;
            const rx = ix[k]!,
              ry = iy[k]!,
              rz = iz[k]!;
            let near = x0 * rx;
            let far = x1 * rx;
            const ny = y0 * ry,
              fy = y1 * ry;
            if (ny > near) near = ny;
            if (fy < far) far = fy;
            const nz = z0 * rz,
              fz = z1 * rz;
            if (nz > near) near = nz;
            if (fz < far) far = fz;
            if (near <= far) {
              hit = true;
              if (i > 0) {
                lanes[i] = lanes[0]!;
                lanes[0] = k;
              }
              break;
            }
          }
        }
      }
      if (hit) {
        const link = links[node * 2]!;
        if (link >= 0) {
          if ((octant >> links[node * 2 + 1]!) & 1) {
            stack[top++] = node + 1;
            node = link;
          } else {
            stack[top++] = link;
            node = node + 1;
          }
          continue;
        }
        const count = links[node * 2 + 1]!;
        for (let t = ~link; t < ~link + count; t++) {
          active = this.testTriangle(set, t, active, ox, oy, oz);
          if (active === 0) return 0;
        }
      }
      if (top === 0) return active;
      node = stack[--top]!;
    }
  }

  /** Takes out the lanes that the triangle stops, remembering it when there are any; returns how many are left. */
  private testTriangle(
    set: DirectionLanes,
    t: number,
    active: number,
    ox: number,
    oy: number,
    oz: number,
  ): number {
    const { lanes } = this;
    const { vertices: v } = this.tree;
    const { x, y, z } = set;
    const o = t * 9;
    const ax = v[o]! - ox,
      ay = v[o + 1]! - oy,
      az = v[o + 2]! - oz;
    const bx = v[o + 3]! - ox,
      by = v[o + 4]! - oy,
      bz = v[o + 5]! - oz;
    const cx = v[o + 6]! - ox,
      cy = v[o + 7]! - oy,
      cz = v[o + 8]! - oz;
    let ux = ay * bz - az * by,
      uy = az * bx - ax * bz,
      uz = ax * by - ay * bx;
    let vx = by * cz - bz * cy,
      vy = bz * cx - bx * cz,
      vz = bx * cy - by * cx;
    let wx = cy * az - cz * ay,
      wy = cz * ax - cx * az,
      wz = cx * ay - cy * ax;
    const volume = ux * cx + uy * cy + uz * cz;
    if (volume === 0) return active;
    if (volume < 0) {
      ux = -ux;
      uy = -uy;
      uz = -uz;
      vx = -vx;
      vy = -vy;
      vz = -vz;
      wx = -wx;
      wy = -wy;
      wz = -wz;
    }
    let left = 0;
    for (let i = 0; i < active; i++) {
      const k = lanes[i]!;
      const dx = x[k]!,
        dy = y[k]!,
        dz = z[k]!;
      if (
        dx * ux + dy * uy + dz * uz >= 0 &&
        dx * vx + dy * vy + dz * vz >= 0 &&
        dx * wx + dy * wy + dz * wz >= 0
      )
        continue;
      lanes[left++] = k;
    }
    if (left < active) {
      const slot = this.remember(t) * PLANES;
      const q = this.recentPlanes;
      q[slot] = ux;
      q[slot + 1] = uy;
      q[slot + 2] = uz;
      q[slot + 3] = vx;
      q[slot + 4] = vy;
      q[slot + 5] = vz;
      q[slot + 6] = wx;
      q[slot + 7] = wy;
      q[slot + 8] = wz;
    }
    return left;
  }

  /** The slot for a new blocker: the oldest one. */
  private remember(t: number): number {
    const slot = this.recentNext;
    this.recentNext = (slot + 1) % RECENT;
    if (this.recentCount < RECENT) this.recentCount++;
    this.recentTriangle[slot] = t;
    return slot;
  }

  /** Prepares the recent blockers anew for rays from another origin. */
  private refreshRecent(ox: number, oy: number, oz: number): void {
    const { kept, recentCount } = this;
    kept.set(this.recentTriangle);
    this.recentCount = 0;
    this.recentNext = 0;
    for (let r = 0; r < recentCount; r++) this.prepare(kept[r]!, ox, oy, oz);
  }

  /** Remembers a triangle unless the origin lies in its plane. */
  private prepare(t: number, ox: number, oy: number, oz: number): void {
    const { vertices: v } = this.tree;
    const o = t * 9;
    const ax = v[o]! - ox,
      ay = v[o + 1]! - oy,
      az = v[o + 2]! - oz;
    const bx = v[o + 3]! - ox,
      by = v[o + 4]! - oy,
      bz = v[o + 5]! - oz;
    const cx = v[o + 6]! - ox,
      cy = v[o + 7]! - oy,
      cz = v[o + 8]! - oz;
    const ux = ay * bz - az * by,
      uy = az * bx - ax * bz,
      uz = ax * by - ay * bx;
    const volume = ux * cx + uy * cy + uz * cz;
    if (volume === 0) return;
    const sign = volume < 0 ? -1 : 1;
    const slot = this.remember(t) * PLANES;
    const q = this.recentPlanes;
    q[slot] = sign * ux;
    q[slot + 1] = sign * uy;
    q[slot + 2] = sign * uz;
    q[slot + 3] = sign * (by * cz - bz * cy);
    q[slot + 4] = sign * (bz * cx - bx * cz);
    q[slot + 5] = sign * (bx * cy - by * cx);
    q[slot + 6] = sign * (cy * az - cz * ay);
    q[slot + 7] = sign * (cz * ax - cx * az);
    q[slot + 8] = sign * (cx * ay - cy * ax);
  }
}
