import { flatPart, meshFace, modelVertices } from '../form';
import { type Mesh, type Point3, triangleNormal } from '../geometry';
import type { FittedBody } from '../openings';
import type { Glazing, Model } from '../project';
import { openFace } from './open-face';
import { type Passing, type Piece, PieceBuilder, pieceOf, type Surface } from './piece';

/** The triangles of an imported mesh where it stands; flat faces with openings are cut open. */
export function meshSolid(
  model: Model,
  mesh: Mesh,
  fitted: FittedBody | null,
  glazings: readonly Glazing[],
): Piece {
  const passing: Passing | null = model.openness > 0 ? { through: 'glass', share: model.openness } : null;
  const opened = [...(fitted?.byFace ?? [])].flatMap(([key, openings]) => {
    const number = Number(key.split('/')[1]);
    const face = meshFace(model, mesh, number);
    return face && openings.length ? [{ face, openings, triangles: flatPart(mesh, number)!.triangles }] : [];
  });
  const plain = plainTriangles(model, mesh, new Set(opened.flatMap(({ triangles }) => triangles)), passing);
  if (opened.length === 0) return plain;
  const builder = new PieceBuilder();
  for (const { face, openings } of opened)
    openFace(builder, face, 'mesh', { storey: null, passing }, openings, glazings);
  return joined(plain, builder.build());
}

function plainTriangles(
  model: Model,
  mesh: Mesh,
  without: ReadonlySet<number>,
  passing: Passing | null,
): Piece {
  const { triangles } = mesh;
  const vertices = modelVertices(model, mesh);
  const count = triangles.length / 3 - without.size;
  const positions = new Float64Array(count * 9);
  let at = 0;
  for (let t = 0; t * 3 < triangles.length; t++) {
    if (without.has(t)) continue;
    for (let k = 0; k < 3; k++, at += 3) {
      const vertex = triangles[t * 3 + k]! * 3;
      positions[at] = vertices[vertex]!;
      positions[at + 1] = vertices[vertex + 1]!;
      positions[at + 2] = vertices[vertex + 2]!;
    }
  }
  const point = (i: number): Point3 => [positions[i] ?? 0, positions[i + 1] ?? 0, positions[i + 2] ?? 0];
  const surface: Surface = {
    kind: 'mesh',
    normal: triangleNormal(point(0), point(3), point(6)),
    storey: null,
    face: null,
    opening: null,
    passing,
  };
  return pieceOf(positions, new Uint32Array(count), [surface], passing ? 0 : count);
}

/** Two pieces as one, blocking triangles first. */
function joined(one: Piece, other: Piece): Piece {
  const pick = (piece: Piece, from: number, to: number) => piece.positions.subarray(from * 9, to * 9);
  const [a, b] = [one.surfaceOf.length, other.surfaceOf.length];
  const positions = new Float64Array((a + b) * 9);
  const surfaceOf = new Uint32Array(a + b);
  let at = 0;
  for (const [piece, from, to, shift] of [
    [one, 0, one.opaque, 0],
    [other, 0, other.opaque, one.surfaces.length],
    [one, one.opaque, a, 0],
    [other, other.opaque, b, one.surfaces.length],
  ] as const) {
    positions.set(pick(piece, from, to), at * 9);
    for (let t = from; t < to; t++) surfaceOf[at++] = piece.surfaceOf[t]! + shift;
  }
  return pieceOf(positions, surfaceOf, [...one.surfaces, ...other.surfaces], one.opaque + other.opaque);
}
