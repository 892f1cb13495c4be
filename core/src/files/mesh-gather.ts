import earcut from 'earcut';
import { InputError } from '../errors';
import { CornerIndex, doubled, type Mesh, type Point3, polygonNormal } from '../geometry';
import { MAX_TRIANGLES, tooMany } from './mesh-bytes';
import type { ModelGroup } from './model-file';

/** Coordinates of a file at the most: those of a national grid in micrometres. */
export const MAX_COORDINATE = 1e13;

/** Collects the triangles of a model, welding corners that lie in the same place. */
export class MeshGather {
  private readonly corners = new CornerIndex();
  private triangles = new Uint32Array(3 * 1024);
  private triangleCount = 0;
  readonly groups: ModelGroup[] = [];
  /** Triangles left out because they have no area. */
  flat = 0;

  get count(): number {
    return this.triangleCount;
  }

  group(name: string, more: Omit<ModelGroup, 'name' | 'firstTriangle'> = {}): void {
    const last = this.groups.at(-1);
    if (last && last.firstTriangle === this.count) this.groups.pop();
    this.groups.push({ name, firstTriangle: this.count, ...more });
  }

  /** The number of a corner. Throws InputError `coordinate` when it is not a number or absurdly far away. */
  corner([x, y, z]: Point3): number {
    if (!(Math.abs(x) <= MAX_COORDINATE && Math.abs(y) <= MAX_COORDINATE && Math.abs(z) <= MAX_COORDINATE))
      throw new InputError('coordinate', 'The file has a coordinate that is not a number or is too large.');
    return this.corners.add(x, y, z);
  }

  triangle(a: number, b: number, c: number): void {
    if (a === b || b === c || a === c || !this.hasArea(a, b, c)) {
      this.flat++;
      return;
    }
    if (this.count >= MAX_TRIANGLES) throw tooMany(this.count + 1);
    if (this.triangles.length < (this.count + 1) * 3) this.triangles = doubled(this.triangles);
    const at = this.triangleCount++ * 3;
    this.triangles[at] = a;
    this.triangles[at + 1] = b;
    this.triangles[at + 2] = c;
  }

  private hasArea(a: number, b: number, c: number): boolean {
    const p = this.corners.places;
    const [ai, bi, ci] = [a * 3, b * 3, c * 3];
    const [ux, uy, uz] = [p[bi]! - p[ai]!, p[bi + 1]! - p[ai + 1]!, p[bi + 2]! - p[ai + 2]!];
    const [vx, vy, vz] = [p[ci]! - p[ai]!, p[ci + 1]! - p[ai + 1]!, p[ci + 2]! - p[ai + 2]!];
    return uy * vz !== uz * vy || uz * vx !== ux * vz || ux * vy !== uy * vx;
  }

  /** A flat polygon with holes, triangulated in the plane that its outline lies closest to. */
  polygon(outline: readonly Point3[], holes: readonly (readonly Point3[])[] = []): void {
    const n = polygonNormal(outline);
    const size = n.map(Math.abs);
    const drop = size.indexOf(Math.max(...size));
    const [u, v] = drop === 0 ? [1, 2] : drop === 1 ? [2, 0] : [0, 1];
    const all = [...outline, ...holes.flat()];
    const starts: number[] = [];
    let count = outline.length;
    for (const hole of holes) {
      starts.push(count);
      count += hole.length;
    }
    const indices = earcut(
      all.flatMap((p) => [p[u]!, p[v]!]),
      starts,
    );
    if (indices.length === 0) this.flat++;
    const numbers = all.map((p) => this.corner(p));
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [indices[i]!, indices[i + 1]!, indices[i + 2]!];
      const turn =
        (all[b]![u]! - all[a]![u]!) * (all[c]![v]! - all[a]![v]!) -
        (all[b]![v]! - all[a]![v]!) * (all[c]![u]! - all[a]![u]!);
      if (turn > 0 === n[drop]! > 0) this.triangle(numbers[a]!, numbers[b]!, numbers[c]!);
      else this.triangle(numbers[a]!, numbers[c]!, numbers[b]!);
    }
  }

  /** The mesh. Throws InputError with the given code when it has no triangles. */
  mesh(code: string, nothing: string): Mesh {
    if (this.count === 0) throw new InputError(code, nothing);
    return { positions: this.corners.places.slice(), triangles: this.triangles.slice(0, this.count * 3) };
  }
}

