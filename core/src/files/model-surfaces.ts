import { InputError } from '../errors';
import { type Mesh, type Point2, ringProblem, signedArea } from '../geometry';
import { MAX_TERRAIN_POINTS } from '../project';

/** Spot heights of a surface: its corners, thinned evenly where there are too many, the highest of each place. */
export function terrainPoints(positions: Float64Array, notes: string[] = []): [number, number, number][] {
  const thin = (cell: number) => {
    const kept = new Map<string, [number, number, number]>();
    for (let i = 0; i < positions.length; i += 3) {
      const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
      const key = `${Math.round(x / cell)},${Math.round(y / cell)}`;
      const known = kept.get(key);
      if (!known || z > known[2]) kept.set(key, [x, y, z]);
    }
    return [...kept.values()];
  };
  let cell = 0.01;
  let points = thin(cell);
  const all = points.length;
  if (all > MAX_TERRAIN_POINTS) cell = 0.25;
  while (points.length > MAX_TERRAIN_POINTS) {
    points = thin(cell);
    cell *= 1.3;
  }
  if (points.length < all)
    notes.push(
      `The terrain is thinned from ${all.toLocaleString('en')} to ${points.length.toLocaleString('en')} points.`,
    );
  if (points.length < 3) throw new InputError('terrain', 'The terrain has fewer than three points.');
  return points;
}

/** The outer outline of a mesh that lies in one level plane, or null. */
export function levelOutline({ positions: p, triangles }: Mesh): { ring: Point2[]; levelM: number } | null {
  const level = p[2]!;
  for (let i = 2; i < p.length; i += 3) if (Math.abs(p[i]! - level) > 0.01) return null;
  const edges = new Map<string, [number, number]>();
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
    const up =
      (p[b * 3]! - p[a * 3]!) * (p[c * 3 + 1]! - p[a * 3 + 1]!) -
      (p[b * 3 + 1]! - p[a * 3 + 1]!) * (p[c * 3]! - p[a * 3]!);
    const around = up > 0 ? [a, b, c] : [a, c, b];
    around.forEach((from, k) => {
      const to = around[(k + 1) % 3]!;
      if (!edges.delete(`${to}>${from}`)) edges.set(`${from}>${to}`, [from, to]);
    });
  }
  const next = new Map(edges.values());
  let best: Point2[] | null = null;
  while (next.size) {
    const start = next.keys().next().value!;
    const loop: Point2[] = [];
    let here: number | undefined = start;
    while (here !== undefined && next.has(here)) {
      loop.push([p[here * 3]!, p[here * 3 + 1]!]);
      const to: number = next.get(here)!;
      next.delete(here);
      here = to;
    }
    if (here === start && (!best || signedArea(loop) > signedArea(best))) best = loop;
  }
  return best && !ringProblem(best) ? { ring: best, levelM: level } : null;
}
