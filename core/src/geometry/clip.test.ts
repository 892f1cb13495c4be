import fc from 'fast-check';
import { layGrid, planeTarget } from '../../testing/targets';
import { intersectPolygons, type Polygon, subtractPolygons, unitePolygons } from './clip';
import { areaWithHoles, type Point2, type Ring, ringProblem } from './ring';

const box = (x: number, y: number, w: number, h: number): Point2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];
const area = (parts: readonly Polygon[]) => parts.reduce((sum, part) => sum + areaWithHoles(part), 0);
const solid = (outer: Ring): Polygon => ({ outer, holes: [] });

/** A star-shaped outline: corners at falling angles with random distances; sound, with inward corners. */
const star = fc
  .record({
    x: fc.double({ min: -30, max: 30, noNaN: true }),
    y: fc.double({ min: -30, max: 30, noNaN: true }),
    reach: fc.array(fc.double({ min: 0.5, max: 25, noNaN: true }), { minLength: 3, maxLength: 14 }),
  })
  .map(({ x, y, reach }): Point2[] =>
    reach.map((r, i) => {
      const a = (i / reach.length) * 2 * Math.PI;
      return [x + r * Math.cos(a), y + r * Math.sin(a)];
    }),
  )
  .filter((ring) => ringProblem(ring) === null);

test('boxes in closed form: a cross, a frame, two pieces', () => {
  const [a, b] = [solid(box(0, 0, 6, 2)), solid(box(2, -2, 2, 6))];
  expect(area(unitePolygons([a, b]))).toBeCloseTo(20, 9);
  expect(area(intersectPolygons([a], [b]))).toBeCloseTo(4, 9);
  const rest = subtractPolygons([a], [b]);
  expect(rest).toHaveLength(2);
  expect(area(rest)).toBeCloseTo(8, 9);
  const frame = subtractPolygons([solid(box(0, 0, 9, 9))], [solid(box(3, 3, 3, 3))]);
  expect(frame).toHaveLength(1);
  expect(frame[0]!.holes).toHaveLength(1);
  expect(area(frame)).toBeCloseTo(72, 9);
  expect(unitePolygons([])).toEqual([]);
  expect(subtractPolygons([a], [a])).toEqual([]);
});

test('an island in a hole comes back as a part of its own', () => {
  const frame: Polygon = { outer: box(0, 0, 10, 10), holes: [box(2, 2, 6, 6)] };
  const parts = unitePolygons([frame, solid(box(4, 4, 2, 2))]);
  expect(parts.map((part) => part.holes.length).sort()).toEqual([0, 1]);
  expect(area(parts)).toBeCloseTo(100 - 36 + 4, 9);
});

test('areas of any two outlines add up: A + B = A∪B + A∩B, A − B = A less A∩B, to the grid', () => {
  fc.assert(
    fc.property(star, star, (one, other) => {
      const [a, b] = [solid(one), solid(other)];
      const both = area(intersectPolygons([a], [b]));
      const edges = one.length + other.length;
      // 50 m of edge moved by half a grid step, for every edge.
      const slack = 1e-4 * edges * 50;
      expect(Math.abs(area([a]) + area([b]) - area(unitePolygons([a, b])) - both)).toBeLessThan(slack);
      expect(Math.abs(area([a]) - area(subtractPolygons([a], [b])) - both)).toBeLessThan(slack);
    }),
    { numRuns: 1500 },
  );
});

test('the plane that brought down the floating-point clipper is laid out', () => {
  const target = planeTarget(
    box(0, 0, 13.16, 15.09),
    [
      [
        [1.93, 1.09],
        [6.58, 1.09],
        [6.58, 7.54],
        [1.93, 7.54],
      ],
    ],
    0.59,
  );
  const { areas } = layGrid([target]);
  expect(areas.reduce((sum, m2) => sum + m2, 0)).toBeCloseTo(13.16 * 15.09 - 4.65 * 6.45, 6);
});

test('no plane with a hole brings anything down: 10,000 of them, their cells adding up to their area', () => {
  const cm = (min: number, max: number) => fc.integer({ min: min * 100, max: max * 100 }).map((n) => n / 100);
  const sized = fc.record({ w: cm(1, 20), h: cm(1, 20), spacing: cm(0.4, 4) });
  const hole = fc.record({ x: cm(0.05, 0.6), y: cm(0.05, 0.6), w: cm(0.05, 0.39), h: cm(0.05, 0.39) });
  fc.assert(
    fc.property(sized, hole, ({ w, h, spacing }, part) => {
      const cut = box(part.x * w, part.y * h, part.w * w, part.h * h);
      const target = planeTarget(box(0, 0, w, h), [cut], Math.max(spacing, w / 12, h / 12));
      const sum = layGrid([target]).areas.reduce((m2, one) => m2 + one, 0);
      expect(Math.abs(sum - (w * h - part.w * w * part.h * h))).toBeLessThan(1e-4 * w * h);
    }),
    { numRuns: 10_000 },
  );
});
