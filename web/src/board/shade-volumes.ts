import type { Piece } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry } from 'three';
import { cornerNumbers, flatNormal, joined } from './solid-geometry';

type Vec = [number, number, number];

interface Volume {
  position: Float32Array;
  normal: Float32Array;
}

/** What of a piece casts: what blocks the light, crowns, or what else lets some of it pass (panes, fences). */
export type CastingPart = 'blocking' | 'leaves' | 'glass';

export const CASTING_PARTS: readonly CastingPart[] = ['blocking', 'leaves', 'glass'];

/** Bodies of shade by piece and part; a piece is never changed. */
const volumes = new WeakMap<Piece, Partial<Record<CastingPart, Volume>>>();

/** The positions of the triangles of a part of a piece. */
function partPositions({ positions, opaque, surfaceOf, surfaces }: Piece, part: CastingPart): Float64Array {
  if (part === 'blocking') return positions.subarray(0, opaque * 9);
  const own: number[] = [];
  for (let t = opaque; t < surfaceOf.length; t++)
    if ((surfaces[surfaceOf[t]!]!.passing?.through === 'leaves') === (part === 'leaves')) own.push(t);
  const found = new Float64Array(own.length * 9);
  own.forEach((t, i) => found.set(positions.subarray(t * 9, t * 9 + 9), i * 9));
  return found;
}

/**
 * The bodies of shade of pieces, for any sun: the vertex shader moves every vertex whose face looks away from the sun
 * along the rays of the sun, so that each closed solid stretches into its own shade. Edges carry folded quads that open
 * where one face looks to the sun and the other does not. What is not closed casts as a sheet with two sides.
 *
 * Attributes: position, and normal of the face that the vertex belongs to.
 */
export function shadeVolumes(pieces: readonly Piece[], part: CastingPart = 'blocking'): BufferGeometry {
  const made = pieces.map((piece) => volumeOf(piece, part));
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(joined(made.map(({ position }) => position)), 3));
  geometry.setAttribute('normal', new BufferAttribute(joined(made.map(({ normal }) => normal)), 3));
  return geometry;
}

function volumeOf(piece: Piece, part: CastingPart): Volume {
  let known = volumes.get(piece);
  if (!known) volumes.set(piece, (known = {}));
  return (known[part] ??= makeVolume(partPositions(piece, part)));
}

function makeVolume(positions: Float64Array): Volume {
  const out: Sink = { position: [], normal: [] };
  if (positions.length && !closedBody(positions, out)) openBody(positions, out);
  return { position: Float32Array.from(out.position), normal: Float32Array.from(out.normal) };
}

type Sink = { position: number[]; normal: number[] };

function put(out: Sink, p: Float64Array, at: number, normal: Vec): void {
  out.position.push(p[at]!, p[at + 1]!, p[at + 2]!);
  out.normal.push(...normal);
}

/** The folded quad between face A along its edge a→b and face B along b→a. */
function fold(out: Sink, p: Float64Array, a: number, b: number, normalA: Vec, normalB: Vec): void {
  put(out, p, b, normalA);
  put(out, p, a, normalA);
  put(out, p, a, normalB);
  put(out, p, b, normalA);
  put(out, p, a, normalB);
  put(out, p, b, normalB);
}

/**
 * Adds a solid in which every edge is run through as often one way as the other, as it is in a closed body and in closed
 * bodies that touch along edges; false, adding nothing, when it is none.
 */
function closedBody(p: Float64Array, out: Sink): boolean {
  const count = p.length / 9;
  const { of, edge } = cornerNumbers(p);
  const halves = new Map<number, { a: number; b: number; normal: Vec }[]>();
  const folds: [number, number, Vec, Vec][] = [];
  for (let t = 0; t < count; t++) {
    const normal = flatNormal(p, t);
    for (let k = 0; k < 3; k++) {
      const a = t * 9 + k * 3;
      const b = t * 9 + ((k + 1) % 3) * 3;
      const from = of[a / 3]!;
      const to = of[b / 3]!;
      if (from === to) return false;
      const others = halves.get(edge(to, from));
      if (others) {
        const other = others.pop()!;
        folds.push([other.a, other.b, other.normal, normal]);
        if (others.length === 0) halves.delete(edge(to, from));
      } else {
        const same = halves.get(edge(from, to));
        if (same) same.push({ a, b, normal });
        else halves.set(edge(from, to), [{ a, b, normal }]);
      }
    }
  }
  if (halves.size) return false;
  for (let t = 0; t < count; t++) {
    const normal = flatNormal(p, t);
    for (let k = 0; k < 3; k++) put(out, p, t * 9 + k * 3, normal);
  }
  for (const [a, b, normalA, normalB] of folds) fold(out, p, a, b, normalA, normalB);
  return true;
}

/**
 * Adds a sheet with two sides: a front and a back for every triangle, folds between neighbours on either side, which
 * open nowhere in the plane, and between front and back along every edge that has no neighbour.
 */
function openBody(p: Float64Array, out: Sink): void {
  const turned = ([x, y, z]: Vec): Vec => [-x, -y, -z];
  const count = p.length / 9;
  const { of, edge } = cornerNumbers(p);
  const halves = new Map<number, { a: number; b: number; normal: Vec }>();
  for (let t = 0; t < count; t++) {
    const normal = flatNormal(p, t);
    const back = turned(normal);
    const corners = [t * 9, t * 9 + 3, t * 9 + 6];
    for (const at of corners) put(out, p, at, normal);
    for (const at of [...corners].reverse()) put(out, p, at, back);
    corners.forEach((a, k) => {
      const b = corners[(k + 1) % 3]!;
      const [from, to] = [of[a / 3]!, of[b / 3]!];
      if (from === to) return;
      const other = halves.get(edge(to, from));
      if (other) {
        halves.delete(edge(to, from));
        fold(out, p, other.a, other.b, other.normal, normal);
        fold(out, p, other.b, other.a, turned(other.normal), back);
      } else if (halves.has(edge(from, to))) fold(out, p, a, b, normal, back);
      else halves.set(edge(from, to), { a, b, normal });
    });
  }
  for (const { a, b, normal } of halves.values()) fold(out, p, a, b, normal, turned(normal));
}
