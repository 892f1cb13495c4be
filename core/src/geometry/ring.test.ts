import fc from 'fast-check';
import {
  bounds,
  centroid,
  clipBox,
  contains,
  type Point2,
  ringProblem,
  selfCrossing,
  signedArea,
} from './ring';

const SQUARE: Point2[] = [
  [0, 0],
  [4, 0],
  [4, 3],
  [0, 3],
];

test('area, centre and inside of a rectangle', () => {
  expect(signedArea(SQUARE)).toBe(12);
  expect(signedArea([...SQUARE].reverse())).toBe(-12);
  expect(centroid(SQUARE)).toEqual([2, 1.5]);
  expect(contains(SQUARE, [1, 1])).toBe(true);
  expect(contains(SQUARE, [5, 1])).toBe(false);
  expect(bounds(SQUARE)).toEqual({ minX: 0, minY: 0, maxX: 4, maxY: 3 });
});

test('the cells of a grid share out the area of any star-shaped polygon', () => {
  const star = fc.array(fc.double({ min: 1, max: 9, noNaN: true }), { minLength: 5, maxLength: 12 });
  fc.assert(
    fc.property(star, (radii) => {
      const ring = radii.map((r, i): Point2 => {
        const angle = (i / radii.length) * 2 * Math.PI;
        return [r * Math.cos(angle), r * Math.sin(angle)];
      });
      let sum = 0;
      for (let x = -10; x < 10; x++)
        for (let y = -10; y < 10; y++) sum += Math.abs(signedArea(clipBox(ring, x, y, x + 1, y + 1)));
      expect(sum).toBeCloseTo(Math.abs(signedArea(ring)), 6);
    }),
    { numRuns: 60 },
  );
});

test('what is wrong with a footprint is said', () => {
  expect(ringProblem(SQUARE)).toBeNull();
  expect(ringProblem(SQUARE.slice(0, 2))).toMatch('has 2 corners');
  expect(
    ringProblem([
      [0, 0],
      [4, 4],
      [4, 0],
      [0, 4],
    ]),
  ).toMatch('crosses itself near (2.00, 2.00)');
  expect(
    ringProblem([
      [0, 0],
      [2, 0],
      [4, 0],
    ]),
  ).toMatch('no area');
  expect(
    ringProblem([
      [0, 0],
      [0, 0],
      [4, 0],
      [4, 4],
    ]),
  ).toMatch('two corners in the same place');
  expect(
    selfCrossing([
      [0, 0],
      [4, 0],
      [4, 4],
      [2, 0],
      [0, 4],
    ]),
  ).not.toBeNull();
  expect(
    selfCrossing([
      [0, 0],
      [4, 0],
      [4, 4],
      [4, -2],
    ]),
  ).not.toBeNull();
});
