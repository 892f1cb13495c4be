import fc from 'fast-check';
import { stream } from '../../testing/stream';
import { town, upwards } from '../../testing/town';
import { DirectionSet } from './direction-set';
import { firstBlock } from './first-block';
import { nearestLeaves } from './nearest-leaves';
import { TriangleTree } from './tree';

test('the nearest triangle is that of the plain walk, but for surfaces that all but touch and rays that graze an edge', () => {
  let [rays, differing, met] = [0, 0, 0];
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 1e6 }),
      fc.constantFrom([0, 0, 0], [5000, -3000, 120]),
      (seed, at) => {
        const rand = stream(seed);
        const tree = TriangleTree.build(town(rand, at as [number, number, number]));
        const set = new DirectionSet(upwards(100, rand));
        const places = Float64Array.from({ length: 90 }, (_, i) =>
          i % 3 === 2 ? at[2]! + 0.1 + rand() * 5 : at[i % 3]! + rand() * 100,
        );
        const leaves = nearestLeaves(tree, places, set);
        const plain = { at: 0, leaf: -1 };
        for (let s = 0; s < 30; s++)
          for (let d = 0; d < set.count; d++) {
            const [o, v] = [places.subarray(s * 3, s * 3 + 3), set.vectors.subarray(d * 3, d * 3 + 3)];
            plain.leaf = -1;
            firstBlock(tree, o[0]!, o[1]!, o[2]!, v[0]!, v[1]!, v[2]!, Infinity, plain);
            rays++;
            if (plain.leaf >= 0) met++;
            if (leaves[s * set.count + d] !== plain.leaf) differing++;
          }
      },
    ),
    { numRuns: 20, endOnFailure: true },
  );
  expect(met).toBeGreaterThan(rays / 5);
  expect(differing).toBeLessThan(rays / 2000);
});

test('an empty tree is met nowhere', () => {
  const set = new DirectionSet(Float64Array.from([0, 0, 1]));
  expect(nearestLeaves(TriangleTree.build(new Float64Array(0)), new Float64Array(3), set)).toEqual(
    Int32Array.from([-1]),
  );
});
