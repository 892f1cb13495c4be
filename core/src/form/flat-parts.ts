import type { Mesh, Point3 } from '../geometry';

/** Triangles of a mesh that meet along edges and lie in one plane. */
export interface FlatPart {
  /** Its lowest triangle, which names it. */
  number: number;
  triangles: number[];
  normal: Point3;
  /** Vertices round it, anticlockwise seen from outside, and round each hole, clockwise. */
  outer: number[];
  holes: number[][];
  areaM2: number;
}

/** Neighbouring triangles whose normals differ by less than this belong together: cosine of half a degree. */
const ALIKE = Math.cos(Math.PI / 360);
/** Slivers have no normal to rely on; they belong to a plane that their far corner is this near to, metres. */
const SLIVER_M = 5e-4;
/** How far a vertex may lie off the mean plane of its part, metres; what bends more is curved, not flat. */
const BEND_M = 0.01;

/** Vertices that the outline of a part may have. */
const MAX_CORNERS = 4000;

/** What is known of a mesh: which triangles share a vertex, and the parts found so far by each of their triangles. */
interface Known {
  starts: Uint32Array;
  triangles: Uint32Array;
  /** Unit normals; 0, 0, 0 of a triangle without an area. */
  normals: Float64Array;
  parts: Map<number, FlatPart | null>;
}

const known = new WeakMap<Mesh, Known>();

function knownOf(mesh: Mesh): Known {
  let found = known.get(mesh);
  if (!found) {
    const starts = new Uint32Array(mesh.positions.length / 3 + 1);
    for (const vertex of mesh.triangles) starts[vertex + 1]!++;
    for (let i = 1; i < starts.length; i++) starts[i]! += starts[i - 1]!;
    const next = starts.slice();
    const triangles = new Uint32Array(mesh.triangles.length);
    mesh.triangles.forEach((vertex, i) => (triangles[next[vertex]!++] = Math.floor(i / 3)));
    const normals = new Float64Array(mesh.triangles.length);
    for (let t = 0; t * 3 < normals.length; t++) {
      const [x, y, z] = areaVector(mesh, t);
      const length = Math.hypot(x, y, z);
      if (length > 1e-12) normals.set([x / length, y / length, z / length], t * 3);
    }
    found = { starts, triangles, normals, parts: new Map() };
    known.set(mesh, found);
  }
  return found;
}

/** The flat part that a triangle belongs to; null where the surface is curved there or its outline crosses itself. */
export function flatPart(mesh: Mesh, triangle: number): FlatPart | null {
  if (triangle < 0 || triangle * 3 >= mesh.triangles.length) return null;
  const { parts } = knownOf(mesh);
  const found = parts.get(triangle);
  if (found !== undefined) return found;
  const triangles = reachFrom(mesh, triangle);
  const part = partOf(mesh, triangles);
  for (const t of triangles) parts.set(t, part);
  return part;
}

/** All flat parts of a mesh that are large enough, in the order of their numbers. */
export function flatParts(mesh: Mesh, leastM2: number): FlatPart[] {
  const found = new Set<FlatPart>();
  for (let t = 0; t * 3 < mesh.triangles.length; t++) {
    const part = flatPart(mesh, t);
    if (part && part.areaM2 >= leastM2) found.add(part);
  }
  return [...found].sort((a, b) => a.number - b.number);
}

/** Twice the area vector of a triangle. */
function areaVector({ positions: p, triangles }: Mesh, t: number): Point3 {
  const [a, b, c] = [triangles[t * 3]! * 3, triangles[t * 3 + 1]! * 3, triangles[t * 3 + 2]! * 3];
  const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
  const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
}

function unit([x, y, z]: Point3): Point3 | null {
  const length = Math.hypot(x, y, z);
  return length > 1e-12 ? [x / length, y / length, z / length] : null;
}

/** How far a vertex lies off the plane through a triangle with this normal. */
function offPlane({ positions: p, triangles }: Mesh, t: number, normal: Point3, vertex: number): number {
  const a = triangles[t * 3]! * 3;
  const v = vertex * 3;
  return Math.abs(
    (p[v]! - p[a]!) * normal[0] + (p[v + 1]! - p[a + 1]!) * normal[1] + (p[v + 2]! - p[a + 2]!) * normal[2],
  );
}

/** The triangles that can be reached from one over edges at which the surface does not bend. */
function reachFrom(mesh: Mesh, from: number): number[] {
  const { starts, triangles: around } = knownOf(mesh);
  const { triangles } = mesh;
  const seen = new Set([from]);
  const found = [from];
  for (const t of found)
    for (let k = 0; k < 3; k++) {
      const a = triangles[t * 3 + k]!;
      const b = triangles[t * 3 + ((k + 1) % 3)]!;
      for (let i = starts[b]!; i < starts[b + 1]!; i++) {
        const other = around[i]!;
        if (seen.has(other)) continue;
        const far = cornerBeyond(triangles, other, b, a);
        if (far < 0 || bends(mesh, t, other, triangles[t * 3 + ((k + 2) % 3)]!, far)) continue;
        seen.add(other);
        found.push(other);
      }
    }
  return found;
}

