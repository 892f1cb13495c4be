import { meetTriangle } from './ray-triangle';
import type { TriangleTree } from './tree';

/** What is told of a triangle that a ray meets: its number in the tree's input, and how far along the ray. */
type Visit = (triangle: number, distance: number) => void;

/** Nodes still to be visited; one walk at a time. */
const stack = new Int32Array(128);

/** Every triangle along a ray, in no order. A ray through an edge may meet both triangles that share it. */
export function allBlocks(
  { bounds, links, vertices: v, order }: TriangleTree,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
  visit: Visit,
): void {
  if (links.length === 0) return;
  const ix = 1 / (Math.abs(dx) < 1e-18 ? 1e-18 : dx);
  const iy = 1 / (Math.abs(dy) < 1e-18 ? 1e-18 : dy);
  const iz = 1 / (Math.abs(dz) < 1e-18 ? 1e-18 : dz);
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
      const distance = meetTriangle(v, t * 9, ox, oy, oz, dx, dy, dz);
      if (distance > 0) visit(order[t]!, distance);
    }
  }
}
