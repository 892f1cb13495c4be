import fc from 'fast-check';
import type { Point2 } from '../geometry';
import {
  movedUnderlay,
  scaledUnderlay,
  turnedUnderlay,
  underlayCorners,
  underlayPixel,
  underlayPoint,
} from './underlay';

const PLAN = { at: [10, 20] as [number, number], metresPerPixel: 0.5, turnDeg: 0, widthPx: 80, heightPx: 40 };

const metres = fc.double({ min: -500, max: 500, noNaN: true });
const point = fc.tuple(metres, metres);
const placed = fc.record({
  at: point as fc.Arbitrary<[number, number]>,
  metresPerPixel: fc.double({ min: 0.001, max: 10, noNaN: true }),
  turnDeg: fc.double({ min: -360, max: 360, noNaN: true }),
  widthPx: fc.integer({ min: 1, max: 8192 }),
  heightPx: fc.integer({ min: 1, max: 8192 }),
});
const near = (a: Point2, b: Point2, within = 1e-6) => {
  expect(Math.abs(a[0] - b[0])).toBeLessThan(within);
  expect(Math.abs(a[1] - b[1])).toBeLessThan(within);
};
const apart = (a: Point2, b: Point2) => Math.hypot(a[0] - b[0], a[1] - b[1]);

test('a picture lies with its middle where it is said, upright with its top to the north of the drawing', () => {
  expect(underlayCorners(PLAN)).toEqual([
    [-10, 30],
    [30, 30],
    [30, 10],
    [-10, 10],
  ]);
  // Turned by a quarter, anticlockwise: its top is in the west.
  near(underlayPoint({ ...PLAN, turnDeg: 90 }, [40, 0]), [0, 20]);
});

test('every place of the ground is one point of the picture', () => {
  fc.assert(
    fc.property(placed, point, (underlay, p) => {
      const there = underlayPoint(underlay, underlayPixel(underlay, p));
      near(there, p);
    }),
  );
});

test('scaled by two points they are as far apart as was said, and the first has not moved', () => {
  fc.assert(
    fc.property(
      placed,
      point,
      point,
      fc.double({ min: 0.1, max: 300, noNaN: true }),
      (underlay, a, b, length) => {
        fc.pre(apart(a, b) > 0.01);
        const [p, q] = [underlayPixel(underlay, a), underlayPixel(underlay, b)];
        const scaled = scaledUnderlay(underlay, a, b, length);
        expect(apart(underlayPoint(scaled, p), underlayPoint(scaled, q)) / length).toBeCloseTo(1, 6);
        near(underlayPoint(scaled, p), a, 1e-4);
        expect(scaled).toMatchObject({ turnDeg: underlay.turnDeg, scaled: true });
      },
    ),
  );
  expect(() => scaledUnderlay(PLAN, [1, 1], [1, 1], 5)).toThrow('The two points are one');
  expect(() => scaledUnderlay(PLAN, [1, 1], [2, 1], 0)).toThrow('must be more than nothing');
  expect(() => scaledUnderlay(PLAN, [1, 1], [2, 1], NaN)).toThrow('must be more than nothing');
});

test('moved and turned, a point comes to lie where it is put, and another in the direction that is meant', () => {
  fc.assert(
    fc.property(placed, point, point, point, point, (underlay, a, to, b, towards) => {
      fc.pre(apart(a, b) > 0.1 && apart(to, towards) > 0.1);
      const pixels = [underlayPixel(underlay, a), underlayPixel(underlay, b)] as const;
      const moved = movedUnderlay(underlay, a, to);
      near(underlayPoint(moved, pixels[0]), to);
      const turned = turnedUnderlay(moved, to, underlayPoint(moved, pixels[1]), towards);
      near(underlayPoint(turned, pixels[0]), to, 1e-5);
      const [q, d] = [underlayPoint(turned, pixels[1]), apart(to, towards)];
      const share = apart(a, b) / d;
      near(q, [to[0] + (towards[0] - to[0]) * share, to[1] + (towards[1] - to[1]) * share], 1e-4);
      expect(turned.metresPerPixel).toBe(underlay.metresPerPixel);
      expect(Math.abs(turned.turnDeg)).toBeLessThanOrEqual(180);
    }),
  );
  expect(() => turnedUnderlay(PLAN, [0, 0], [0, 0], [1, 0])).toThrow('A turn needs a point beside');
});
