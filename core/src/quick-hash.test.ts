import fc from 'fast-check';
import { quickHash } from './quick-hash';

const of = (text: string) => quickHash(new TextEncoder().encode(text));

test('published values of MurmurHash3 x86 128', () => {
  expect(of('')).toBe('0'.repeat(32));
  expect(of('The quick brown fox jumps over the lazy dog')).toBe('2f1583c3ecee2c675d7bf66ce5e91d2c');
});

test('it goes by the bytes, wherever they lie in memory, and tells one bit', () => {
  fc.assert(
    fc.property(
      fc.uint8Array({ minLength: 1, maxLength: 80 }),
      fc.nat(),
      fc.integer({ min: 1, max: 7 }),
      (bytes, at, shift) => {
        const moved = new Uint8Array(bytes.length + shift);
        moved.set(bytes, shift);
        expect(quickHash(moved.subarray(shift))).toBe(quickHash(Uint8Array.from(bytes)));
        const changed = Uint8Array.from(bytes);
        changed[at % bytes.length]! ^= 1 << (at % 8);
        expect(quickHash(changed)).not.toBe(quickHash(bytes));
      },
    ),
  );
});
