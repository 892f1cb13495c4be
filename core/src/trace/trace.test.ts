import fc from 'fast-check';
import { stream } from '../../testing/stream';
import { DirectionSet } from './direction-set';
import { firstBlock } from './first-block';
import { isOpen, type Kernel, MaskKernel, maskWords } from './mask-kernel';
import { SimdKernel } from './simd-kernel';
import { TriangleTree } from './tree';

function soup(count: number, rand: () => number, size = 1): Float64Array {
  const out = new Float64Array(count * 9);
  for (let t = 0; t < count; t++) {
    const centre = [0, 1, 2].map(() => rand() * 20 - 10);
    for (let k = 0; k < 9; k++) out[t * 9 + k] = centre[k % 3]! + (rand() - 0.5) * size;
  }
  return out;
}

function sphere(count: number, rand: () => number): Float64Array {
  const out = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) {
    const z = rand() * 2 - 1;
    const turn = rand() * 2 * Math.PI;
    const r = Math.sqrt(1 - z * z);
    out.set([r * Math.cos(turn), r * Math.sin(turn), z], i * 3);
  }
  return out;
}

/** Möller & Trumbore, Fast, Minimum Storage Ray/Triangle Intersection (1997), both sides; distance or null. */
function reference(p: Float64Array, t: number, o: number[], d: number[]): number | null {
  const v = (k: number) => [p[t * 9 + k * 3]!, p[t * 9 + k * 3 + 1]!, p[t * 9 + k * 3 + 2]!];
  const sub = (a: number[], b: number[]) => a.map((x, i) => x - b[i]!);
  const cross = (a: number[], b: number[]) => [
    a[1]! * b[2]! - a[2]! * b[1]!,
    a[2]! * b[0]! - a[0]! * b[2]!,
    a[0]! * b[1]! - a[1]! * b[0]!,
  ];
  const dot = (a: number[], b: number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
  const e1 = sub(v(1), v(0));
  const e2 = sub(v(2), v(0));
  const q = cross(d, e2);
  const det = dot(e1, q);
  if (Math.abs(det) < 1e-15) return null;
  const s = sub(o, v(0));
  const u = dot(s, q) / det;
  const r = cross(s, e1);
  const w = dot(d, r) / det;
  const distance = dot(e2, r) / det;
  return u >= 0 && w >= 0 && u + w <= 1 && distance > 0 ? distance : null;
}

const KERNELS: [string, (tree: TriangleTree) => Kernel][] = [
  ['plain', (tree) => new MaskKernel(tree)],
  ['SIMD', (tree) => new SimdKernel(tree)],
];

test.each(KERNELS)('%s: mask and first block agree with brute force on random triangles', (_, kernelOf) => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 0, max: 120 }), (seed, triangles) => {
      const rand = stream(seed);
      const positions = soup(triangles, rand, 3);
      const tree = TriangleTree.build(positions);
      const vectors = sphere(70, rand);
      const set = new DirectionSet(vectors);
      const sensors = Float64Array.from({ length: 9 }, () => rand() * 16 - 8);
      const words = maskWords(70);
      const mask = new Uint32Array(3 * words);
      kernelOf(tree).trace(sensors, null, 0, 3, set, mask);
      const other: unknown[] = [];
      for (let s = 0; s < 3; s++) {
        const o = Array.from(sensors.subarray(s * 3, s * 3 + 3));
        for (let i = 0; i < 70; i++) {
          const d = Array.from(vectors.subarray(i * 3, i * 3 + 3));
          let nearest = Infinity;
          let found = -1;
          for (let t = 0; t < triangles; t++) {
            const distance = reference(positions, t, o, d);
            if (distance !== null && distance < nearest) {
              nearest = distance;
              found = t;
            }
          }
          if (isOpen(mask, words, s, i) !== found < 0) other.push(['any', s, i]);
          if (firstBlock(tree, o[0]!, o[1]!, o[2]!, d[0]!, d[1]!, d[2]!) !== found)
            other.push(['first', s, i]);
        }
      }
      expect(other).toEqual([]);
    }),
    { numRuns: 40 },
  );
});

