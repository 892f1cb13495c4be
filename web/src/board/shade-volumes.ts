import { doubled, type Piece } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry } from 'three';
import { flatNormal, joined } from './solid-geometry';
import { nextSide, type TriangleEdges, triangleEdges } from './triangle-edges';

/** A body of shade: corners with the normals of their faces, and triangles of them. */
interface Volume {
  position: Float32Array;
  normal: Float32Array;
  index: Uint32Array;
  /** How many entries of the index are of faces; those of folds follow. */
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
  const geometry = new BufferGeometry();
  for (const name of ['position', 'normal'] as const)
    geometry.setAttribute(name, new BufferAttribute(joined(made.map((volume) => volume[name])), 3));
  const { index, faces } = joinedIndex(made);
  geometry.setIndex(new BufferAttribute(index, 1));
  geometry.addGroup(0, faces, 0);
  geometry.addGroup(faces, index.length - faces, 1);
  return geometry;
}

/** The triangles of all, those of faces first. */
function joinedIndex(made: readonly Volume[]): { index: Uint32Array; faces: number } {
  const faces = made.reduce((sum, volume) => sum + volume.faces, 0);
  const index = new Uint32Array(made.reduce((sum, volume) => sum + volume.index.length, 0));
  let [ofFaces, ofFolds, before] = [0, faces, 0];
  for (const volume of made) {
    for (let i = 0; i < volume.faces; i++) index[ofFaces++] = before + volume.index[i]!;
    for (let i = volume.faces; i < volume.index.length; i++) index[ofFolds++] = before + volume.index[i]!;
    before += volume.position.length / 3;
  }
  return { index, faces };
}

function volumeOf(piece: Piece, part: CastingPart): Volume {
  let known = volumes.get(piece);
  if (!known) volumes.set(piece, (known = {}));
  return (known[part] ??= makeVolume(partPositions(piece, part)));
}

function makeVolume(p: Float64Array): Volume {
  const edges = triangleEdges(p);
  const corners = p.length / 3;
  const sides = isClosed(edges, corners / 3) ? 1 : 2;
  const { position, normal } = cornersOf(p, edges.corner, sides);
  const out = new Triangles(corners * 4 * sides);
  for (let c = 0; c < corners; c += 3) {
    out.add(c, c + 1, c + 2);
    if (sides === 2) out.add(corners + c + 2, corners + c + 1, corners + c);
  }
  const faces = out.length;
  const likeness = (one: number, other: number) =>
    [0, 1, 2].reduce((sum, k) => sum + normal[one * 3 + k]! * normal[other * 3 + k]!, 0);
  for (let e = 0; e < edges.count; e++) foldEdge(out, edges, e, sides === 2 ? corners : 0, likeness);
  return { position, normal, index: out.taken(), faces };
}

/**
 * Corners with the normals of their triangles; of a sheet, after them, the same of the backs. Corners of one number lie all at
 * the very same place, so that no sample slips between them.
 */
function cornersOf(p: Float64Array, corner: Uint32Array, sides: number): Pick<Volume, 'position' | 'normal'> {
  const place = new Int32Array(corner.length).fill(-1);
  const position = new Float32Array(p.length * sides);
  const normal = new Float32Array(p.length * sides);
  for (let at = 0; at < corner.length; at++) {
    const number = corner[at]!;
    if (place[number]! < 0) place[number] = at;
    const from = place[number]! * 3;
    for (let k = 0; k < 3; k++) position[at * 3 + k] = p[from + k]!;
  }
  for (let t = 0; t < p.length / 9; t++) {
    const facing = flatNormal(p, t);
    for (let c = t * 9; c < t * 9 + 9; c += 3) normal.set(facing, c);
  }
  if (sides === 2) {
    position.copyWithin(p.length, 0, p.length);
    for (let i = 0; i < p.length; i++) normal[p.length + i] = -normal[i]!;
  }
  return { position, normal };
}

/**
 * Whether every edge is run through as often one way as the other, as it is in a closed body and in closed bodies that touch
 * along edges.
 */
function isClosed({ corner, count, first, sides }: TriangleEdges, triangles: number): boolean {
  if (sides.length < triangles * 3) return false;
  for (let e = 0; e < count; e++) {
    let balance = 0;
    for (let i = first[e]!; i < first[e + 1]!; i++) {
      const side = sides[i]!;
      balance += corner[side]! < corner[nextSide(side)]! ? 1 : -1;
    }
    if (balance !== 0) return false;
  }
  return true;
}

/** A list of triangles that grows. */
class Triangles {
  length = 0;
  private index: Uint32Array;

  constructor(room: number) {
    this.index = new Uint32Array(room);
  }

  add(a: number, b: number, c: number): void {
    if (this.length + 3 > this.index.length) this.index = doubled(this.index);
    const { index, length } = this;
    index[length] = a;
    index[length + 1] = b;
    index[length + 2] = c;
    this.length += 3;
  }

  /** The folded quad between a face that runs along an edge and one that runs the other way. */
  fold(one: Run, other: Run): void {
    this.add(one.to, one.from, other.to);
    this.add(one.to, other.to, other.from);
  }

  taken(): Uint32Array {
    return this.index.slice(0, this.length);
  }
}

/** One way along an edge, as a face or the back of one runs: from which of its corners to which. */
interface Run {
  from: number;
  to: number;
}

/**
 * The folds along an edge. Of a sheet with two sides, whose backs have their corners `backs` later, fronts are folded with
 * fronts and backs with backs, which open nowhere in the plane, and front with back where it has no neighbour.
 */
function foldEdge(
  out: Triangles,
  { corner, first, sides }: TriangleEdges,
  edge: number,
  backs: number,
  likeness: (one: number, other: number) => number,
): void {
  const along = sides.subarray(first[edge]!, first[edge + 1]!);
  const front = (side: number): Run => ({ from: side, to: nextSide(side) });
  const back = (side: number): Run => ({ from: nextSide(side) + backs, to: side + backs });
  const [one, other] = along as unknown as [number, number];
  if (along.length === 1) out.fold(front(one), back(one));
  else if (along.length === 2 && corner[one] !== corner[other]) {
    out.fold(front(one), front(other));
    if (backs) out.fold(back(one), back(other));
  } else {
    const all = [...along];
    const runs = [...all.map(front), ...(backs ? all.map(back) : [])];
    foldNearest(out, runs, corner, likeness);
  }
}

/**
 * Folds the faces that meet along one edge in twos, those whose normals are nearest: faces that lie in one plane never open.
 * Else, where more than two meet, as at the foot of a parapet, two quads would open in the same place, one each way, and
 * samples would slip where rounding puts one of them before a surface and the other behind it.
 */
function foldNearest(
  out: Triangles,
  runs: readonly Run[],
  corner: Uint32Array,
  likeness: (one: number, other: number) => number,
): void {
  const isUp = ({ from, to }: Run) => corner[from % corner.length]! < corner[to % corner.length]!;
  const down = runs.filter((run) => !isUp(run));
  const pairs = runs
    .filter(isUp)
    .flatMap((one) => down.map((other) => ({ one, other, like: likeness(one.from, other.from) })))
    .sort((x, y) => y.like - x.like);
  const used = new Set<Run>();
  for (const { one, other } of pairs) {
    if (used.has(one) || used.has(other)) continue;
    used.add(one).add(other);
    out.fold(one, other);
  }
}
