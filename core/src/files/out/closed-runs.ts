/** More corners than any mesh has. */
const CORNERS = 2 ** 26;

/** An edge from one corner to another as one number. */
export const edgeKey = (from: number, to: number): number => from * CORNERS + to;

/**
 * Where the closed bodies of a list of triangles end, one after another: every edge of each is run through once either way.
 * @param triangles three numbers of corners a triangle
 * @returns one triangle past the last of each body; null where one is open, or an edge has more than two faces
 */
export function closedRuns(triangles: readonly number[] | Uint32Array): number[] | null {
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
