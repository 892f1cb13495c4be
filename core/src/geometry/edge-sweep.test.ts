import fc from 'fast-check';
import { sweepEdges } from './edge-sweep';
import { meetingRings, type Point2, ringProblem, segmentCrossing, selfCrossing } from './ring';

const ring = fc.array(fc.tuple(fc.integer({ min: 0, max: 12 }), fc.integer({ min: 0, max: 12 })), {
  minLength: 3,
  maxLength: 9,
});
const edges = (points: Point2[]) => points.map((p, i) => [p, points[(i + 1) % points.length]!] as const);

test('two rings meet exactly where one of all pairs of edges does', () => {
  fc.assert(
    fc.property(ring, ring, (one, other) => {
      const any = edges(one).some(([a, b]) => edges(other).some(([c, d]) => segmentCrossing(a, b, c, d)));
      expect(meetingRings([one, other]) !== null).toBe(any);
    }),
    { numRuns: 2000 },
  );
});

test('a ring crosses itself exactly where two of its edges that are not neighbours meet', () => {
  fc.assert(
    fc.property(ring, (points) => {
      const all = edges(points);
      const any = all.some(([a, b], i) =>
        all.some(
          ([c, d], j) => j > i + 1 && !(i === 0 && j === all.length - 1) && segmentCrossing(a, b, c, d),
        ),
      );
      if (any) expect(selfCrossing(points)).not.toBeNull();
    }),
    { numRuns: 2000 },
  );
});

test('of a ring of 20,000 corners only pairs of edges that lie over one another are looked at', () => {
  const round = Array.from({ length: 20_000 }, (_, i): Point2 => {
    const angle = (i / 20_000) * 2 * Math.PI;
    return [1000 * Math.cos(angle), 1000 * Math.sin(angle)];
  });
  let looks = 0;
  sweepEdges([round], () => {
    looks++;
    return null;
  });
  // Each edge meets the box of its two neighbours; the four ends of the axes may add a few.
  expect(looks).toBeGreaterThanOrEqual(20_000);
  expect(looks).toBeLessThan(20_100);
  expect(ringProblem(round)).toBeNull();
  round[5000] = [0, -1100];
  expect(ringProblem(round)).toMatch(/crosses itself/);
});
