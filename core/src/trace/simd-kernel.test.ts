import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { execFileSync } from 'node:child_process';
import { memoriesMade } from '../../testing/memories';
import { stream } from '../../testing/stream';
import { town, upwards } from '../../testing/town';
import { DirectionSet } from './direction-set';
import { isOpen, type Kernel, MaskKernel, maskWords } from './mask-kernel';
import { kernelFor, SimdKernel } from './simd-kernel';
import { TriangleTree } from './tree';

test('agrees with the plain kernel on random towns, near and far from the origin, but for grazing rays', () => {
  let rays = 0;
  let differing = 0;
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 1e6 }),
      fc.constantFrom([0, 0, 0], [5000, -3000, 120], [-80_000, 60_000, 0]),
      (seed, at) => {
        const rand = stream(seed);
        const tree = TriangleTree.build(town(rand, at as [number, number, number]));
        const set = new DirectionSet(upwards(300, rand));
        const count = 40;
        const sensors = Float64Array.from({ length: count * 3 }, (_, i) =>
          i % 3 === 2 ? at[2]! + 0.1 : at[i % 3]! + rand() * 100,
        );
        const normals = Float64Array.from({ length: count * 3 }, (_, i) =>
          Math.floor(i / 3) % 2 ? (i % 3 === 2 ? 1 : 0) : i % 3 === 1 ? -1 : 0,
        );
        const words = maskWords(set.count);
        const [one, other] = [new MaskKernel(tree), new SimdKernel(tree)].map((kernel) => {
          const mask = new Uint32Array(count * words);
          kernel.trace(sensors, normals, 0, count, set, mask);
          return mask;
        });
        for (let s = 0; s < count; s++)
          for (let d = 0; d < set.count; d++) {
            rays++;
            if (isOpen(one!, words, s, d) !== isOpen(other!, words, s, d)) differing++;
          }
      },
    ),
    { numRuns: 60 },
  );
  expect(differing / rays).toBeLessThan(1e-4);
});

test('a part of the sensors has the bits that it has in the whole, however often and in whatever order it is asked', () => {
  const rand = stream(9);
  const tree = TriangleTree.build(town(rand, [0, 0, 0]));
  const sets = [new DirectionSet(upwards(500, rand)), new DirectionSet(upwards(31, rand))];
  const count = 700;
  const sensors = Float64Array.from({ length: count * 3 }, (_, i) => (i % 3 === 2 ? 0.1 : rand() * 100));
  const kernel = kernelFor(tree);
  expect(kernelFor(tree)).toBe(kernel);
  const whole = sets.map((set) => {
    const mask = new Uint32Array(count * maskWords(set.count));
    kernel.trace(sensors, null, 0, count, set, mask);
    return mask;
  });
  for (const [from, to] of [
    [300, 650],
    [0, 1],
    [699, 700],
  ] as const)
    sets.forEach((set, i) => {
      const words = maskWords(set.count);
      const mask = new Uint32Array((to - from) * words);
      kernel.trace(sensors, null, from, to, set, mask);
      expect(mask).toEqual(whole[i]!.subarray(from * words, to * words));
    });
});

test('without triangles everything is open, without directions there is nothing', () => {
  const kernel = new SimdKernel(TriangleTree.build(new Float64Array(0)));
  const mask = new Uint32Array(1);
  kernel.trace(
    Float64Array.of(1, 2, 3),
    null,
    0,
    1,
    new DirectionSet(Float64Array.of(0, 0, 1, 1, 0, 0)),
    mask,
  );
  expect(mask[0]).toBe(3);
  kernel.trace(
    Float64Array.of(1, 2, 3),
    null,
    0,
    1,
    new DirectionSet(new Float64Array(0)),
    new Uint32Array(0),
  );
});

describe('hundreds of kernels at work by turns', () => {
  const rand = stream(21);
  const set = new DirectionSet(upwards(90, rand));
  const words = maskWords(set.count);
  const count = 6;
  const sensors = Float64Array.from({ length: count * 3 }, (_, i) => (i % 3 === 2 ? 0.1 : rand() * 100));
  const traced = (kernel: Kernel) => {
    const mask = new Uint32Array(count * words);
    kernel.trace(sensors, null, 0, count, set, mask);
    return mask;
  };
  const towns = (n: number) =>
    Array.from({ length: n }, () => TriangleTree.build(town(rand, [0, 0, 0]).subarray(0, 9 * 40)));

  test('share a few memories, of which a page has room for no more than some hundred in all', () => {
    const kernels = towns(150).map((tree) => kernelFor(tree));
    let first: Uint32Array[] = [];
    let again: Uint32Array[] = [];
    const made = memoriesMade(() => {
      first = kernels.map(traced);
      // Backwards, so that nobody finds its tree where it was but the last few.
      again = kernels.map((_, i) => traced(kernels[kernels.length - 1 - i]!)).reverse();
    });
    expect(again).toEqual(first);
    expect(new Set(first.map((mask) => mask.join())).size).toBeGreaterThan(100);
    expect(made).toBeLessThanOrEqual(8);
  });

  test('each has its own tree and directions again, whoever was there meanwhile', () => {
    const [tree, other] = towns(2) as [TriangleTree, TriangleTree];
    const kernel = new SimdKernel(tree);
    const one = traced(kernel);
    for (const between of towns(20)) traced(new SimdKernel(between));
    expect(traced(kernel)).toEqual(one);
    kernel.setTree(other);
    expect(traced(kernel)).toEqual(traced(new SimdKernel(other)));
    const few = new DirectionSet(upwards(40, rand));
    const mask = new Uint32Array(count * maskWords(few.count));
    const same = new Uint32Array(mask.length);
    kernel.trace(sensors, null, 0, count, few, mask);
    new SimdKernel(other).trace(sensors, null, 0, count, few, same);
    expect(mask).toEqual(same);
    kernel.setTree(tree);
    expect(traced(kernel)).toEqual(one);
  });
});

test('the bytes are those that the source makes', () => {
  const root = join(__dirname, '../../..');
  const built = execFileSync(process.execPath, ['scripts/kernel.mjs', '--print'], { cwd: root }).toString();
  expect(built).toBe(readFileSync(join(__dirname, 'kernel-bytes.ts'), 'utf8'));
});
