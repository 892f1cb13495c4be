import { doubled, type Piece } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry } from 'three';
import { cornerNumbers, flatNormal, joined } from './solid-geometry';

type Vec = [number, number, number];

interface Volume {
  position: Float32Array;
  normal: Float32Array;
  /** How many of the numbers are of faces; folds follow. */
  faces: number;
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
 * Attributes: position, and normal of the face that the vertex belongs to. Groups: 0 the faces, 1 the folds.
 */
export function shadeVolumes(pieces: readonly Piece[], part: CastingPart = 'blocking'): BufferGeometry {
  const made = pieces.map((piece) => volumeOf(piece, part));
  const inOrder = (of: 'position' | 'normal') => [
    ...made.map((volume) => volume[of].subarray(0, volume.faces)),
    ...made.map((volume) => volume[of].subarray(volume.faces)),
  ];
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(joined(inOrder('position')), 3));
  geometry.setAttribute('normal', new BufferAttribute(joined(inOrder('normal')), 3));
  const faces = made.reduce((sum, volume) => sum + volume.faces, 0) / 3;
  geometry.addGroup(0, faces, 0);
  geometry.addGroup(faces, geometry.getAttribute('position').count - faces, 1);
  return geometry;
}

function volumeOf(piece: Piece, part: CastingPart): Volume {
  let known = volumes.get(piece);
  if (!known) volumes.set(piece, (known = {}));
  return (known[part] ??= makeVolume(partPositions(piece, part)));
}

function makeVolume(positions: Float64Array): Volume {
  const out = new Sink(positions.length * 4);
  if (positions.length && !closedBody(positions, out)) openBody(positions, out);
  return out.taken();
}

/** Takes corners in, one after another. */
class Sink {
  private position: Float32Array;
  private normal: Float32Array;
  private used = 0;
  private faces = 0;

  /** @param room numbers that are made room for at first; more are taken in too */
  constructor(room: number) {
    this.position = new Float32Array(room);
    this.normal = new Float32Array(room);
  }

  add(p: Float64Array, at: number, [nx, ny, nz]: Vec): void {
    if (this.used === this.position.length) {
      this.position = doubled(this.position);
      this.normal = doubled(this.normal);
    }
    const { position, normal, used } = this;
    position[used] = p[at]!;
    position[used + 1] = p[at + 1]!;
    position[used + 2] = p[at + 2]!;
    normal[used] = nx;
    normal[used + 1] = ny;
    normal[used + 2] = nz;
    this.used += 3;
  }

  /** What comes from now on are folds. */
  endFaces(): void {
    this.faces = this.used;
  }

  taken(): Volume {
    const { used, faces } = this;
    return { position: this.position.slice(0, used), normal: this.normal.slice(0, used), faces };
  }
}

/** Puts a corner of the body: where corners lie together, all at the very same place, so that no sample slips between them. */
type Put = (at: number, normal: Vec) => void;

function putInto(out: Sink, p: Float64Array, of: Uint32Array): Put {
  const first = new Int32Array(of.length).fill(-1);
  return (at, normal) => {
    const number = of[at / 3]!;
    if (first[number]! < 0) first[number] = at;
    out.add(p, first[number]!, normal);
  };
}

/** The folded quad between face A along its edge a→b and face B along b→a. */
function fold(put: Put, a: number, b: number, normalA: Vec, normalB: Vec): void {
  put(b, normalA);
  put(a, normalA);
  put(a, normalB);
  put(b, normalA);
  put(a, normalB);
  put(b, normalB);
}

/** One side of an edge: where it begins and ends, and the normal of its face. */
interface Half {
  a: number;
  b: number;
  normal: Vec;
}

const turned = ([x, y, z]: Vec): Vec => [-x, -y, -z];

/** The same edge the other way, of a face with this normal. */
const reversed = ({ a, b }: Half, normal: Vec): Half => ({ a: b, b: a, normal });

/** Two faces that meet along an edge: one runs along it as `half`, the other, whose normal `other` is, the other way. */
interface Fold {
  half: Half;
  other: Vec;
}

/** Which of some edges, by their keys, come more than once. */
function repeated(keys: Float64Array): Set<number> {
  keys.sort();
  const found = new Set<number>();
  for (let i = 1; i < keys.length; i++) if (keys[i] === keys[i - 1]) found.add(keys[i]!);
  return found;
}

/**
 * The faces that meet along one edge in twos, those whose normals are nearest: faces that lie in one plane never open. Else,
 * where more than two meet, as at the foot of a parapet, two quads would open in the same place, one each way, and samples
 * would slip where rounding puts one of them before a surface and the other behind it.
 */
