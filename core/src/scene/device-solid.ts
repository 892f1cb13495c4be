import { deviceBoxes, type DevicePlace } from '../devices';
import { onFace } from '../form';
import { dot, type Point3, triangleNormal } from '../geometry';
import type { Device } from '../project';
import { type Piece, PieceBuilder } from './piece';

/** The faces of a box by its corners, each turned outwards where the corners run as `deviceBoxes` gives them, or all inwards. */
const FACES = [
  [0, 1, 2, 3],
  [7, 6, 5, 4],
  [0, 4, 5, 1],
  [1, 5, 6, 2],
  [2, 6, 7, 3],
  [3, 7, 4, 0],
] as const;

/** The closed solids of a device at all its openings. */
export function deviceSolid({ make }: Pick<Device, 'make'>, places: readonly DevicePlace[]): Piece {
  const builder = new PieceBuilder();
  for (const { face, box } of places)
    for (const solid of deviceBoxes(make, box)) {
      const corners = solid.map(([u, v, w]) => onFace(face, [u, v], -w));
      putBox(builder, corners);
    }
  return builder.build();
}

function putBox(builder: PieceBuilder, corners: readonly Point3[]): void {
  const middle = [0, 1, 2].map((k) => corners.reduce((sum, p) => sum + p[k]! / 8, 0)) as unknown as Point3;
  for (const face of FACES) {
    const [a, b, c, d] = face.map((i) => corners[i]!) as [Point3, Point3, Point3, Point3];
    const normal = triangleNormal(a, b, c);
    const out = a.map((value, k) => value - middle[k]!) as unknown as Point3;
    const isOut = dot(normal, out) > 0;
    builder.surface('device', isOut ? normal : (normal.map((v) => -v) as unknown as Point3));
    if (isOut) builder.quad(a, b, c, d);
    else builder.quad(a, d, c, b);
  }
}
