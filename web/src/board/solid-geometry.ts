import type { Scene } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry } from 'three';

/** Colour of each owner as red, green and blue from 0 to 1. */
export type OwnerColours = readonly (readonly [number, number, number])[];

/** Triangles of a scene with flat normals and the colour of their owner. Triangle i is triangle i of the scene. */
export function solidGeometry(scene: Scene, colours: OwnerColours): BufferGeometry {
  const count = scene.surfaceOf.length;
  const position = new Float32Array(scene.positions);
  const normal = new Float32Array(count * 9);
  const colour = new Float32Array(count * 9);
  for (let t = 0; t < count; t++) {
    const n = flatNormal(scene.positions, t);
    const c = colours[scene.ownerOf[scene.surfaceOf[t]!]!]!;
    for (let k = 0; k < 3; k++) {
      normal.set(n, t * 9 + k * 3);
      colour.set(c, t * 9 + k * 3);
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(position, 3));
  geometry.setAttribute('normal', new BufferAttribute(normal, 3));
  geometry.setAttribute('color', new BufferAttribute(colour, 3));
  return geometry;
}

/** Unit normal of triangle t of a list of positions. */
export function flatNormal(p: Float64Array, t: number): [number, number, number] {
  const o = t * 9;
  const ux = p[o + 3]! - p[o]!;
  const uy = p[o + 4]! - p[o + 1]!;
  const uz = p[o + 5]! - p[o + 2]!;
  const vx = p[o + 6]! - p[o]!;
  const vy = p[o + 7]! - p[o + 1]!;
  const vz = p[o + 8]! - p[o + 2]!;
  const x = uy * vz - uz * vy;
  const y = uz * vx - ux * vz;
  const z = ux * vy - uy * vx;
  const length = Math.hypot(x, y, z) || 1;
  return [x / length, y / length, z / length];
}

/** Edges worth an ink line: where faces of one owner meet at an angle, or a face ends. Pairs of points. */
export function inkEdges(scene: Scene, wanted: (owner: number) => boolean): Float32Array {
  const seen = new Map<string, { normal: [number, number, number]; points: number[]; drawn: boolean }>();
  const lines: number[] = [];
  const p = scene.positions;
  for (let t = 0; t < scene.surfaceOf.length; t++) {
    const owner = scene.ownerOf[scene.surfaceOf[t]!]!;
    if (!wanted(owner)) continue;
    const normal = flatNormal(p, t);
    for (let k = 0; k < 3; k++) {
      const a = t * 9 + k * 3;
      const b = t * 9 + ((k + 1) % 3) * 3;
      const ka = pointKey(p, a);
      const kb = pointKey(p, b);
      const key = `${owner}|${ka < kb ? `${ka}|${kb}` : `${kb}|${ka}`}`;
      const other = seen.get(key);
      if (!other) {
        seen.set(key, {
          normal,
          points: [p[a]!, p[a + 1]!, p[a + 2]!, p[b]!, p[b + 1]!, p[b + 2]!],
          drawn: false,
        });
        continue;
      }
      const cosine = normal[0] * other.normal[0] + normal[1] * other.normal[1] + normal[2] * other.normal[2];
      if (cosine < 0.985 && !other.drawn) lines.push(...other.points);
      other.drawn = true;
    }
  }
  for (const edge of seen.values()) if (!edge.drawn) lines.push(...edge.points);
  return Float32Array.from(lines);
}

/** A point to the tenth of a millimetre, as text. */
export function pointKey(p: Float64Array, at: number): string {
  return `${Math.round(p[at]! * 1e4)},${Math.round(p[at + 1]! * 1e4)},${Math.round(p[at + 2]! * 1e4)}`;
}
