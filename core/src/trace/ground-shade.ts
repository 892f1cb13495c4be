import type { GroundPlane } from '../site';
import { maskWords } from './mask-kernel';

/**
 * Closes the directions of a mask that point below the ground's plane, which has no end. From below the plane, those
 * that point above it are closed: its underside blocks them.
 */
export function shadeBelow(
  { normal: [nx, ny, nz], offset }: GroundPlane,
  positions: Float64Array,
  from: number,
  to: number,
  vectors: Float64Array,
  mask: Uint32Array,
): void {
  const count = vectors.length / 3;
  const words = maskWords(count);
  const rises = new Uint32Array(words);
  const falls = new Uint32Array(words);
  for (let d = 0; d < count; d++) {
    const way = nx * vectors[d * 3]! + ny * vectors[d * 3 + 1]! + nz * vectors[d * 3 + 2]!;
    if (way >= 0) rises[d >> 5]! |= 1 << (d & 31);
    if (way <= 0) falls[d >> 5]! |= 1 << (d & 31);
  }
  for (let s = from; s < to; s++) {
    const above =
      nx * positions[s * 3]! + ny * positions[s * 3 + 1]! + nz * positions[s * 3 + 2]! - offset >= 0;
    const open = above ? rises : falls;
    const at = (s - from) * words;
    for (let w = 0; w < words; w++) mask[at + w]! &= open[w]!;
  }
}
