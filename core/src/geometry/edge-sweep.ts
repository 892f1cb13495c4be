import type { Point2, Ring } from './ring';

/** How far apart boxes may be and still count as meeting, metres. */
const NEAR = 1e-9;

/**
 * Looks at pairs of edges of some rings whose boxes meet, from left to right, until one gives an answer. The cost goes with
 * n log n and the pairs that lie over one another, not with all pairs.
 * @param look is given ring and edge of both, the earlier ring (or edge of the same ring) first
 */
export function sweepEdges<T>(
  rings: readonly Ring[],
  look: (ring: number, edge: number, otherRing: number, otherEdge: number) => T | null,
): T | null {
  const total = rings.reduce((sum, ring) => sum + ring.length, 0);
  const boxes = new Float64Array(total * 4);
  const ringOf = new Uint32Array(total);
  const edgeOf = new Uint32Array(total);
  let k = 0;
  rings.forEach((ring, r) => {
    for (let i = 0; i < ring.length; i++, k++) {
      const p: Point2 = ring[i]!;
      const q: Point2 = ring[(i + 1) % ring.length]!;
      boxes[k * 4] = Math.min(p[0], q[0]) - NEAR;
      boxes[k * 4 + 1] = Math.min(p[1], q[1]) - NEAR;
      boxes[k * 4 + 2] = Math.max(p[0], q[0]) + NEAR;
      boxes[k * 4 + 3] = Math.max(p[1], q[1]) + NEAR;
      ringOf[k] = r;
      edgeOf[k] = i;
    }
  });
  const order = Uint32Array.from({ length: total }, (_, i) => i).sort(
    (a, b) => boxes[a * 4]! - boxes[b * 4]!,
  );
  const active: number[] = [];
  for (const e of order) {
    const left = boxes[e * 4]!;
    let kept = 0;
    for (let i = 0; i < active.length; i++) {
      const o = active[i]!;
      if (boxes[o * 4 + 2]! < left) continue;
      active[kept++] = o;
      if (boxes[o * 4 + 1]! > boxes[e * 4 + 3]! || boxes[o * 4 + 3]! < boxes[e * 4 + 1]!) continue;
      const [x, y] = o < e ? [o, e] : [e, o];
      const found = look(ringOf[x]!, edgeOf[x]!, ringOf[y]!, edgeOf[y]!);
      if (found !== null) return found;
    }
    active.length = kept;
    active.push(e);
  }
  return null;
}
