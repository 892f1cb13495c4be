import fc from 'fast-check';
import { type Point2, signedArea } from './ring';
import { triangulate } from './triangulate';

const box = (x: number, y: number, w: number, h: number): Point2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];

/** Edges that are not shared by two triangles and are no edge of a ring; area of all triangles. */
function checked(rings: Point2[][]): { loose: number; area: number } {
  const points = rings.flat();
  const triangles = triangulate(rings);
  const count = new Map<string, number>();
  const note = (a: number, b: number) => {
    const key = a < b ? `${a}-${b}` : `${b}-${a}`;
    count.set(key, (count.get(key) ?? 0) + 1);
  };
  let first = 0;
  for (const ring of rings) {
    ring.forEach((_, i) => note(first + i, first + ((i + 1) % ring.length)));
    first += ring.length;
  }
  let area = 0;
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!];
    area += Math.abs(signedArea([points[a]!, points[b]!, points[c]!]));
    note(a, b);
    note(b, c);
    note(c, a);
  }
  return { loose: [...count.values()].filter((n) => n !== 2).length, area };
}

test('a wall with a row of windows: triangles meet along whole edges and fill the wall', () => {
  const windows = Array.from({ length: 11 }, (_, i) => box(1 + i * 3.3, 0.9, 1.2, 1.5));
  const found = checked([box(0, 0, 38, 3), ...windows]);
  expect(found.loose).toBe(0);
  expect(found.area).toBeCloseTo(38 * 3 - 11 * 1.8, 9);
});

test('any grid of openings, in any frame: no corner in the middle of an edge', () => {
  const grid = fc.record({
    columns: fc.integer({ min: 1, max: 7 }),
    rows: fc.integer({ min: 1, max: 5 }),
    turn: fc.constantFrom(0, 0.3, Math.PI / 4, 1.1),
    skip: fc.array(fc.integer({ min: 0, max: 34 }), { maxLength: 10 }),
  });
  fc.assert(
    fc.property(grid, ({ columns, rows, turn, skip }) => {
      const [c, s] = [Math.cos(turn), Math.sin(turn)];
      const turned = (ring: Point2[]) => ring.map(([x, y]): Point2 => [c * x - s * y, s * x + c * y]);
      const holes = Array.from({ length: columns * rows }, (_, i) => i)
        .filter((i) => !skip.includes(i))
        .map((i) => box(0.5 + (i % columns) * 2, 0.5 + Math.floor(i / columns) * 2, 1.2, 1.2));
      const found = checked([box(0, 0, columns * 2 + 0.2, rows * 2 + 0.2), ...holes].map(turned));
      expect(found.loose).toBe(0);
      const whole = (columns * 2 + 0.2) * (rows * 2 + 0.2) - holes.length * 1.44;
      expect(found.area).toBeCloseTo(whole, 6);
    }),
  );
});
