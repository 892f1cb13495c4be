import { RAD } from '../civil';

/** Triangles of an indexed mesh: 3 coordinates a vertex, metres; 3 vertex numbers a triangle. */
export interface Mesh {
  positions: Float64Array;
  triangles: Uint32Array;
}

/** The meshes of a project by content hash. */
export type MeshStore = ReadonlyMap<string, Mesh>;

/** Vertices of a mesh turned about z and moved; 3 numbers a vertex. */
export function placedMesh(
  mesh: Mesh,
  move: readonly [number, number, number],
  turnDeg: number,
): Float64Array {
  const c = Math.cos(turnDeg * RAD);
  const s = Math.sin(turnDeg * RAD);
  const out = new Float64Array(mesh.positions.length);
  for (let i = 0; i < out.length; i += 3) {
    const x = mesh.positions[i]!;
    const y = mesh.positions[i + 1]!;
    out[i] = c * x - s * y + move[0];
    out[i + 1] = s * x + c * y + move[1];
    out[i + 2] = mesh.positions[i + 2]! + move[2];
  }
  return out;
}