function nearestPairs(halves: readonly Half[], way: (half: Half) => boolean): Fold[] {
  const left = halves.filter((half) => !way(half));
  const likeness = ([ax, ay, az]: Vec, [bx, by, bz]: Vec) => ax * bx + ay * by + az * bz;
  const pairs = halves
    .filter(way)
    .flatMap((half) => left.map((back) => ({ half, back, like: likeness(half.normal, back.normal) })))
    .sort((x, y) => y.like - x.like);
  const used = new Set<Half>();
  return pairs.flatMap(({ half, back }) => {
    if (used.has(half) || used.has(back)) return [];
    used.add(half).add(back);
    return [{ half, other: back.normal }];
  });
}

/** What is met edge by edge: its corners, their numbers, and the key of an edge, the same both ways. */
function edgesOf(p: Float64Array) {
  const { of, edge } = cornerNumbers(p);
  const number = (at: number) => of[at / 3]!;
  const way = ({ a, b }: Half) => number(a) < number(b);
  const key = (half: Half) =>
    way(half) ? edge(number(half.a), number(half.b)) : edge(number(half.b), number(half.a));
  return { of, edge, way, key };
}

/**
 * Adds a solid in which every edge is run through as often one way as the other, as it is in a closed body and in closed
 * bodies that touch along edges; false, adding nothing, when it is none.
 */
function closedBody(p: Float64Array, out: Sink): boolean {
  const count = p.length / 9;
  const { of, edge, way, key } = edgesOf(p);
  const halves = new Map<number, Half[]>();
  const folds: Fold[] = [];
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
        folds.push({ half: others.pop()!, other: normal });
        if (others.length === 0) halves.delete(edge(to, from));
      } else {
        const same = halves.get(edge(from, to));
        if (same) same.push({ a, b, normal });
        else halves.set(edge(from, to), [{ a, b, normal }]);
      }
    }
  }
  if (halves.size) return false;
  const put = putInto(out, p, of);
  for (let t = 0; t < count; t++) {
    const normal = flatNormal(p, t);
    for (let k = 0; k < 3; k++) put(t * 9 + k * 3, normal);
  }
  out.endFaces();
  const busy = repeated(Float64Array.from(folds, ({ half }) => key(half)));
  const met = new Map<number, Half[]>();
  for (const { half, other } of folds) {
    const at = key(half);
    if (busy.has(at)) met.set(at, [...(met.get(at) ?? []), half, reversed(half, other)]);
    else fold(put, half.a, half.b, half.normal, other);
  }
  foldAll(put, met, way);
  return true;
}

/** Folds the faces together that meet along edges of more than two. */
function foldAll(put: Put, met: ReadonlyMap<number, readonly Half[]>, way: (half: Half) => boolean): void {
  for (const halves of met.values())
    for (const { half, other } of nearestPairs(halves, way)) fold(put, half.a, half.b, half.normal, other);
}

/**
 * Adds a sheet with two sides: a front and a back for every triangle, folds between neighbours on either side, which
 * open nowhere in the plane, and between front and back along every edge that has no neighbour.
 */
function openBody(p: Float64Array, out: Sink): void {
  const count = p.length / 9;
  const { of, edge, way, key } = edgesOf(p);
  const put = putInto(out, p, of);
  const halves = new Map<number, Half>();
  const folds: Fold[] = [];
  const alone: Half[] = [];
  for (let t = 0; t < count; t++) {
    const normal = flatNormal(p, t);
    const corners = [t * 9, t * 9 + 3, t * 9 + 6];
    for (const at of corners) put(at, normal);
    for (const at of [...corners].reverse()) put(at, turned(normal));
    corners.forEach((a, k) => {
      const b = corners[(k + 1) % 3]!;
      const [from, to] = [of[a / 3]!, of[b / 3]!];
      if (from === to) return;
      const half = halves.get(edge(to, from));
      if (half) {
        halves.delete(edge(to, from));
        folds.push({ half, other: normal });
      } else if (halves.has(edge(from, to))) alone.push({ a, b, normal });
      else halves.set(edge(from, to), { a, b, normal });
    });
  }
  out.endFaces();
  for (const half of halves.values()) alone.push(half);
  const busy = repeated(Float64Array.from([...folds.map(({ half }) => half), ...alone], key));
  const met = new Map<number, Half[]>();
  const meets = (half: Half, sides: () => Half[]): boolean => {
    const at = key(half);
    if (!busy.has(at)) return false;
    const fronts = sides();
    const backs = fronts.map((front) => reversed(front, turned(front.normal)));
    met.set(at, [...(met.get(at) ?? []), ...fronts, ...backs]);
    return true;
  };
  for (const { half, other } of folds) {
    if (meets(half, () => [half, reversed(half, other)])) continue;
    fold(put, half.a, half.b, half.normal, other);
    fold(put, half.b, half.a, turned(half.normal), turned(other));
  }
  for (const half of alone)
    if (!meets(half, () => [half])) fold(put, half.a, half.b, half.normal, turned(half.normal));
  foldAll(put, met, way);
}
