import { skySpiral } from '../sky';
import { orderedPackets } from './direction-set';

/** The same by sorting whole parts: slow, and plain to see. */
function bySorting(vectors: Float64Array, size: number): string[] {
  const of = (i: number, axis: number) => vectors[i * 3 + axis]!;
  const packets: string[] = [];
  const halve = (part: number[]): void => {
    if (part.length <= size) {
      if (part.length > 0) packets.push(part.toSorted((a, b) => a - b).join(' '));
      return;
    }
    const wide = [0, 1, 2].map((axis) => {
      const along = part.map((i) => of(i, axis));
      return Math.max(...along) - Math.min(...along);
    });
    const axis = wide.indexOf(Math.max(...wide));
    part.sort((a, b) => of(a, axis) - of(b, axis) || a - b);
    const half = Math.ceil(part.length / 2 / size) * size;
    halve(part.slice(0, half));
    halve(part.slice(half));
  };
  const all = Array.from({ length: vectors.length / 3 }, (_, i) => i);
  for (let octant = 0; octant < 8; octant++)
    halve(all.filter((i) => [0, 1, 2].every((axis) => of(i, axis) < 0 === ((octant >> axis) & 1) > 0)));
  return packets;
}

test.each([
  ['a spiral over the sky', skySpiral(3000).vectors],
  // Level suns and equal directions: what ties goes by number.
  [
    'many that are equal along an axis',
    Float64Array.from({ length: 900 }, (_, i) => ((i * 7) % 11) / 11 - 0.5),
  ],
  ['one direction many times', new Float64Array(300).fill(0.5)],
  ['none', new Float64Array(0)],
])('packets hold neighbours as sorting whole parts would have them: %s', (_, vectors) => {
  for (const size of [4, 16]) {
    const packets = orderedPackets(vectors, size);
    expect(packets.map(({ members }) => members.toSorted().join(' '))).toEqual(bySorting(vectors, size));
    for (const { octant, members } of packets)
      for (const i of members)
        for (let axis = 0; axis < 3; axis++)
          expect(vectors[i * 3 + axis]! < 0).toBe(((octant >> axis) & 1) > 0);
  }
});
