import fc from 'fast-check';
import { type Point2, signedArea } from './ring';
import { straightSkeleton } from './straight-skeleton';

const box = (x: number, y: number, w: number, d: number): Point2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + d],
  [x, y + d],
];
const L_SHAPE: Point2[] = [
  [0, 0],
  [12, 0],
  [12, 4],
  [5, 4],
  [5, 10],
  [0, 10],
];
const T_SHAPE: Point2[] = [
  [0, 0],
  [15, 0],
  [15, 4],
  [10, 4],
  [10, 12],
  [5, 12],
  [5, 4],
  [0, 4],
];

describe('straight skeleton', () => {
  test('of a rectangle: two trapeziums and two triangles, the ridge at half the width', () => {
    const faces = straightSkeleton(box(0, 0, 10, 6))!;
    expect(faces.map((face) => face.length)).toEqual([4, 3, 4, 3]);
    expect(Math.max(...faces.flat().map(([, , d]) => d))).toBeCloseTo(3, 9);
  });

  test('of a square: four triangles that meet over the middle', () => {
    const faces = straightSkeleton(box(0, 0, 6, 6))!;
    for (const face of faces) {
      expect(face).toHaveLength(3);
      expect(face[2]!.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([3, 3, 3]);
    }
  });

  test.each([
    ['L', L_SHAPE, 2.5],
    ['T', T_SHAPE, 2.5],
    ['U', [...box(0, 0, 14, 9).slice(0, 3), [10, 9], [10, 3], [4, 3], [4, 9], [0, 9]] as Point2[], 2],
  ])(
    'of an %s shape: the parts fill it, every corner as far from its own eave as from others',
    (_, ring, top) => {
      const faces = straightSkeleton(ring)!;
      expect(faces).not.toBeNull();
      const area = faces.reduce((sum, face) => sum + signedArea(face.map(([x, y]): Point2 => [x, y])), 0);
      expect(area).toBeCloseTo(signedArea(ring), 6);
      faces.forEach((face, i) => {
        const [p, q] = [ring[i]!, ring[(i + 1) % ring.length]!];
        const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
        for (const [x, y, d] of face)
          expect(((q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0])) / length).toBeCloseTo(d, 6);
      });
      expect(Math.max(...faces.flat().map(([, , d]) => d))).toBeGreaterThanOrEqual(top - 1e-6);
    },
  );

  test('of any convex polygon the parts fill it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 6, max: 9, noNaN: true }), { minLength: 3, maxLength: 9 }),
        (radii) => {
          const hull = radii.map((_, i): Point2 => {
            const a = (i / radii.length) * 2 * Math.PI + radii[0]! * 0.01;
            return [8 * Math.cos(a) + i * 1e-3, 7 * Math.sin(a)];
          });
          expect(straightSkeleton(hull)).not.toBeNull();
        },
      ),
      { numRuns: 60 },
    );
  });
});
