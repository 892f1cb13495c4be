import earcut from 'earcut';
import { InputError } from '../errors';
import { type Mesh, type Point3, polygonNormal } from '../geometry';
import { MAX_TRIANGLES, tooMany } from './mesh-bytes';
import type { ModelGroup } from './model-file';

/** Collects the triangles of a model, welding corners that lie in the same place. */
export class MeshGather {
  private positions: number[] = [];
  private triangles: number[] = [];
  private readonly corners = new Map<string, number>();
  readonly groups: ModelGroup[] = [];
  /** Triangles left out because they have no area. */
  flat = 0;

  get count(): number {
    return this.triangles.length / 3;
  }

  group(name: string, more: Pick<ModelGroup, 'kind' | 'storey'> = {}): void {
    const last = this.groups.at(-1);
    if (last && last.firstTriangle === this.count) this.groups.pop();
    this.groups.push({ name, firstTriangle: this.count, ...more });
  }

  /** The number of a corner. Throws InputError `coordinate` when it is not a number or absurdly far away. */
  corner([x, y, z]: Point3): number {
    if (!(Math.abs(x) <= 1e9 && Math.abs(y) <= 1e9 && Math.abs(z) <= 1e9))
      throw new InputError('coordinate', 'The file has a coordinate that is not a number or is too large.');
    const key = `${x},${y},${z}`;
    let at = this.corners.get(key);
    if (at === undefined) {
      at = this.positions.length / 3;
      this.positions.push(x, y, z);
      this.corners.set(key, at);
    }
    return at;
  }

  triangle(a: number, b: number, c: number): void {
    if (a === b || b === c || a === c || !this.hasArea(a, b, c)) {
      this.flat++;
      return;
    }
    if (this.count >= MAX_TRIANGLES) throw tooMany(this.count + 1);
    this.triangles.push(a, b, c);
  }

  private hasArea(a: number, b: number, c: number): boolean {
    const p = this.positions;
    const [ux, uy, uz] = [0, 1, 2].map((k) => p[b * 3 + k]! - p[a * 3 + k]!) as [number, number, number];
    const [vx, vy, vz] = [0, 1, 2].map((k) => p[c * 3 + k]! - p[a * 3 + k]!) as [number, number, number];
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
    return { positions: Float64Array.from(this.positions), triangles: Uint32Array.from(this.triangles) };
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
  const numbers = new Map<string, number>();
  const kept: number[] = [];
  const key = (i: number) => {
    const at = (k: number) =>
      withinM > 0 ? Math.round(positions[i * 3 + k]! / withinM) : positions[i * 3 + k]!;
    return `${at(0)},${at(1)},${at(2)}`;
  };
  const renumbered = Uint32Array.from({ length: positions.length / 3 }, (_, i) => {
    const k = key(i);
    let number = numbers.get(k);
    if (number === undefined) {
      number = kept.length;
      numbers.set(k, number);
      kept.push(i);
    }
    return number;
  });
  const welded = new Float64Array(kept.length * 3);
  kept.forEach((i, n) => welded.set(positions.subarray(i * 3, i * 3 + 3), n * 3));
  return { positions: welded, triangles: triangles.map((i) => renumbered[i]!) };
}

/** Looks for open, crowded and turned edges and for a body that faces inwards. The mesh should be welded. */
export function meshFaults({ positions: p, triangles }: Mesh): MeshFaults {
  const vertices = p.length / 3;
  const edges = new Map<number, { forward: number; backward: number }>();
  let volume = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const a = triangles[t + k]!;
      const b = triangles[t + ((k + 1) % 3)]!;
      const key = a < b ? a * vertices + b : b * vertices + a;
      const edge = edges.get(key) ?? { forward: 0, backward: 0 };
      if (a < b) edge.forward++;
      else edge.backward++;
      edges.set(key, edge);
    }
    const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
    volume +=
      p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) -
      p[a + 1]! * (p[b]! * p[c + 2]! - p[b + 2]! * p[c]!) +
      p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!);
  }
  const faults: MeshFaults = { openEdges: 0, crowdedEdges: 0, turnedEdges: 0, insideOut: false };
  for (const { forward, backward } of edges.values()) {
    if (forward + backward === 1) faults.openEdges++;
    else if (forward + backward > 2) faults.crowdedEdges++;
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
  const numbers = new Map<number, number>();
  const kept: number[] = [];
  const part = triangles.subarray(from * 3, to * 3).map((i) => {
    let number = numbers.get(i);
    if (number === undefined) {
      number = numbers.size;
      numbers.set(i, number);
      kept.push(positions[i * 3]!, positions[i * 3 + 1]!, positions[i * 3 + 2]!);
    }
    return number;
  });
  return { positions: Float64Array.from(kept), triangles: part };
}
