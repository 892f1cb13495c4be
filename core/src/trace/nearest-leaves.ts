import type { DirectionSet } from './direction-set';
import { firstBlock } from './first-block';
import { kernelFor, SimdKernel } from './simd-kernel';
import type { TriangleTree } from './tree';

/**
 * The nearest triangle along each direction from each place, by its place in leaf order; −1 where there is none. Told in
 * single precision: of surfaces that all but touch either may be named.
 * @param sensors 3 numbers a place
 * @returns places × directions
 */
export function nearestLeaves(
  tree: TriangleTree,
  sensors: Float64Array,
  directions: DirectionSet,
): Int32Array {
  const { count, vectors: v } = directions;
  const places = sensors.length / 3;
  const leaves = new Int32Array(places * count).fill(-1);
  if (tree.order.length === 0) return leaves;
  const kernel = kernelFor(tree);
  if (kernel instanceof SimdKernel) {
    kernel.nearest(sensors, directions, leaves);
    return leaves;
  }
  const met = { at: 0, leaf: -1 };
  for (let s = 0; s < places; s++)
    for (let d = 0; d < count; d++) {
      const found = firstBlock(
        tree,
        sensors[s * 3]!,
        sensors[s * 3 + 1]!,
        sensors[s * 3 + 2]!,
        v[d * 3]!,
        v[d * 3 + 1]!,
        v[d * 3 + 2]!,
        Infinity,
        met,
      );
      if (found >= 0) leaves[s * count + d] = met.leaf;
    }
  return leaves;
}
