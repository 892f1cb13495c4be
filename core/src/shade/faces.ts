import { dot, type Point3, triangleNormal } from '../geometry';
import type { Passing, Piece, SurfaceKind } from '../scene';

/** A flat part of a piece that casts shade: its outline and holes, which run the other way, and its unit normal. */
export interface CastingFace {
  /** Anticlockwise seen from outside, holes clockwise. */
  rings: Point3[][];
  normal: Point3;
  kind: SurfaceKind;
  /** What lets light pass through it, of an opening or not; null: it blocks. */
  passing: Passing | null;
  isPane: boolean;
}

/** The flat parts of a piece: those that block the light, and those that let some of it pass. */
export interface CastingFaces {
  faces: CastingFace[];
  passing: CastingFace[];
  /** Whether the faces bound a solid: then those turned to the sun cast all of its shade. */
  isClosed: boolean;
}

const known = new WeakMap<Piece, CastingFaces>();

/** The faces of a piece, one for each flat surface of it; of what is not flat, triangle by triangle. */
export function castingFaces(piece: Piece): CastingFaces {
  let found = known.get(piece);
  if (!found) {
    found = makeFaces(piece);
    known.set(piece, found);
  }
  return found;
}

type Triangle = [Point3, Point3, Point3];

/** Corners that are nearer than this are one, metres. */
const SAME_M = 1e-5;
const key = (p: Point3) => p.map((v) => Math.round(v / SAME_M)).join();

function makeFaces(piece: Piece): CastingFaces {
  const { positions: p, surfaceOf, surfaces, opaque } = piece;
  const at = (o: number): Point3 => [p[o]!, p[o + 1]!, p[o + 2]!];
  const bySurface = (from: number, to: number) => {
    const found = new Map<number, Triangle[]>();
    for (let t = from; t < to; t++) {
      const o = t * 9;
      const triangle: Triangle = [at(o), at(o + 3), at(o + 6)];
      const there = found.get(surfaceOf[t]!);
      if (there) there.push(triangle);
      else found.set(surfaceOf[t]!, [triangle]);
    }
    return found;
  };
  const blocking = bySurface(0, opaque);
  return {
    faces: facesOf(blocking, surfaces),
    passing: facesOf(bySurface(opaque, surfaceOf.length), surfaces),
    isClosed: isClosed(blocking),
  };
}

function facesOf(bySurface: ReadonlyMap<number, Triangle[]>, surfaces: Piece['surfaces']): CastingFace[] {
  const faces: CastingFace[] = [];
  for (const [surface, triangles] of bySurface) {
    const { normal, kind, passing, opening } = surfaces[surface]!;
    const about = { kind, passing, isPane: opening !== null };
    const flat = isFlat(triangles, normal) ? boundary(triangles) : null;
    if (flat) faces.push({ rings: flat, normal, ...about });
    else for (const triangle of triangles) faces.push(...triangleFace(triangle, about));
  }
  return faces;
}

function triangleFace(
  [a, b, c]: Triangle,
  about: Pick<CastingFace, 'kind' | 'passing' | 'isPane'>,
): CastingFace[] {
  const normal = triangleNormal(a, b, c);
  // A sliver has no side, and casts nothing.
  return normal.every((v) => v === 0) ? [] : [{ rings: [[a, b, c]], normal, ...about }];
}

function isFlat(triangles: readonly Triangle[], normal: Point3): boolean {
  const offset = dot(triangles[0]![0], normal);
  return triangles.every((corners) =>
    corners.every((corner) => Math.abs(dot(corner, normal) - offset) < 1e-6),
  );
}

/** The rings that bound triangles of one plane: edges that no other runs back along. Null where they do not close. */
function boundary(triangles: readonly Triangle[]): Point3[][] | null {
  const edges = new Map<string, { from: string; to: string; at: Point3 }>();
  for (const corners of triangles)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [corners[k]!, corners[(k + 1) % 3]!];
      const [from, to] = [key(a), key(b)];
      if (from === to) continue;
      if (!edges.delete(`${to}|${from}`)) edges.set(`${from}|${to}`, { from, to, at: a });
    }
  const out = new Map<string, { to: string; at: Point3 }[]>();
  for (const { from, to, at } of edges.values()) out.set(from, [...(out.get(from) ?? []), { to, at }]);
  const rings: Point3[][] = [];
  for (const [start, waiting] of out)
    while (waiting.length) {
      const ring: Point3[] = [];
      let here = start;
      do {
        const next = out.get(here)?.pop();
        if (!next) return null;
        ring.push(next.at);
        here = next.to;
      } while (here !== start);
      if (ring.length > 2) rings.push(ring);
    }
  return rings;
}

/** Whether every edge is run through as often one way as the other. */
function isClosed(bySurface: ReadonlyMap<number, Triangle[]>): boolean {
  const open = new Map<string, number>();
  for (const triangles of bySurface.values())
    for (const corners of triangles)
      for (let k = 0; k < 3; k++) {
        const [from, to] = [key(corners[k]!), key(corners[(k + 1) % 3]!)];
        if (from === to) continue;
        const [name, way] = from < to ? [`${from}|${to}`, 1] : [`${to}|${from}`, -1];
        const sum = (open.get(name) ?? 0) + way;
        if (sum) open.set(name, sum);
        else open.delete(name);
      }
  return open.size === 0;
}
