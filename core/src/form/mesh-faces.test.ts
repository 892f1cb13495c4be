import fc from 'fast-check';
import { boxMesh, meshOf, modelAt, SOUTH } from '../../testing/meshes';
import { areaWithHoles } from '../geometry';
import { onFace } from './faces';
import { flatPart, flatParts } from './flat-parts';
import { meshFace, meshFaceAt, uprightFaces } from './mesh-faces';

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

test('a box has six flat parts of two triangles, named by the lower one', () => {
  const mesh = boxMesh(4, 3, 2);
  const parts = flatParts(mesh, 0);
  expect(parts.map((part) => part.number)).toEqual([0, 2, 4, 6, 8, 10]);
  expect(parts.map((part) => part.areaM2)).toEqual([12, 12, 8, 6, 8, 6]);
  expect(flatPart(mesh, SOUTH + 1)).toBe(flatPart(mesh, SOUTH));
  expect(flatPart(mesh, SOUTH)!.normal).toEqual([0, -1, 0]);
  expect(flatPart(mesh, 99)).toBeNull();
});

test('a wall with a hole has one outline and one hole; its area is that of both', () => {
  // A frame 5 × 4 m round a hole 2 × 1 m, in eight triangles.
  const outer = [
    [0, 0],
    [5, 0],
    [5, 4],
    [0, 4],
  ] as const;
  const inner = [
    [1, 1],
    [3, 1],
    [3, 2],
    [1, 2],
  ] as const;
  const at = ([x, z]: readonly [number, number]) => [x, 7, z] as const;
  const mesh = meshOf(
    outer.map((a, i) => {
      const k = (i + 1) % 4;
      return [a, outer[k]!, inner[k]!, inner[i]!].map(at);
    }),
  );
  const face = meshFace(modelAt([0, 0, 0]), mesh, 0)!;
  expect(face.normal).toEqual([0, -1, 0]);
  expect(face.outline).toHaveLength(4);
  expect(face.holes).toHaveLength(1);
  expect(areaWithHoles({ outer: face.outline, holes: face.holes })).toBeCloseTo(18, 9);
  expect([face.lengthM, face.heightM]).toEqual([5, 4]);
});

test('a curved surface is no flat face, a finely bent one neither', () => {
  const strip = (pieces: number, bendDeg: number) =>
    meshOf(
      Array.from({ length: pieces }, (_, i) => {
        const at = (k: number, z: number) => {
          const angle = (bendDeg * Math.PI * k) / 180 / pieces;
          return [10 * Math.sin(angle), 10 * Math.cos(angle), z] as const;
        };
        return [at(i, 0), at(i, 3), at(i + 1, 3), at(i + 1, 0)];
      }),
    );
  const coarse = strip(6, 60);
  expect(flatParts(coarse, 0)).toHaveLength(6);
  const fine = strip(400, 60);
  expect(flatPart(fine, 0)).toBeNull();
  expect(meshFaceAt(modelAt([0, 0, 0]), fine, [0, 10, 1])).toBeNull();
});

test('two faces that are turned to each other at one place stay two; a split face is one', () => {
  const split = meshOf([
    [
      [0, 0, 0],
      [2, 0, 0],
      [2, 0, 3],
      [0, 0, 3],
    ],
    [
      [2, 0, 0],
      [5, 0, 0],
      [5, 0, 3],
      [2, 0, 3],
    ],
    [
      [5, 0, 0],
      [5, 4, 0],
      [5, 4, 3],
      [5, 0, 3],
    ],
  ]);
  expect(flatParts(split, 0).map((part) => part.areaM2)).toEqual([15, 12]);
  // The seam stays among the corners, so that what lies beside it still meets it.
  expect(flatPart(split, 0)!.outer).toHaveLength(6);
});

