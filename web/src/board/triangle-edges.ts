import { CornerIndex } from '@dial-shade/core';

/**
 * Triangles by the edges at which they meet. A side is one of the three of a triangle, `triangle × 3 + k`; it runs from
 * corner k of its triangle to the next.
 */
export interface TriangleEdges {
  /** The number of each corner, three a triangle: corners within a tenth of a millimetre have the same. */
  corner: Uint32Array;
  /** How many edges there are; each has a number, in the order in which they come. */
  count: number;
  /** Where the sides along an edge begin in `sides`; one more than there are edges. */
  first: Uint32Array;
  /** Sides, edge by edge; those of no length are left out. */
  sides: Uint32Array;
}

/** What a side runs to: the next corner of its triangle. */
export const nextSide = (side: number): number => (side % 3 === 2 ? side - 2 : side + 1);

/** Finds where triangles meet; positions are nine numbers a triangle. In step with their number. */
export function triangleEdges(p: Float64Array): TriangleEdges {
  const corner = cornerNumbers(p);
  const all = corner.length;
  // Edges are numbered as corners are, by the numbers of their two, the lesser first.
  const numbers = new CornerIndex(all / 2);
  const edge = new Int32Array(all);
  for (let side = 0; side < all; side++) {
    const [from, to] = [corner[side]!, corner[nextSide(side)]!];
    edge[side] = from === to ? -1 : numbers.add(Math.min(from, to), Math.max(from, to), 0);
  }
  const { count } = numbers;
  const first = new Uint32Array(count + 1);
  for (const number of edge) if (number >= 0) first[number + 1]!++;
  for (let e = 0; e < count; e++) first[e + 1]! += first[e]!;
  const sides = new Uint32Array(first[count]!);
  const next = first.slice();
  edge.forEach((number, side) => {
    if (number >= 0) sides[next[number]!++] = side;
  });
  return { corner, count, first, sides };
}

function cornerNumbers(p: Float64Array): Uint32Array {
  const index = new CornerIndex(p.length / 9);
  const place = (i: number) => Math.round(p[i]! * 1e4);
  const of = new Uint32Array(p.length / 3);
  for (let c = 0; c < of.length; c++) of[c] = index.add(place(c * 3), place(c * 3 + 1), place(c * 3 + 2));
  return of;
}
