import { RAD } from '../civil';
import {
  bounds,
  cross,
  dot,
  type Mesh,
  placedMesh,
  type Point2,
  type Point3,
  ringProblem,
} from '../geometry';
import type { Model, OpeningHost } from '../project';
import { type Face, hostKey } from './faces';
import { type FlatPart, flatPart, flatParts } from './flat-parts';

/** A mesh as it stands in a project: which one, and where. */
export type PlacedModel = Pick<Model, 'move' | 'turnDeg'>;

/** Area from which a flat part of a mesh counts as a face that a rule may be for, m². */
const MIN_FACE_M2 = 0.5;
/** How far a normal may point up or down for the face to count as upright. */
const UPRIGHT = 0.02;

interface Placed {
  mesh: Mesh;
  vertices: Float64Array;
  faces: Map<number, Face | null>;
}

const placed = new WeakMap<PlacedModel, Placed>();

function placedOf(model: PlacedModel, mesh: Mesh): Placed {
  let found = placed.get(model);
  if (found?.mesh !== mesh) {
    found = { mesh, vertices: placedMesh(mesh, model.move, model.turnDeg), faces: new Map() };
    placed.set(model, found);
  }
  return found;
}

/** Vertices of a model in the project; 3 numbers a vertex. */
export function modelVertices(model: PlacedModel, mesh: Mesh): Float64Array {
  return placedOf(model, mesh).vertices;
}

/**
 * The flat face of a model that a triangle of its mesh belongs to, null where the mesh is curved there. u runs level to
 * the right seen from outside, v upwards; both start at the lower left corner of the box round the face.
 */
export function meshFace(model: PlacedModel, mesh: Mesh, triangle: number): Face | null {
  const part = flatPart(mesh, triangle);
  if (!part) return null;
  const { faces, vertices } = placedOf(model, mesh);
  let face = faces.get(part.number);
  if (face === undefined) {
    face = faceOf(part, model, vertices);
    faces.set(part.number, face);
  }
  return face;
}

/** The upright faces of a model that a rule may be for. */
export function uprightFaces(model: PlacedModel, mesh: Mesh): Face[] {
  return flatParts(mesh, MIN_FACE_M2)
    .filter(({ normal }) => Math.abs(normal[2]) < UPRIGHT)
    .flatMap((part) => meshFace(model, mesh, part.number) ?? []);
}

/** The flat face of a model at a place on its surface, or null where it is curved or the place lies elsewhere. */
export function meshFaceAt(model: PlacedModel, mesh: Mesh, at: Point3): Face | null {
  const { vertices } = placedOf(model, mesh);
  let nearest = -1;
  let least = 0.02;
  for (let t = 0; t * 3 < mesh.triangles.length; t++) {
    if (!isBeside(vertices, mesh.triangles, t, at, least)) continue;
    const distance = fromTriangle(vertices, mesh.triangles, t, at);
    if (distance < least) [nearest, least] = [t, distance];
  }
  return nearest < 0 ? null : meshFace(model, mesh, nearest);
}

/** Whether the box round a triangle comes within a distance of a point. */
function isBeside(p: Float64Array, triangles: Uint32Array, t: number, at: Point3, near: number): boolean {
  const [a, b, c] = [triangles[t * 3]! * 3, triangles[t * 3 + 1]! * 3, triangles[t * 3 + 2]! * 3];
  for (let k = 0; k < 3; k++) {
    const low = Math.min(p[a + k]!, p[b + k]!, p[c + k]!);
    const high = Math.max(p[a + k]!, p[b + k]!, p[c + k]!);
    if (at[k]! < low - near || at[k]! > high + near) return false;
  }
  return true;
}

/** Distance of a point from the plane of a triangle where its foot lies within the triangle, else infinite. */
function fromTriangle(p: Float64Array, triangles: Uint32Array, t: number, at: Point3): number {
  const corner = (k: number): Point3 => {
    const o = triangles[t * 3 + k]! * 3;
    return [p[o]! - at[0], p[o + 1]! - at[1], p[o + 2]! - at[2]];
  };
  const [a, b, c] = [corner(0), corner(1), corner(2)];
  const n = cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]]);
  const area2 = dot(n, n);
  if (area2 < 1e-18) return Infinity;
  const slack = -1e-4 * area2;
  for (const [x, y] of [
    [a, b],
    [b, c],
    [c, a],
  ] as const)
    if (dot(cross(x, y), n) < slack) return Infinity;
  return Math.abs(dot(a, n)) / Math.sqrt(area2);
}

function faceOf(part: FlatPart, { turnDeg }: PlacedModel, vertices: Float64Array): Face | null {
  const [c, s] = [Math.cos(turnDeg * RAD), Math.sin(turnDeg * RAD)];
  const [mx, my, mz] = part.normal;
  const normal: Point3 = [c * mx - s * my, s * mx + c * my, mz];
  const level = Math.hypot(normal[0], normal[1]);
  const u: Point3 = level < 1e-9 ? [1, 0, 0] : [-normal[1] / level, normal[0] / level, 0];
  const v = cross(normal, u);
  const at = (i: number): Point3 => [vertices[i * 3]!, vertices[i * 3 + 1]!, vertices[i * 3 + 2]!];
  const corners = part.outer.map(at);
  const base = corners[0]!;
  const flat = (p: Point3): Point2 => {
    const d: Point3 = [p[0] - base[0], p[1] - base[1], p[2] - base[2]];
    return [dot(d, u), dot(d, v)];
  };
  const rough = corners.map(flat);
  if (ringProblem(rough)) return null;
  const { minX, minY, maxX, maxY } = bounds(rough);
  const shift = ([x, y]: Point2): Point2 => [x - minX, y - minY];
  const origin = [0, 1, 2].map((k) => base[k]! + u[k]! * minX + v[k]! * minY);
  const holeCorners = part.holes.map((hole) => hole.map(at));
  const host: OpeningHost = { on: 'mesh', face: part.number };
  return {
    key: hostKey(host),
    host,
    origin: [origin[0]!, origin[1]!, origin[2]!],
    u,
    v,
    normal,
    outline: rough.map(shift),
    holes: holeCorners.map((hole) => hole.map((p) => shift(flat(p)))),
    corners,
    holeCorners,
    lengthM: maxX - minX,
    heightM: maxY - minY,
  };
}