test('wherever a model stands, its faces lie on its mesh and look the way they are turned', () => {
  fc.assert(
    fc.property(
      number(-500, 500),
      number(-500, 500),
      number(-20, 20),
      number(-360, 360),
      (x, y, z, turnDeg) => {
        const mesh = boxMesh(4, 3, 2);
        const model = modelAt([x, y, z], { turnDeg });
        const face = meshFace(model, mesh, SOUTH)!;
        const turn = (turnDeg * Math.PI) / 180;
        expect(face.normal[0]).toBeCloseTo(Math.sin(turn), 9);
        expect(face.normal[1]).toBeCloseTo(-Math.cos(turn), 9);
        expect([face.lengthM, face.heightM]).toEqual([expect.closeTo(4, 9), expect.closeTo(2, 9)]);
        face.outline.forEach((p, i) =>
          onFace(face, p).forEach((value, k) => expect(value).toBeCloseTo(face.corners[i]![k]!, 9)),
        );
        expect(meshFaceAt(model, mesh, onFace(face, [1, 1]))!.key).toBe(face.key);
        expect(meshFaceAt(model, mesh, onFace(face, [1, 1], -0.5))).toBeNull();
      },
    ),
  );
});

test('the upright faces of a box are its four walls', () => {
  expect(uprightFaces(modelAt([0, 0, 0]), boxMesh(4, 3, 2)).map(({ key }) => key)).toEqual([
    'mesh/4',
    'mesh/6',
    'mesh/8',
    'mesh/10',
  ]);
});

test('whatever the order of its triangles and however they are cut, a box keeps its six faces', () => {
  fc.assert(
    fc.property(
      fc.array(number(0.05, 0.95), { minLength: 0, maxLength: 4 }),
      fc.infiniteStream(fc.nat()),
      (cuts, order) => {
        const stops = [
          0,
          ...[...new Set(cuts.map((c) => Math.round(c * 100) / 100))].sort((a, b) => a - b),
          1,
        ];
        const [x, y, z] = [6, 4, 3];
        const at = (u: number) => u * x;
        const strips = stops.slice(1).flatMap((to, i) => {
          const [a, b] = [at(stops[i]!), at(to)];
          return [
            [
              [a, 0, 0],
              [a, y, 0],
              [b, y, 0],
              [b, 0, 0],
            ],
            [
              [a, 0, z],
              [b, 0, z],
              [b, y, z],
              [a, y, z],
            ],
            [
              [a, 0, 0],
              [b, 0, 0],
              [b, 0, z],
              [a, 0, z],
            ],
            [
              [b, y, 0],
              [a, y, 0],
              [a, y, z],
              [b, y, z],
            ],
          ] as [number, number, number][][];
        });
        const ends: [number, number, number][][] = [
          [
            [0, y, 0],
            [0, 0, 0],
            [0, 0, z],
            [0, y, z],
          ],
          [
            [x, 0, 0],
            [x, y, 0],
            [x, y, z],
            [x, 0, z],
          ],
        ];
        const polygons = [...strips, ...ends];
        for (let i = polygons.length - 1; i > 0; i--) {
          const j = order.next().value! % (i + 1);
          [polygons[i], polygons[j]] = [polygons[j]!, polygons[i]!];
        }
        const parts = flatParts(meshOf(polygons), 0);
        expect(parts.map(({ areaM2 }) => Math.round(areaM2 * 1e6) / 1e6).sort((a, b) => a - b)).toEqual([
          12, 12, 18, 18, 24, 24,
        ]);
        const seen = parts.flatMap(({ triangles }) => triangles);
        expect(new Set(seen).size).toBe(seen.length);
        for (const part of parts) expect(part.number).toBe(Math.min(...part.triangles));
      },
    ),
    { numRuns: 60 },
  );
});

test('slivers and triangles without an area belong to the plane they lie in', () => {
  // A wall cut by a corner that lies on its foot but for a hair.
  const mesh = meshOf([
    [
      [0, 0, 0],
      [3, 0, 0.0000001],
      [3, 0, 3],
      [0, 0, 3],
    ],
    [
      [3, 0, 0.0000001],
      [6, 0, 0],
      [6, 0, 3],
      [3, 0, 3],
    ],
    [
      [0, 0, 0],
      [6, 0, 0],
      [3, 0, 0.0000001],
    ],
  ]);
  expect(flatParts(mesh, 0.1).map(({ areaM2 }) => Math.round(areaM2 * 1e4) / 1e4)).toEqual([18]);
});
