import fc from 'fast-check';
import { InputError } from '../../errors';
import { MAX_TRIANGLES, meshFromBytes, meshFromFile, meshHash, meshToBytes, meshToFile } from '../mesh-bytes';
import { likelyUnit } from '../likely-unit';
import { extentOf, modelInMetres } from '../model-units';
import { readObj } from './obj';

const bytes = (text: string) => Uint8Array.from(Buffer.from(text, 'latin1'));

const BOX = `# a box, 10 by 6 by 30
o Tower
v 0 0 0
v 10 0 0
v 10 6 0
v 0 6 0
v 0 0 30
v 10 0 30
v 10 6 30
v 0 6 30
f 4 3 2 1
f 5 6 7 8
f 1/1/1 2/2/2 6//3 5
f -6 -5 -1 -2
f 2 3 7 6
g Back
f 4 1 5 8
`;

test('polygons are triangulated, facing as drawn', () => {
  const { mesh, groups } = readObj(bytes(BOX));
  expect(mesh.triangles.length).toBe(12 * 3);
  expect(groups).toEqual([
    { name: 'Tower', firstTriangle: 0 },
    { name: 'Back', firstTriangle: 10 },
  ]);
  let volume = 0;
  const p = (i: number) => Array.from(mesh.positions.subarray(i * 3, i * 3 + 3)) as [number, number, number];
  for (let t = 0; t < 36; t += 3) {
    const [a, b, c] = [p(mesh.triangles[t]!), p(mesh.triangles[t + 1]!), p(mesh.triangles[t + 2]!)];
    volume +=
      (a[0] * (b[1] * c[2] - b[2] * c[1]) -
        a[1] * (b[0] * c[2] - b[2] * c[0]) +
        a[2] * (b[0] * c[1] - b[1] * c[0])) /
      6;
  }
  expect(Math.abs(volume)).toBeCloseTo(10 * 6 * 30, 6);
});

test('concave polygons keep their area', () => {
  const { mesh } = readObj(bytes('v 0 0 0\nv 4 0 0\nv 4 4 0\nv 2 1 0\nv 0 4 0\nf 1 2 3 4 5\n'));
  let area = 0;
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => mesh.positions.subarray(mesh.triangles[t + k]! * 3)) as [
      Float64Array,
      Float64Array,
      Float64Array,
    ];
    area += ((b[0]! - a[0]!) * (c[1]! - a[1]!) - (b[1]! - a[1]!) * (c[0]! - a[0]!)) / 2;
  }
  expect(area).toBeCloseTo(16 - 0.5 * 4 * 3, 9);
});

test.each([
  ['NaN', 'v 0 nan 0\nf 1 1 1\n', 'Line 1: “nan” is not a coordinate.'],
  [
    'index past the end',
    'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n',
    'Line 4: a face names vertex 9, but 3 vertices stand before it.',
  ],
  ['index 0', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 0 1 2\n', 'Line 4: a face names vertex 0'],
  ['no faces', 'v 0 0 0\nv 1 0 0\n', 'The file holds 2 vertices but no faces'],
  ['nothing', '', 'The file is empty.'],
  ['text', 'hello\nworld\n', 'is it an OBJ file?'],
  ['binary', 'v 0 0 0\0\x01\x02', 'This is a binary file'],
  ['two corners', 'v 0 0 0\nv 1 0 0\nf 1 2\n', 'The file holds 2 vertices but no faces'],
  ['a word for an index', 'v 0 0 0\nf a b c\n', '“a” is not a vertex number'],
  ['cut off', 'v 0 0\n', 'a vertex has only 2 of its 3 coordinates'],
])('a file with %s is answered in a sentence', (_, text, sentence) => {
  expect(() => readObj(bytes(text))).toThrow(InputError);
  expect(() => readObj(bytes(text))).toThrow(sentence);
});

test('too many triangles and too many bytes are told with their limits', () => {
  const line = bytes('f 1 2 3\n');
  const head = bytes('v 0 0 0\nv 1 0 0\nv 0 1 0\n');
  const count = MAX_TRIANGLES + 5;
  const big = new Uint8Array(head.length + line.length * count);
  big.set(head);
  for (let i = 0; i < count; i++) big.set(line, head.length + i * line.length);
  expect(() => readObj(big)).toThrow('The model has 2,000,005 triangles; at most 2,000,000');
  expect(() => readObj({ length: 300 * 1024 * 1024 } as Uint8Array)).toThrow(
    'The file has 300 MB; at most 200 MB',
  );
});

test('no bytes make the reader crash or hang: it gives a mesh or a sentence', () => {
  const valid = bytes(BOX);
  const mutated = fc.tuple(
    fc.array(fc.tuple(fc.nat(valid.length - 1), fc.integer({ min: 1, max: 255 })), { maxLength: 12 }),
    fc.nat(valid.length),
  );
  fc.assert(
    fc.property(mutated, ([changes, cut]) => {
      const copy = valid.slice(0, cut);
      for (const [at, value] of changes) if (at < copy.length) copy[at] = value;
      try {
        const { mesh } = readObj(copy);
        expect(mesh.triangles.every((i) => i * 3 < mesh.positions.length)).toBe(true);
        expect(mesh.positions.every(Number.isFinite)).toBe(true);
      } catch (error) {
        expect(error).toBeInstanceOf(InputError);
        expect((error as Error).message).toMatch(/\.$|\?$/);
      }
    }),
    { numRuns: 2000 },
  );
});

test('units and axes', () => {
  const { mesh } = readObj(bytes(BOX));
  const feet = modelInMetres(mesh, 'ft', 'z');
  expect(extentOf(feet.positions).max).toEqual([3.048, expect.closeTo(1.8288, 9), expect.closeTo(9.144, 9)]);
  const yUp = modelInMetres(mesh, 'm', 'y');
  expect(extentOf(yUp.positions)).toEqual({ min: [0, -30, 0], max: [10, -0, 6] });
  expect(likelyUnit(mesh, 'z')).toBe('m');
  const huge = { ...mesh, positions: mesh.positions.map((v) => v * 400) };
  expect(likelyUnit(huge, 'z')).toBe('mm');
  expect(() => modelInMetres({ ...mesh, positions: mesh.positions.map((v) => v * 1e5) }, 'm', 'z')).toThrow(
    'km long; choose a smaller unit',
  );
});

test('a mesh goes through its bytes and through a project file unchanged, and broken bytes are refused', () => {
  const { mesh } = readObj(bytes(BOX));
  const raw = meshToBytes(mesh);
  expect(meshFromBytes(raw)).toEqual(mesh);
  expect(meshFromFile(meshToFile(mesh))).toEqual(mesh);
  expect(meshHash(mesh)).toMatch(/^[0-9a-f]{64}$/);
  expect(() => meshFromBytes(raw.slice(0, -1))).toThrow('cut off');
  expect(() => meshFromBytes(new Uint8Array(3))).toThrow('not a mesh');
  const wrong = raw.slice();
  new DataView(wrong.buffer).setUint32(wrong.length - 4, 99, true);
  expect(() => meshFromBytes(wrong)).toThrow('names vertex 100, but has only 8');
});