/** The third corner of a triangle that has an edge from a to b, or −1. */
function cornerBeyond(triangles: Uint32Array, t: number, a: number, b: number): number {
  for (let k = 0; k < 3; k++)
    if (triangles[t * 3 + k] === a && triangles[t * 3 + ((k + 1) % 3)] === b)
      return triangles[t * 3 + ((k + 2) % 3)]!;
  return -1;
}

/** Whether the surface bends between two triangles with an edge in common; their corners off it are given. */
function bends(mesh: Mesh, t: number, u: number, cornerOfT: number, cornerOfU: number): boolean {
  const { normals: n } = knownOf(mesh);
  const [tx, ty, tz] = [n[t * 3]!, n[t * 3 + 1]!, n[t * 3 + 2]!];
  const [ux, uy, uz] = [n[u * 3]!, n[u * 3 + 1]!, n[u * 3 + 2]!];
  const cosine = tx * ux + ty * uy + tz * uz;
  if (cosine >= ALIKE) return false;
  const [hasT, hasU] = [tx !== 0 || ty !== 0 || tz !== 0, ux !== 0 || uy !== 0 || uz !== 0];
  if (hasT && hasU && cosine <= 0) return true;
  const off = Math.min(
    hasT ? offPlane(mesh, t, [tx, ty, tz], cornerOfU) : Infinity,
    hasU ? offPlane(mesh, u, [ux, uy, uz], cornerOfT) : Infinity,
  );
  return !(off < SLIVER_M);
}

function partOf(mesh: Mesh, triangles: number[]): FlatPart | null {
  const sum: [number, number, number] = [0, 0, 0];
  for (const t of triangles) areaVector(mesh, t).forEach((v, k) => (sum[k]! += v));
  const normal = unit(sum);
  if (!normal) return null;
  const largest = triangles.reduce((best, t) =>
    Math.hypot(...areaVector(mesh, t)) > Math.hypot(...areaVector(mesh, best)) ? t : best,
  );
  const edges = new Map<number, Set<number>>();
  for (const t of triangles)
    for (let k = 0; k < 3; k++) {
      const a = mesh.triangles[t * 3 + k]!;
      const b = mesh.triangles[t * 3 + ((k + 1) % 3)]!;
      if (offPlane(mesh, largest, normal, a) > BEND_M) return null;
      if (edges.get(b)?.delete(a)) continue;
      edges.set(a, (edges.get(a) ?? new Set()).add(b));
    }
  const loops = edges.size > MAX_CORNERS ? null : loopsOf(mesh, edges, normal);
  if (!loops) return null;
  const areas = loops.map((loop) => loopArea(mesh, loop, normal));
  const outer = areas.indexOf(Math.max(...areas));
  // One outline; everything else within it must be a hole.
  if (areas.some((area, i) => i !== outer && area > 0) || !(areas[outer]! > 0)) return null;
  return {
    number: triangles.reduce((least, t) => Math.min(least, t)),
    triangles,
    normal,
    outer: loops[outer]!,
    holes: loops.filter((_, i) => i !== outer),
    areaM2: areas.reduce((all, area) => all + area, 0),
  };
}

/** Edges joined to closed loops; at a vertex that is passed twice, the one that turns most to the right goes on. */
function loopsOf(mesh: Mesh, edges: Map<number, Set<number>>, normal: Point3): number[][] | null {
  const loops: number[][] = [];
  for (const [start, ends] of edges)
    while (ends.size) {
      const loop = [start];
      let before = start;
      let here = ends.values().next().value!;
      ends.delete(here);
      while (here !== start) {
        loop.push(here);
        const next = edges.get(here);
        if (!next?.size) return null;
        const to = [...next].reduce((best, v) =>
          turn(mesh, before, here, v, normal) < turn(mesh, before, here, best, normal) ? v : best,
        );
        next.delete(to);
        [before, here] = [here, to];
      }
      loops.push(loop);
    }
  return loops;
}

function step({ positions: p }: Mesh, a: number, b: number): Point3 {
  return [p[b * 3]! - p[a * 3]!, p[b * 3 + 1]! - p[a * 3 + 1]!, p[b * 3 + 2]! - p[a * 3 + 2]!];
}

/** Angle turned to the left at b on the way from a to c, seen against the normal. */
function turn(mesh: Mesh, a: number, b: number, c: number, [nx, ny, nz]: Point3): number {
  const [ux, uy, uz] = step(mesh, a, b);
  const [vx, vy, vz] = step(mesh, b, c);
  const across = nx * (uy * vz - uz * vy) + ny * (uz * vx - ux * vz) + nz * (ux * vy - uy * vx);
  return Math.atan2(across, ux * vx + uy * vy + uz * vz);
}

function loopArea(mesh: Mesh, loop: readonly number[], [nx, ny, nz]: Point3): number {
  let area = 0;
  for (let i = 1; i + 1 < loop.length; i++) {
    const [ux, uy, uz] = step(mesh, loop[0]!, loop[i]!);
    const [vx, vy, vz] = step(mesh, loop[0]!, loop[i + 1]!);
    area += nx * (uy * vz - uz * vy) + ny * (uz * vx - ux * vz) + nz * (ux * vy - uy * vx);
  }
  return area / 2;
}
