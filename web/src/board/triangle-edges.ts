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
  const numbers = new EdgeNumbers(all);
  const edge = new Int32Array(all);
  for (let side = 0; side < all; side++) {
    const [from, to] = [corner[side]!, corner[nextSide(side)]!];
    edge[side] = from === to ? -1 : numbers.of(Math.min(from, to), Math.max(from, to));
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

/** Numbers edges by their two corners, the lesser first. Open addressing in typed arrays: models have millions. */
class EdgeNumbers {
  count = 0;
  private readonly low: Uint32Array;
  private readonly high: Uint32Array;
  private readonly table: Int32Array;

  /** @param most edges that may come */
  constructor(most: number) {
    this.low = new Uint32Array(most);
    this.high = new Uint32Array(most);
    this.table = new Int32Array(2 ** Math.ceil(Math.log2(Math.max(4, most * 2)))).fill(-1);
  }

  of(low: number, high: number): number {
    const { table } = this;
    const mask = table.length - 1;
    let slot = Math.imul(Math.imul(low, 0x9e3779b1) ^ (high + (low >>> 15)), 0x85ebca6b);
    slot = (slot ^ (slot >>> 15)) & mask;
    for (let found = table[slot]!; found >= 0; found = table[slot]!) {
      if (this.low[found] === low && this.high[found] === high) return found;
      slot = (slot + 1) & mask;
    }
    const number = this.count++;
    this.low[number] = low;
    this.high[number] = high;
    table[slot] = number;
    return number;
  }
}
