import { cross, dot, minus, type Point3 } from '../../geometry';

/** More corners than any mesh has. */
const CORNERS = 2 ** 26;

/** An edge from one corner to another as one number. */
export const edgeKey = (from: number, to: number): number => from * CORNERS + to;

/** Less than this is no body, m³: a sheet with two sides. */
const NOTHING_M3 = 1e-9;

/**
 * Where the solids of a list of triangles end, one after another: every edge of each is run through once either way, and it
 * faces outwards.
 * @param triangles three numbers of corners a triangle
 * @param at where a corner lies, metres
 * @returns one triangle past the last of each solid; null where one is open, holds nothing or faces inwards, or an edge has more
 * than two faces
 */
export function solidRuns(
  triangles: readonly number[] | Uint32Array,
  at: (corner: number) => Point3,
): number[] | null {
  const ends = closedRuns(triangles);
  let from = 0;
  for (const end of ends ?? []) {
    if (volume(triangles.slice(from * 3, end * 3), at) < NOTHING_M3) return null;
    from = end;
  }
  return ends;
}

function volume(triangles: readonly number[] | Uint32Array, at: (corner: number) => Point3): number {
  const from = at(triangles[0]!);
  let six = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => minus(at(triangles[t + k]!), from)) as [Point3, Point3, Point3];
    six += dot(a, cross(b, c));
  }
  return six / 6;
}

function closedRuns(triangles: readonly number[] | Uint32Array): number[] | null {
  const ends: number[] = [];
  let open = new Set<number>();
  let used = new Set<number>();
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[t + k]!, triangles[t + ((k + 1) % 3)]!];
      const edge = edgeKey(a, b);
      if (used.has(edge)) return null;
      used.add(edge);
      if (!open.delete(edgeKey(b, a))) open.add(edge);
    }
    if (open.size > 0) continue;
    ends.push(t / 3 + 1);
    open = new Set();
    used = new Set();
  }
  return open.size === 0 ? ends : null;
}
