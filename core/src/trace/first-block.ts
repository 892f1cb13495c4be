import { meetTriangle } from './ray-triangle';
import type { TriangleTree } from './tree';

/** Nodes still to be visited; one walk at a time. */
const stack = new Int32Array(128);

/**
 * The nearest triangle along a ray, as its number in the tree's input, or −1 when the ray is open.
 * The direction need not be of unit length;
 * only what lies nearer than `within` of its lengths is looked at.
 * @param met is told where: the way in lengths of the direction, and the triangle's place in leaf order
 * @param isAnyEnough gives any triangle, and the sooner
 */
export function firstBlock(
  tree: TriangleTree,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
  within = Infinity,
  met: { at: number; leaf: number } | null = null,
  isAnyEnough = false,
): number {
  const { bounds, links, vertices: v, order } = tree;
  if (links.length === 0) return -1;
  const ix = 1 / (Math.abs(dx) < 1e-18 ? 1e-18 : dx);
  const iy = 1 / (Math.abs(dy) < 1e-18 ? 1e-18 : dy);
  const iz = 1 / (Math.abs(dz) < 1e-18 ? 1e-18 : dz);
  let nearest = within;
  let found = -1;
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
    const leave = Math.min(Math.max(x0, x1), Math.max(y0, y1), Math.max(z0, z1), nearest);
    if (!(enter <= leave)) continue;
    const link = links[node * 2]!;
    if (link >= 0) {
      // What lies towards the ray's begin is looked at first: most of the rest is then too far away.
      const axis = links[node * 2 + 1]!;
      const isTurned = (axis === 0 ? dx : axis === 1 ? dy : dz) < 0;
      stack[top++] = isTurned ? node + 1 : link;
      stack[top++] = isTurned ? link : node + 1;
      continue;
    }
    const end = ~link + links[node * 2 + 1]!;
    for (let t = ~link; t < end; t++) {
      const distance = meetTriangle(v, t * 9, ox, oy, oz, dx, dy, dz);
      if (distance > 0 && distance < nearest) {
        nearest = distance;
        found = order[t]!;
        if (met) {
          met.at = distance;
          met.leaf = t;
        }
        if (isAnyEnough) return found;
      }
    }
  }
  return found;
}
