import { containsWithHoles, intersectPolygons, type Mesh, type Point2, triangulate } from '../geometry';
import type { EnvelopeSolver } from './envelope-field';
import { type EnvelopeLattice, levelOn } from './envelope-lattice';
import { placesAlong } from './plates-under';

/** The surface of an envelope and the walls below its edge, as triangles. */
export interface EnvelopeShell {
  top: Mesh;
  /** Which reason decides each triangle of the top; −1: none. */
  reason: Int16Array;
  /** From the edge of the top down to the ground. */
  walls: Mesh;
  /** The edge of the top, two places a stretch: x, y, z, x, y, z. */
  edge: Float64Array;
}

/** Corners nearer than this are one. */
const WELD = 1e4;

/** The surface of an envelope where it is limited, cut to what may be built on; never under the ground. */
export function envelopeShell(solver: EnvelopeSolver, lattice: EnvelopeLattice): EnvelopeShell {
  const { columns, rows, x0, y0, stepM, levelM, decidedBy, open } = lattice;
  const crossed = new Set<number>();
  for (const { outer, holes } of open)
    for (const ring of [outer, ...holes])
      for (const [x, y] of placesAlong(ring, stepM / 6))
        for (const [dx, dy] of NUDGES)
          crossed.add(
            Math.floor((y + dy * stepM - y0) / stepM) * columns + Math.floor((x + dx * stepM - x0) / stepM),
          );
  const numbers = new Map<string, number>();
  const [positions, triangles, reason]: number[][] = [[], [], []];
  const vertex = ([x, y]: Point2): number => {
    const key = `${Math.round(x * WELD)}:${Math.round(y * WELD)}`;
    const known = numbers.get(key);
    if (known !== undefined) return known;
    const at = numbers.size;
    numbers.set(key, at);
    positions!.push(x, y, Math.max(levelOn(lattice, [x, y]), solver.groundAt([x, y])));
    return at;
  };
  const face = (corners: readonly Point2[], why: number) => {
    const [a, b, c] = corners.map(vertex) as [number, number, number];
    if (a === b || b === c || c === a) return;
    triangles!.push(a, b, c);
    reason!.push(why);
  };
  for (let row = 0; row + 1 < rows; row++)
    for (let column = 0; column + 1 < columns; column++) {
      const i = row * columns + column;
      const nodes = [i, i + 1, i + columns + 1, i + columns];
      if (!nodes.every((one) => Number.isFinite(levelM[one]!))) continue;
      const [x, y] = [x0 + column * stepM, y0 + row * stepM];
      const box: Point2[] = [
        [x, y],
        [x + stepM, y],
        [x + stepM, y + stepM],
        [x, y + stepM],
      ];
      const why = decidedBy[i]!;
      if (!crossed.has(i)) {
        const middle: Point2 = [x + stepM / 2, y + stepM / 2];
        if (!open.some((region) => containsWithHoles(region, middle))) continue;
        face([box[0]!, box[1]!, box[2]!], why);
        face([box[0]!, box[2]!, box[3]!], why);
        continue;
      }
      for (const { outer, holes } of intersectPolygons([{ outer: box, holes: [] }], open)) {
        const rings = [outer, ...holes];
        const points = rings.flat();
        const corners = triangulate(rings);
        for (let k = 0; k < corners.length; k += 3)
          face([points[corners[k]!]!, points[corners[k + 1]!]!, points[corners[k + 2]!]!], why);
      }
    }
  const top: Mesh = { positions: Float64Array.from(positions!), triangles: Uint32Array.from(triangles!) };
  return { top, reason: Int16Array.from(reason!), ...wallsBelow(solver, top) };
}

const NUDGES = [
  [0, 0],
  [1e-3, 1e-3],
  [-1e-3, -1e-3],
  [1e-3, -1e-3],
  [-1e-3, 1e-3],
] as const;

/** The sides of triangles that no other triangle shares. */
function openSides({ triangles }: Mesh): [number, number][] {
  const sides = new Map<string, [number, number] | null>();
  for (let i = 0; i < triangles.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[i + k]!, triangles[i + ((k + 1) % 3)]!];
      const key = a < b ? `${a}:${b}` : `${b}:${a}`;
      sides.set(key, sides.has(key) ? null : [a, b]);
    }
  return [...sides.values()].filter((side) => side !== null);
}

/** The walls from the edge of a top down to the ground, and that edge. */
export function wallsBelow(solver: EnvelopeSolver, top: Mesh): Pick<EnvelopeShell, 'walls' | 'edge'> {
  const { positions: p } = top;
  const [positions, triangles, edge]: number[][] = [[], [], []];
  for (const [a, b] of openSides(top)) {
    const at = (i: number): [number, number, number] => [p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!];
    const [from, to] = [at(a), at(b)];
    edge!.push(...from, ...to);
    const first = positions!.length / 3;
    const foot = ([x, y, z]: readonly number[]) => [x!, y!, Math.min(z!, solver.groundAt([x!, y!]))];
    positions!.push(...from, ...to, ...foot(to), ...foot(from));
    triangles!.push(first, first + 2, first + 1, first, first + 3, first + 2);
  }
  return {
    walls: { positions: Float64Array.from(positions!), triangles: Uint32Array.from(triangles!) },
    edge: Float64Array.from(edge!),
  };
}

/** The space under an envelope as a closed body: its top, the walls below its edge, and its underside on the ground. */
export function envelopeBody(solver: EnvelopeSolver, { top, walls }: EnvelopeShell): Mesh {
  const n = top.positions.length / 3;
  const under = top.positions.map((v, i) =>
    i % 3 < 2 ? v : Math.min(v, solver.groundAt([top.positions[i - 2]!, top.positions[i - 1]!])),
  );
  const positions = new Float64Array(top.positions.length * 2 + walls.positions.length);
  positions.set(top.positions, 0);
  positions.set(under, top.positions.length);
  positions.set(walls.positions, top.positions.length * 2);
  const flipped = top.triangles.map((_, i) => n + top.triangles[i - (i % 3) + [0, 2, 1][i % 3]!]!);
  const triangles = new Uint32Array(top.triangles.length * 2 + walls.triangles.length);
  triangles.set(top.triangles, 0);
  triangles.set(flipped, top.triangles.length);
  triangles.set(
    walls.triangles.map((i) => i + 2 * n),
    top.triangles.length * 2,
  );
  return { positions, triangles };
}