test.each(KERNELS)(
  '%s: a closed box is dark inside to the last ray, even along its edges and corners, 100 km from the origin',
  (_, kernelOf) => {
    const corners = (cx: number): Float64Array => {
      const c = (i: number) => [cx + (i & 1 ? 1 : -1), i & 2 ? 1 : -1, i & 4 ? 1 : -1];
      const faces = [
        [0, 2, 3, 1],
        [4, 5, 7, 6],
        [0, 1, 5, 4],
        [2, 6, 7, 3],
        [0, 4, 6, 2],
        [1, 3, 7, 5],
      ];
      return Float64Array.from(
        faces.flatMap(([a, b, d, e]) => [c(a!), c(b!), c(d!), c(a!), c(d!), c(e!)].flat()),
      );
    };
    const exact: number[] = [];
    for (const x of [-1, 0, 1])
      for (const y of [-1, 0, 1])
        for (const z of [-1, 0, 1])
          if (x || y || z) {
            const length = Math.hypot(x, y, z);
            exact.push(x / length, y / length, z / length);
          }
    const vectors = Float64Array.from([...exact, ...sphere(5000, stream(3))]);
    const set = new DirectionSet(vectors);
    for (const cx of [0, 100_000]) {
      const tree = TriangleTree.build(corners(cx));
      const sensors = Float64Array.of(cx, 0, 0, cx + 0.3, -0.7, 0.999);
      const mask = new Uint32Array(2 * maskWords(set.count));
      kernelOf(tree).trace(sensors, null, 0, 2, set, mask);
      expect(mask.every((word) => word === 0)).toBe(true);
    }
  },
);

test.each(KERNELS)(
  '%s: adding triangles never opens a direction, and nothing lies behind a surface',
  (_, kernelOf) => {
    const rand = stream(11);
    const few = soup(60, rand, 3);
    const more = Float64Array.from([...few, ...soup(60, rand, 3)]);
    const set = new DirectionSet(sphere(200, rand));
    const words = maskWords(200);
    const normals = Float64Array.of(0, 0, 1);
    const trace = (positions: Float64Array) => {
      const mask = new Uint32Array(words);
      kernelOf(TriangleTree.build(positions)).trace(Float64Array.of(0, 0, 0), normals, 0, 1, set, mask);
      return mask;
    };
    const before = trace(few);
    const after = trace(more);
    after.forEach((word, i) => expect(word & ~before[i]!).toBe(0));
    expect(after).not.toEqual(before);
    const open = trace(new Float64Array(0));
    let count = 0;
    for (let i = 0; i < 200; i++) if (isOpen(open, words, 0, i)) count++;
    expect(count).toBe(
      Array.from(set.lanes.index).filter((d, lane) => d >= 0 && set.lanes.z[lane]! > 0).length,
    );
  },
);

test('the directions of a set are all there once, padded packets do not count', () => {
  const vectors = sphere(333, stream(5));
  const set = new DirectionSet(vectors);
  const seen = Array.from(set.lanes.index)
    .filter((d) => d >= 0)
    .sort((a, b) => a - b);
  expect(seen).toEqual(Array.from({ length: 333 }, (_, i) => i));
});

test('a tree crosses a thread boundary by its buffers', () => {
  const tree = TriangleTree.build(soup(50, stream(2), 2));
  const copy = TriangleTree.from(structuredClone({ ...tree }));
  for (const [x, y, z] of [
    [1, 0, 0],
    [0, 1, 0],
    [0.6, 0, 0.8],
  ] as const)
    expect(firstBlock(copy, 0, 0, 0, x, y, z)).toBe(firstBlock(tree, 0, 0, 0, x, y, z));
});

test('triangles that are not finite are refused', () => {
  expect(() => TriangleTree.build(Float64Array.of(0, 0, 0, 1, 0, 0, 0, NaN, 0))).toThrow(
    'Triangle 1 has a coordinate',
  );
  expect(() => TriangleTree.build(new Float64Array(8))).toThrow('nine coordinates');
});
