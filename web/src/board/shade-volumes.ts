import type { Piece } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry } from 'three';
import { flatNormal, joined, pointKey } from './solid-geometry';

type Vec = [number, number, number];

interface Volume {
  position: Float32Array;
  normal: Float32Array;
}

/** Bodies of shade by piece; a piece is never changed. */
const volumes = new WeakMap<Piece, Volume>();

/**
 * The bodies of shade of pieces, for any sun: the vertex shader moves every vertex whose face looks away from the sun
 * along the rays of the sun, so that each closed solid stretches into its own shade. Edges carry folded quads that open
 * where one face looks to the sun and the other does not. What is not closed casts triangle by triangle, each as a
 * body without thickness.
 *
 * Attributes: position, and normal of the face that the vertex belongs to.
 */
export function shadeVolumes(pieces: readonly Piece[]): BufferGeometry {
  const made = pieces.map(volumeOf);
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(joined(made.map(({ position }) => position)), 3));
  geometry.setAttribute('normal', new BufferAttribute(joined(made.map(({ normal }) => normal)), 3));
  return geometry;
}

function volumeOf(piece: Piece): Volume {
  let known = volumes.get(piece);
  if (!known) {
    const out: Sink = { position: [], normal: [] };
    if (!closedBody(piece.positions, out)) openBody(piece.positions, out);
    known = { position: Float32Array.from(out.position), normal: Float32Array.from(out.normal) };
    volumes.set(piece, known);
  }
  return known;
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
  const halves = new Map<string, { a: number; b: number; normal: Vec }[]>();
  const folds: [number, number, Vec, Vec][] = [];
  for (let t = 0; t < count; t++) {
    const normal = flatNormal(p, t);
    for (let k = 0; k < 3; k++) {
      const a = t * 9 + k * 3;
      const b = t * 9 + ((k + 1) % 3) * 3;
      const from = pointKey(p, a);
      const to = pointKey(p, b);
      if (from === to) return false;
      const others = halves.get(`${to}|${from}`);
      if (others) {
        const other = others.pop()!;
        folds.push([other.a, other.b, other.normal, normal]);
        if (others.length === 0) halves.delete(`${to}|${from}`);
      } else {
        const same = halves.get(`${from}|${to}`);
        if (same) same.push({ a, b, normal });
        else halves.set(`${from}|${to}`, [{ a, b, normal }]);
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

function openBody(p: Float64Array, out: Sink): void {
  const count = p.length / 9;
  for (let t = 0; t < count; t++) {
    const front = flatNormal(p, t);
    const back: Vec = [-front[0], -front[1], -front[2]];
    const [a, b, c] = [t * 9, t * 9 + 3, t * 9 + 6];
    for (const at of [a, b, c]) put(out, p, at, front);
    for (const at of [c, b, a]) put(out, p, at, back);
    fold(out, p, a, b, front, back);
    fold(out, p, b, c, front, back);
    fold(out, p, c, a, front, back);
  }
}
