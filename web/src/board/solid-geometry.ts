import { CornerIndex, type Piece } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry } from 'three';

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
  const { of, edge } = cornerNumbers(p);
  const seen = new Map<
    number,
    { normal: readonly [number, number, number]; at: [number, number]; drawn: boolean }
  >();
  const lines: number[] = [];
  const put = ([a, b]: [number, number]) =>
    lines.push(p[a]!, p[a + 1]!, p[a + 2]!, p[b]!, p[b + 1]!, p[b + 2]!);
  for (let t = 0; t < surfaceOf.length; t++) {
    const { kind } = surfaces[surfaceOf[t]!]!;
    if (kind === 'crown') continue;
    if (kind === 'device' && isThinPlate(p, t)) {
      // Else the slats of louvres would run together into black.
      lines.push(...plateOutline(p, t));
      t += BOX_TRIANGLES - 1;
      continue;
    }
    const normal = flatNormal(p, t);
    for (let k = 0; k < 3; k++) {
      const a = t * 9 + k * 3;
      const b = t * 9 + ((k + 1) % 3) * 3;
      const [ka, kb] = [of[a / 3]!, of[b / 3]!];
      const key = ka < kb ? edge(ka, kb) : edge(kb, ka);
      const other = seen.get(key);
      if (!other) {
        seen.set(key, { normal, at: [a, b], drawn: false });
        continue;
      }
      const cosine = normal[0] * other.normal[0] + normal[1] * other.normal[1] + normal[2] * other.normal[2];
      if (cosine < 0.985 && !other.drawn) put(other.at);
      other.drawn = true;
    }
  }
  for (const { drawn, at } of seen.values()) if (!drawn) put(at);
  return Float32Array.from(lines);
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

/** Corners by number, those that lie within a tenth of a millimetre alike, and edges by those of their ends. */
export interface CornerNumbers {
  /** Of each corner of each triangle. */
  of: Uint32Array;
  /** The number of an edge from one corner to another; the other way it is another. Takes numbers of corners. */
  edge: (from: number, to: number) => number;
}

export function cornerNumbers(p: Float64Array): CornerNumbers {
  const index = new CornerIndex(p.length / 9);
  const place = (i: number) => Math.round(p[i]! * 1e4);
  const of = Uint32Array.from({ length: p.length / 3 }, (_, c) =>
    index.add(place(c * 3), place(c * 3 + 1), place(c * 3 + 2)),
  );
  const { count } = index;
  return { of, edge: (from, to) => from * count + to };
}
