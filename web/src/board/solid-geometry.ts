import type { Piece } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry } from 'three';
import { nextSide, triangleEdges } from './triangle-edges';

export type Rgb = readonly [number, number, number];

/** Colour of each surface as red, green and blue from 0 to 1. */
export type SurfaceColours = (surface: number) => Rgb;

/** Normals of the triangles of a piece, once for each of their corners; the same piece gives the same array. */
const normals = new WeakMap<Piece, Float32Array>();

function normalsOf(piece: Piece): Float32Array {
  let known = normals.get(piece);
  if (!known) {
    known = new Float32Array(piece.positions.length);
    for (let t = 0; t < piece.surfaceOf.length; t++) {
      const [x, y, z] = flatNormal(piece.positions, t);
      for (let o = t * 9; o < t * 9 + 9; o += 3) {
        known[o] = x;
        known[o + 1] = y;
        known[o + 2] = z;
      }
    }
    normals.set(piece, known);
  }
  return known;
}

/** Triangles of pieces, one after another, with flat normals and the colours of their surfaces. */
export function solidGeometry(parts: readonly { piece: Piece; colours: readonly Rgb[] }[]): BufferGeometry {
  const count = parts.reduce((sum, { piece }) => sum + piece.surfaceOf.length, 0);
  const position = new Float32Array(count * 9);
  const normal = new Float32Array(count * 9);
  const colour = new Float32Array(count * 9);
  const hole = new Float32Array(count * 3);
  let at = 0;
  for (const { piece, colours } of parts) {
    position.set(piece.positions, at);
    normal.set(normalsOf(piece), at);
    for (const surface of piece.surfaceOf) {
      const c = colours[surface]!;
      const { passing } = piece.surfaces[surface]!;
      if (passing?.through === 'screen') hole.fill(passing.share, at / 3, at / 3 + 3);
      for (const end = at + 9; at < end; at += 3) {
        colour[at] = c[0];
        colour[at + 1] = c[1];
        colour[at + 2] = c[2];
      }
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(position, 3));
  geometry.setAttribute('normal', new BufferAttribute(normal, 3));
  geometry.setAttribute('color', new BufferAttribute(colour, 3));
  // How far a screen is open.
  geometry.setAttribute('hole', new BufferAttribute(hole, 1));
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

const inks = new WeakMap<Piece, Float32Array>();

/** Ink lines of pieces, as pairs of points. */
export function edgePoints(pieces: readonly Piece[]): Float32Array {
  return joined(pieces.map(pieceEdges));
}

/** Float arrays one after another. */
export function joined(parts: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/** Edges worth an ink line: where faces of a piece meet at an angle, or a face ends. The same piece gives the same array. */
function pieceEdges(piece: Piece): Float32Array {
  let known = inks.get(piece);
  if (!known) {
    known = makeEdges(piece);
    inks.set(piece, known);
  }
  return known;
}

function makeEdges({ positions: p, surfaceOf, surfaces }: Piece): Float32Array {
  const lines: number[] = [];
  // What is drawn by its edges; of crowns no ink is drawn.
  const isInked = new Uint8Array(surfaceOf.length);
  for (let t = 0; t < surfaceOf.length; t++) {
    const { kind } = surfaces[surfaceOf[t]!]!;
    if (kind === 'device' && isThinPlate(p, t)) {
      // Else the slats of louvres would run together into black.
      lines.push(...plateOutline(p, t));
      t += BOX_TRIANGLES - 1;
    } else if (kind !== 'crown') isInked[t] = 1;
  }
  const { count, first, sides } = triangleEdges(p);
  for (let e = 0; e < count; e++) {
    let [one, other] = [-1, -1];
    for (let i = first[e]!; i < first[e + 1]! && other < 0; i++) {
      const side = sides[i]!;
      if (!isInked[Math.floor(side / 3)]) continue;
      if (one < 0) one = side;
      else other = side;
    }
    if (one < 0 || (other >= 0 && isFlat(p, Math.floor(one / 3), Math.floor(other / 3)))) continue;
    for (const at of [one * 3, nextSide(one) * 3]) lines.push(p[at]!, p[at + 1]!, p[at + 2]!);
  }
  return Float32Array.from(lines);
}

/** Whether two triangles lie so nearly in one plane that no line is drawn between them. */
function isFlat(p: Float64Array, one: number, other: number): boolean {
  const [a, b] = [flatNormal(p, one), flatNormal(p, other)];
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2] >= 0.985;
}

/** Triangles of one solid of a device, two for each of its six faces. */
const BOX_TRIANGLES = 12;
/** A plate thinner than this is drawn by the outline of one of its sides, metres. */
const THIN_M = 0.03;

const cornerOf = (p: Float64Array, t: number, k: number): [number, number, number] => [
  p[t * 9 + k * 3]!,
  p[t * 9 + k * 3 + 1]!,
  p[t * 9 + k * 3 + 2]!,
];
const apart = (a: readonly number[], b: readonly number[]) =>
  Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!);

/** Whether the solid of a device that begins at a triangle is a thin plate: its first face is an end of it, a thin strip. */
function isThinPlate(p: Float64Array, t: number): boolean {
  const [a, b, c] = [0, 1, 2].map((k) => cornerOf(p, t, k)) as unknown as [number[], number[], number[]];
  return Math.min(apart(a, b), apart(b, c)) < THIN_M;
}

/** The outline of the largest face of the solid that begins at a triangle, as pairs of points. */
function plateOutline(p: Float64Array, t: number): number[] {
  let [face, most] = [t, 0];
  for (let f = t; f < t + BOX_TRIANGLES; f += 2) {
    const [a, b, c] = [0, 1, 2].map((k) => cornerOf(p, f, k)) as unknown as [number[], number[], number[]];
    const size = apart(a, b) * apart(b, c);
    if (size > most) [face, most] = [f, size];
  }
  // Its two triangles are a, b, c and a, c, d.
  const ring = [cornerOf(p, face, 0), cornerOf(p, face, 1), cornerOf(p, face, 2), cornerOf(p, face + 1, 2)];
  return ring.flatMap((corner, i) => [...corner, ...ring[(i + 1) % 4]!]);
}
