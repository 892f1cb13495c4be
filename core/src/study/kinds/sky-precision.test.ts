import fc from 'fast-check';
import { found, ofMay, plane, rect, type Vector } from '../../../testing/one-sensor';
import { defaultMass, type Mass } from '../../project';
import { skyHours, SkyRadiance, skySpiral } from '../../sky';

/** Radiance of the sky over May, Wh/m² sr, in a quarter of a million directions, each hour by its formula. */
const converged = (() => {
  const spiral = skySpiral(1 << 18);
  const { count, vectors: v } = spiral;
  const sum = new Float64Array(count);
  const skies = skyHours(ofMay, 0);
  const radiance = new SkyRadiance(spiral);
  const one = new Float64Array(count);
  for (let k = 0; k < skies.count; k++) {
    radiance.of(skies, k, one);
    for (let d = 0; d < count; d++) sum[d]! += one[d]!;
  }
  return { count, v, sum };
})();

/** kWh/m² of the sky of May on a surface that sees what a test says is open. */
function skyOf(normal: Vector, isOpen: (to: Vector) => boolean): number {
  let sum = 0;
  for (let d = 0; d < converged.count; d++) {
    const to: Vector = [converged.v[d * 3]!, converged.v[d * 3 + 1]!, converged.v[d * 3 + 2]!];
    const cosine = normal[0] * to[0] + normal[1] * to[1] + normal[2] * to[2];
    if (cosine > 0 && isOpen(to)) sum += converged.sum[d]! * cosine;
  }
  return sum / 1000;
}

/** Within 1 % of the sky that is seen and 0.5 % of all. */
function expectPrecise(at: ReturnType<typeof found>, sky: number): void {
  expect(Math.abs(at.sky / sky - 1)).toBeLessThan(0.01);
  expect(Math.abs(at.sky - sky) / at.insolation).toBeLessThan(0.005);
}

const unit = fc.double({ min: 0.03, max: 0.97, noNaN: true });
const RUNS = { numRuns: 6, endOnFailure: true };

test('in a court of 6 × 6 m, 12 m deep, on its floor and its walls', () => {
  const court = [
    defaultMass('s', 'S', rect(-1, -1, 7, 0), 1, 12),
    defaultMass('n', 'N', rect(-1, 6, 7, 7), 1, 12),
    defaultMass('w', 'W', rect(-1, 0, 0, 6), 1, 12),
    defaultMass('e', 'E', rect(6, 0, 7, 6), 1, 12),
  ];
  const isOpen =
    ([x, y, z]: Vector) =>
    (at: Vector) => {
      const t = (12 - z) / at[2];
      return x + at[0] * t > 0 && x + at[0] * t < 6 && y + at[1] * t > 0 && y + at[1] * t < 6;
    };
  fc.assert(
    fc.property(unit, unit, fc.constantFrom(null, 0, 90, 180, 270), (p, q, facing) => {
      const [a, b] = [0.2 + p * 5.6, 0.2 + q * (facing === null ? 5.6 : 9)];
      const at: Vector =
        facing === null
          ? [a, b, 0.05]
          : facing === 180
            ? [a, 5.998, b]
            : facing === 0
              ? [a, 0.002, b]
              : facing === 90
                ? [0.002, a, b]
                : [5.998, a, b];
      const { target, normal } = plane(at, facing);
      expectPrecise(found(target, court), skyOf(normal, isOpen(at)));
    }),
    RUNS,
  );
});

test('under an overhang of a metre, and in a street', () => {
  fc.assert(
    fc.property(unit, unit, (p, q) => {
      // A slab over the wall y = 0, which faces south.
      const below = 0.15 + 2.5 * p;
      const slab: Mass = {
        ...defaultMass('o', 'O', rect(-40, -1, 40, 0), 1, 0.3),
        base: { on: 'level', levelM: 4 },
      };
      const under = plane([0, -0.002, 4 - below], 180);
      expectPrecise(
        found(under.target, [slab]),
        skyOf(under.normal, ([x, y, z]) => {
          const t = below / z;
          return -y * t > 0.998 || Math.abs(x * t) > 40;
        }),
      );
      const [width, y] = [8, 0.3 + 7.4 * q];
      const street = [
        defaultMass('a', 'A', rect(-400, -5, 400, 0), 1, 16),
        defaultMass('b', 'B', rect(-400, width, 400, width + 5), 1, 16),
      ];
      const floor = plane([0, y, 0.05], null);
      expectPrecise(
        found(floor.target, street),
        skyOf(floor.normal, ([dx, dy, dz]) => {
          const t = (16 - 0.05) / dz;
          return (y + dy * t > 0 && y + dy * t < width) || Math.abs(dx * t) > 400;
        }),
      );
    }),
    RUNS,
  );
});
