import fc from 'fast-check';
import { nextSide, triangleEdges } from '../src/board/triangle-edges';

/** Triangles with corners on a coarse grid: many of them meet, some are of no size. */
const soup = fc
  .array(fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 9, maxLength: 9 }), { maxLength: 60 })
  .map((triangles) => Float64Array.from(triangles.flat(), (v) => v * 1.37 - 2));

/** What a side runs between, as text: the same both ways. */
function ends(p: Float64Array, side: number): [string, string] {
  const at = (corner: number) => [...p.subarray(corner * 3, corner * 3 + 3)].join();
  return [at(side), at(nextSide(side))];
}

test('sides are gathered by the two places that they run between, each once, those of no length left out', () => {
  fc.assert(
    fc.property(soup, (p) => {
      const plain = new Map<string, number[]>();
      for (let side = 0; side < p.length / 3; side++) {
        const [from, to] = ends(p, side);
        if (from === to) continue;
        const key = [from, to].sort().join('|');
        plain.set(key, [...(plain.get(key) ?? []), side]);
      }
      const { count, first, sides } = triangleEdges(p);
      const found = Array.from({ length: count }, (_, e) => [...sides.subarray(first[e]!, first[e + 1]!)]);
      expect(found).toEqual([...plain.values()]);
    }),
    { numRuns: 300 },
  );
});

test('corners within a tenth of a millimetre are one', () => {
  const { corner, count } = triangleEdges(
    Float64Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 0.00003, 0, 1.00002, 0, -1, 0, 0),
  );
  expect([...corner]).toEqual([0, 1, 2, 0, 2, 3]);
  expect(count).toBe(5);
});