/** What is wrong with the body of a mesh. */
export interface MeshFaults {
  /** Edges with one triangle: the body is open there. */
  openEdges: number;
  /** Edges with more than two triangles. */
  crowdedEdges: number;
  /** Edges whose two triangles face opposite ways. */
  turnedEdges: number;
  /** Closed, but facing inwards. */
  insideOut: boolean;
}

/** Corners in the same place become one, so that neighbouring triangles know each other. Triangles keep their order. */
export function weldMesh({ positions, triangles }: Mesh, withinM = 0): Mesh {
  const index = new CornerIndex();
  const count = positions.length / 3;
  const renumbered = new Uint32Array(count);
  const kept = new Uint32Array(count);
  const at = (i: number) => (withinM > 0 ? Math.round(positions[i]! / withinM) : positions[i]!);
  for (let i = 0; i < count; i++) {
    const known = index.count;
    const number = index.add(at(i * 3), at(i * 3 + 1), at(i * 3 + 2));
    renumbered[i] = number;
    if (number === known) kept[number] = i;
  }
  const welded = new Float64Array(index.count * 3);
  for (let n = 0; n < index.count; n++) welded.set(positions.subarray(kept[n]! * 3, kept[n]! * 3 + 3), n * 3);
  return { positions: welded, triangles: triangles.map((i) => renumbered[i]!) };
}

/** Looks for open, crowded and turned edges and for a body that faces inwards. The mesh should be welded. */
export function meshFaults({ positions: p, triangles }: Mesh): MeshFaults {
  const vertices = p.length / 3;
  // Each edge by its two corners, the lower first, and which way it runs, so that those of one place stand together.
  const edges = new Float64Array(triangles.length);
  let volume = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const a = triangles[t + k]!;
      const b = triangles[t + ((k + 1) % 3)]!;
      edges[t + k] = (a < b ? a * vertices + b : b * vertices + a) * 2 + Number(a < b);
    }
    const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
    volume +=
      p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) -
      p[a + 1]! * (p[b]! * p[c + 2]! - p[b + 2]! * p[c]!) +
      p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!);
  }
  const faults: MeshFaults = { openEdges: 0, crowdedEdges: 0, turnedEdges: 0, insideOut: false };
  edges.sort();
  for (let i = 0; i < edges.length;) {
    const edge = Math.floor(edges[i]! / 2);
    let [count, forward] = [0, 0];
    for (; i < edges.length && Math.floor(edges[i]! / 2) === edge; i++) {
      count++;
      forward += edges[i]! % 2;
    }
    if (count === 1) faults.openEdges++;
    else if (count > 2) faults.crowdedEdges++;
    else if (forward !== 1) faults.turnedEdges++;
  }
  faults.insideOut = faults.openEdges + faults.crowdedEdges + faults.turnedEdges === 0 && volume < 0;
  return faults;
}

/** What is wrong with a mesh, one sentence each. Light is blocked from both sides whatever is said here. */
export function faultSentences(faults: MeshFaults): string[] {
  const edges = (n: number) => `${n.toLocaleString('en')} ${n === 1 ? 'edge' : 'edges'}`;
  return [
    faults.openEdges > 0 && `The surface is open along ${edges(faults.openEdges)}; light may get in there.`,
    faults.crowdedEdges > 0 && `More than two faces meet along ${edges(faults.crowdedEdges)}.`,
    faults.turnedEdges > 0 && `Neighbouring faces look opposite ways along ${edges(faults.turnedEdges)}.`,
    faults.insideOut && 'The body is closed but its faces look inwards.',
  ].filter((sentence) => sentence !== false);
}

/** The part of a mesh from one triangle up to another, with only the corners it needs. */
export function meshPart({ positions, triangles }: Mesh, from: number, to: number): Mesh {
  const part = new Uint32Array(triangles.subarray(from * 3, to * 3));
  const count = positions.length / 3;
  // A large part is renumbered by a list of all corners, a small one by what it holds.
  const known = part.length * 8 > count ? new Int32Array(count).fill(-1) : new Map<number, number>();
  const kept = new Uint32Array(Math.min(count, part.length));
  let next = 0;
  for (let k = 0; k < part.length; k++) {
    const i = part[k]!;
    const found = known instanceof Map ? (known.get(i) ?? -1) : known[i]!;
    if (found >= 0) {
      part[k] = found;
      continue;
    }
    if (known instanceof Map) known.set(i, next);
    else known[i] = next;
    kept[next] = i;
    part[k] = next++;
  }
  const own = new Float64Array(next * 3);
  for (let n = 0; n < next; n++) own.set(positions.subarray(kept[n]! * 3, kept[n]! * 3 + 3), n * 3);
  return { positions: own, triangles: part };
}
