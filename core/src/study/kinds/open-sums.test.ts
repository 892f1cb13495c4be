import fc from 'fast-check';
import { maskWords } from '../../trace';
import type { OpenDirections } from './kind';
import { BitSums, BitSumsOfSets, openSums } from './open-sums';

const weight = fc.double({ min: -5, max: 5, noNaN: true });
const bits = fc.array(fc.boolean(), { minLength: 1, maxLength: 150 });

/** Plain: the weights of the open directions, one after the other. */
const plain = (open: readonly boolean[], weights: readonly number[], from: number, to: number) =>
  open.reduce((sum, isOpen, d) => (isOpen && d >= from && d < to ? sum + weights[d]! : sum), 0);

function packed(rows: readonly (readonly boolean[])[]): Uint32Array {
  const words = maskWords(rows[0]!.length);
  const mask = new Uint32Array(rows.length * words);
  rows.forEach((row, s) =>
    row.forEach((isOpen, d) => {
      if (isOpen) mask[s * words + (d >> 5)]! |= 1 << (d & 31);
    }),
  );
  return mask;
}

test('tables of nibbles sum what the bits say, over any range of directions', () => {
  fc.assert(
    fc.property(
      bits,
      fc.nat(),
      fc.nat(),
      fc.array(weight, { minLength: 160, maxLength: 160 }),
      (open, a, b, w) => {
        const count = open.length;
        const [from, to] = [a % (count + 1), b % (count + 1)].sort((x, y) => x - y) as [number, number];
        const weights = new Float64Array(maskWords(count) * 32);
        for (let d = from; d < to; d++) weights[d] = w[d]!;
        const expected = plain(open, w, from, to);
        const words = maskWords(count);
        // Two sensors that are told apart, the other all open.
        const mask = packed([open.map(() => true), open]);
        const found = new Float64Array(2);
        new BitSums(weights, from, to).sums(mask, words, [0, 1], found);
        expect(found[1]).toBeCloseTo(expected, 9);
        const whole = plain(
          open.map(() => true),
          w,
          from,
          to,
        );
        expect(found[0]).toBeCloseTo(whole, 9);
        const sets = [1, 2, -3].map((factor) => weights.map((weight) => factor * weight));
        const ofSets = sets.map(() => new Float64Array(2));
        new BitSumsOfSets(sets, from, to).sums(mask, words, [1, 0], ofSets);
        [1, 2, -3].forEach((factor, k) => {
          expect(ofSets[k]![1]).toBeCloseTo(factor * expected, 8);
          expect(ofSets[k]![0]).toBeCloseTo(factor * whole, 8);
        });
      },
    ),
  );
});

test('sums by facing, with panes in between, are those of each sensor alone', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 90 }),
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: 1, max: 4 }),
      fc.integer(),
      (count, sensors, facings, seed) => {
        let state = seed >>> 0;
        const next = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
        const rows = Array.from({ length: sensors }, () => Array.from({ length: count }, () => next() < 0.6));
        const facing = rows.map(() => Math.floor(next() * facings));
        const from = 3;
        const normals = new Float64Array((from + sensors) * 3);
        facing.forEach((f, s) => (normals[(from + s) * 3] = f));
        const shares = rows.map((row) => {
          const direction = row.flatMap((isOpen, d) => (isOpen && next() < 0.3 ? [d] : []));
          return {
            direction: Uint32Array.from(direction),
            share: Float32Array.from(direction, () => next()),
          };
        });
        const open: OpenDirections = { sensors, from, mask: packed(rows), shares };
        // The weight depends on how the sensor faces, and on nothing else.
        const weigh = (f: number, d: number) => (f + 1) * Math.sin(d + 1);
        const half = count >> 1;
        let asked = 0;
        const [low, high] = openSums(
          open,
          count,
          { normals },
          [
            { from: 0, to: half },
            { from: half, to: count },
          ],
          (sensor, [a, b]) => {
            asked++;
            for (let d = 0; d < count; d++) (d < half ? a : b)![d] = weigh(normals[sensor * 3]!, d);
          },
        ) as [Float64Array, Float64Array];
        rows.forEach((row, s) => {
          const through = row.map((isOpen, d) => {
            const i = shares[s]!.direction.indexOf(d);
            return isOpen ? (i < 0 ? 1 : shares[s]!.share[i]!) : 0;
          });
          const sum = (a: number, b: number) =>
            through.reduce((all, t, d) => (d >= a && d < b ? all + t * weigh(facing[s]!, d) : all), 0);
          expect(low[s]).toBeCloseTo(sum(0, half), 9);
          expect(high[s]).toBeCloseTo(sum(half, count), 9);
        });
        expect(asked).toBe(new Set(facing).size);
      },
    ),
    { numRuns: 50 },
  );
});
