import type { GroundPlane } from '../site';
import { maskWords } from './mask-kernel';

/** Closes directions that point into ground without end. */
export class GroundShade {
  /** Bits of the directions that rise from the plane or run along it, and of those that fall to it or run along it. */
  private readonly rises: Uint32Array;
  private readonly falls: Uint32Array;

  /** @param vectors 3 numbers a direction */
  constructor(
    private readonly ground: GroundPlane,
    vectors: Float64Array,
  ) {
    const [nx, ny, nz] = ground.normal;
    const count = vectors.length / 3;
    this.rises = new Uint32Array(maskWords(count));
    this.falls = new Uint32Array(maskWords(count));
    for (let d = 0; d < count; d++) {
      const way = nx * vectors[d * 3]! + ny * vectors[d * 3 + 1]! + nz * vectors[d * 3 + 2]!;
      if (way >= 0) this.rises[d >> 5]! |= 1 << (d & 31);
      if (way <= 0) this.falls[d >> 5]! |= 1 << (d & 31);
    }
  }

  /**
   * Closes in a mask of the sensors from `from` up to `to` what points below the plane. From below the plane, the
   * directions that point above it are closed: its underside blocks them.
   */
  shade(positions: Float64Array, from: number, to: number, mask: Uint32Array): void {
    const {
      normal: [nx, ny, nz],
      offset,
    } = this.ground;
    const words = this.rises.length;
    for (let s = from; s < to; s++) {
      const above =
        nx * positions[s * 3]! + ny * positions[s * 3 + 1]! + nz * positions[s * 3 + 2]! - offset >= 0;
      const open = above ? this.rises : this.falls;
      const at = (s - from) * words;
      for (let w = 0; w < words; w++) mask[at + w]! &= open[w]!;
    }
  }
}
