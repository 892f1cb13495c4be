import fc from 'fast-check';
import type { Point2 } from '../geometry';
import { cleanPlane } from './clean-plane';
import { groundLevel } from './ground';

const OUTLINE: Point2[] = [
  [2, 2],
  [18, 3],
  [15, 17],
  [4, 15],
];

test('over spots that lie in one plane it is that plane', () => {
  const level = (x: number, y: number) => 3 + 0.1 * x - 0.2 * y;
  const points = Array.from({ length: 49 }, (_, i): [number, number, number] => {
    const [x, y] = [(i % 7) * 4 - 2, Math.floor(i / 7) * 4 - 2];
    return [x, y, level(x, y)];
  });
  const plane = cleanPlane({ kind: 'terrain', points }, OUTLINE);
  expect(plane.levelAt([7, 9])).toBeCloseTo(level(7, 9), 6);
  const length = Math.hypot(0.1, 0.2, 1);
  [-0.1, 0.2, 1].forEach((part, k) => expect(plane.normal[k]).toBeCloseTo(part / length, 6));
});

test('however ragged the ground is, none of it stands out, and the plane touches it', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 49, maxLength: 49 }),
      (z) => {
        const points = z.map((height, i): [number, number, number] => [
          (i % 7) * 4 - 2,
          Math.floor(i / 7) * 4 - 2,
          height,
        ]);
        const ground = { kind: 'terrain', points } as const;
        const plane = cleanPlane(ground, OUTLINE);
        let least = Infinity;
        for (let x = 2; x <= 18; x += 0.4)
          for (let y = 2; y <= 17; y += 0.4) {
            // Within the outline by its four edges.
            const isIn = OUTLINE.every(([ax, ay], i) => {
              const [bx, by] = OUTLINE[(i + 1) % 4]!;
              return (bx - ax) * (y - ay) - (by - ay) * (x - ax) >= 0;
            });
            if (isIn) least = Math.min(least, plane.levelAt([x, y]) - groundLevel(ground, [x, y]));
          }
        expect(least).toBeGreaterThan(-1e-9);
        expect(least).toBeLessThan(0.6);
      },
    ),
    { numRuns: 60 },
  );
});

test('over ground that is a plane it is the ground', () => {
  const ground = { kind: 'plane', levelM: 2, slopeDeg: 5, fallsTowardsDeg: 30 } as const;
  expect(cleanPlane(ground, OUTLINE).levelAt([4, 4])).toBe(groundLevel(ground, [4, 4]));
});
