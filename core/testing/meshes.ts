import type { Mesh } from '../src/geometry';
import type { Model } from '../src/project';

type Point = readonly [number, number, number];

/** Flat polygons as a mesh: each a fan from its first corner, corners in the same place shared. */
export function meshOf(polygons: readonly (readonly Point[])[]): Mesh {
  const numbers = new Map<string, number>();
  const positions: number[] = [];
  const number = (p: Point) => {
    const key = p.join(',');
    let n = numbers.get(key);
    if (n === undefined) {
      n = numbers.size;
      numbers.set(key, n);
      positions.push(...p);
    }
    return n;
  };
  const triangles = polygons.flatMap((corners) => {
    const [first, ...rest] = corners.map(number);
    return rest.slice(1).flatMap((c, i) => [first!, rest[i]!, c]);
  });
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** A closed box from the origin, facing outwards: bottom, top, south, east, north, west, two triangles each. */
export function boxMesh(x: number, y: number, z: number): Mesh {
  return meshOf([
    [
      [0, 0, 0],
      [0, y, 0],
      [x, y, 0],
      [x, 0, 0],
    ],
    [
      [0, 0, z],
      [x, 0, z],
      [x, y, z],
      [0, y, z],
    ],
    [
      [0, 0, 0],
      [x, 0, 0],
      [x, 0, z],
      [0, 0, z],
    ],
    [
      [x, 0, 0],
      [x, y, 0],
      [x, y, z],
      [x, 0, z],
    ],
    [
      [x, y, 0],
      [0, y, 0],
      [0, y, z],
      [x, y, z],
    ],
    [
      [0, y, 0],
      [0, 0, 0],
      [0, 0, z],
      [0, y, z],
    ],
  ]);
}

/** Triangles of the south wall of `boxMesh` begin here. */
export const SOUTH = 4;

export const HASH = 'a'.repeat(64);

/** A model of the mesh that is stored under `HASH`. */
export function modelAt(move: [number, number, number], more: Partial<Model> = {}): Model {
  return {
    id: 'kiosk',
    name: 'Kiosk',
    mesh: HASH,
    triangles: 12,
    move,
    turnDeg: 0,
    openness: 0,
    openings: [],
    demolished: false,
    ...more,
  };
}

/** What a closed mesh that faces outwards holds, told from one of its corners. */
export function volumeOf({ positions: p, triangles }: Mesh): number {
  const at = (t: number) => [0, 1, 2].map((k) => p[triangles[t]! * 3 + k]! - p[triangles[0]! * 3 + k]!);
  let six = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [at(t), at(t + 1), at(t + 2)] as [number[], number[], number[]];
    six +=
      a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) +
      a[1]! * (b[2]! * c[0]! - b[0]! * c[2]!) +
      a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!);
  }
  return six / 6;
}
