import fc from 'fast-check';
import { copyBits, findDirections } from './known-directions';

const bit = (words: Uint32Array, i: number) => (words[i >>> 5]! >>> (i & 31)) & 1;

test('bits are copied to where they belong, and nothing beside them is touched', () => {
  const words = fc.uint32Array({ minLength: 1, maxLength: 6 });
  fc.assert(
    fc.property(words, fc.nat(400), fc.nat(400), fc.nat(200), (from, a, b, n) => {
      const fromBit = a % (from.length * 32);
      const count = Math.min(n, from.length * 32 - fromBit);
      const into = new Uint32Array(Math.ceil((b + count) / 32) + 1);
      copyBits(from, fromBit, into, b, count);
      const bits = Array.from({ length: into.length * 32 }, (_, i) => i);
      expect(bits.map((i) => bit(into, i))).toEqual(
        bits.map((i) => (i >= b && i < b + count ? bit(from, fromBit + i - b) : 0)),
      );
    }),
    { numRuns: 300 },
  );
});

test('each direction is found in the first that has it, by all three numbers; the rest is missing', () => {
  // Few different numbers, so that directions share some of them.
  const set = fc
    .array(fc.tuple(fc.nat(2), fc.nat(2), fc.nat(2)), { maxLength: 20 })
    .map((list) => Float64Array.from(list.flat()));
  fc.assert(
    fc.property(set, fc.array(set, { maxLength: 4 }), (wanted, others) => {
      const at = (vectors: Float64Array, d: number) => vectors.slice(d * 3, d * 3 + 3).join();
      const { found, missing } = findDirections(wanted, others);
      const from: string[] = Array.from({ length: wanted.length / 3 }, () => 'none');
      found.forEach((runs, i) => {
        for (const run of runs)
          for (let k = 0; k < run.count; k++) {
            expect(at(others[i]!, run.from + k)).toBe(at(wanted, run.at + k));
            from[run.at + k] = String(i);
          }
      });
      const has = (vectors: Float64Array, d: number) =>
        Array.from({ length: vectors.length / 3 }, (_, k) => at(vectors, k)).includes(at(wanted, d));
      from.forEach((where, d) => {
        const first = others.findIndex((other) => has(other, d));
        expect(where).toBe(first < 0 ? 'none' : String(first));
        expect(missing.includes(d)).toBe(first < 0);
      });
    }),
    { numRuns: 300 },
  );
});
