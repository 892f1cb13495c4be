import fc from 'fast-check';
import { PerspectiveCamera, Vector3 } from 'three';
import { framePoints, type Lens } from '../src/board/frame-points';

const LENS: Lens = { projection: 'perspective', fovDeg: 38, aspect: 1, free: 1 };
const metres = fc.double({ min: -200, max: 200, noNaN: true });
const points = fc
  .array(fc.tuple(metres, metres, fc.double({ min: 0, max: 60, noNaN: true })), {
    minLength: 8,
    maxLength: 60,
  })
  .map((list) => Float64Array.from([...list.flat(), -30, -20, 0, 30, 20, 12]));
const way = fc
  .tuple(fc.double({ min: 0, max: 6.28, noNaN: true }), fc.double({ min: 0.1, max: 1.2, noNaN: true }))
  .map(([a, h]) => new Vector3(Math.cos(a) * Math.cos(h), Math.sin(a) * Math.cos(h), Math.sin(h)));

test('all points are in the picture, in its middle, and no nearer eye would show them', () => {
  fc.assert(
    fc.property(points, way, fc.double({ min: 0.6, max: 2.4, noNaN: true }), (focus, towards, aspect) => {
      const { lookAt, distance } = framePoints(focus, towards, { ...LENS, aspect });
      const camera = new PerspectiveCamera(38, aspect, 0.1, 9000);
      camera.up.set(0, 0, 1);
      camera.position.copy(lookAt).addScaledVector(towards, distance);
      camera.lookAt(lookAt);
      camera.updateMatrixWorld();
      const seen = Array.from({ length: focus.length / 3 }, (_, i) =>
        new Vector3(...focus.subarray(i * 3, i * 3 + 3)).project(camera),
      );
      const [xs, ys] = [seen.map((p) => p.x), seen.map((p) => p.y)];
      const far = Math.max(...xs.map(Math.abs), ...ys.map(Math.abs));
      expect(far).toBeLessThan(1 / 1.06 + 1e-6);
      const deep = Array.from({ length: focus.length / 3 }, (_, i) =>
        new Vector3(...focus.subarray(i * 3, i * 3 + 3)).dot(towards),
      );
      // Nearer than 10 m to the nearest point the eye never comes.
      if (distance < (Math.max(...deep) - Math.min(...deep)) / 2 + 10.001) return;
      expect(far).toBeCloseTo(1 / 1.06, 6);
      const [dx, dy] = [Math.max(...xs) + Math.min(...xs), Math.max(...ys) + Math.min(...ys)];
      expect(Math.min(Math.abs(dx), Math.abs(dy))).toBeLessThan(1e-6);
    }),
  );
});

test('a parallel view shows the points with a small margin, more where its foot is covered', () => {
  const focus = Float64Array.of(0, 0, 0, 40, 10, 12);
  const south = new Vector3(0, -1, 0);
  const lens: Lens = { ...LENS, projection: 'parallel' };
  expect(framePoints(focus, south, lens).heightM).toBeCloseTo(40 * 1.06, 9);
  const { lookAt, heightM } = framePoints(focus, south, { ...lens, aspect: 8, free: 0.5 });
  expect(heightM).toBeCloseTo(24 * 1.06, 9);
  expect(lookAt.x).toBeCloseTo(20, 9);
  expect(lookAt.z).toBeCloseTo(6, 9);
});
