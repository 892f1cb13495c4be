import fc from 'fast-check';
import { block, partyOf } from '../../testing/blocks';
import { freeSpans } from './party';

describe('party walls', () => {
  const a = block('a', 0, 0, 10, 8);

  test('a lower neighbour that stands against part of a wall covers that part only', () => {
    const b = block('b', 10, 2, 6, 4, 1);
    const parts = partyOf(a, [a, b]);
    expect([...parts.keys()]).toEqual(['wall/0/1/0']);
    expect(parts.get('wall/0/1/0')).toEqual([
      { u0: expect.closeTo(2, 9), u1: expect.closeTo(6, 9), v0: 0, v1: 3, by: 'B' },
    ]);
    expect(partyOf(b, [a]).get('wall/0/3/0')).toEqual([
      { u0: 0, u1: expect.closeTo(4, 9), v0: 0, v1: 3, by: 'A' },
    ]);
  });

  test('a gap of 3 cm still makes a party wall, one of 20 cm does not; overlap covers what lies inside', () => {
    expect(partyOf(a, [block('b', 10.03, 0, 5, 8)]).size).toBe(2);
    expect(partyOf(a, [block('b', 10.2, 0, 5, 8)]).size).toBe(0);
    const over = partyOf(a, [block('b', 8, -1, 5, 4)]);
    expect(over.get('wall/0/0/0')![0]).toMatchObject({ u0: expect.closeTo(8, 9), u1: 10 });
    expect(over.get('wall/0/1/0')![0]).toMatchObject({ u0: 0, u1: expect.closeTo(3, 9) });
  });

  test('what is covered and what is free sum to the wall', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.double({ min: 0, max: 9, noNaN: true }), fc.double({ min: 0.1, max: 4, noNaN: true })),
          { maxLength: 4 },
        ),
        (pairs) => {
          const parts = pairs.map(([u0, w]) => ({ u0, u1: Math.min(10, u0 + w), v0: 0, v1: 3, by: 'B' }));
          const free = freeSpans(10, parts, 0, 3);
          const covered = Array.from({ length: 10_000 }, (_, i) => (i + 0.5) / 1000).filter((u) =>
            parts.some((p) => u > p.u0 && u < p.u1),
          ).length;
          const open = free.reduce((sum, [x, y]) => sum + y - x, 0);
          expect(open + covered / 1000).toBeCloseTo(10, 1);
        },
      ),
    );
  });
});
