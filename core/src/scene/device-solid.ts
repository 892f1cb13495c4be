import {
  atRest,
  canMove,
  deviceBoxes,
  type DevicePlace,
  type DevicePosition,
  type DevicePrism,
  deviceSheets,
  type DeviceStation,
  deviceStations,
  type FaceAxes,
  type FramePoint,
  inPosition,
  type MovedBy,
  type OpeningBox,
  platePrisms,
  positionAt,
} from '../devices';
import { type Face, onFace } from '../form';
import { areaInSpace, dot, type Point3, signedArea, triangleNormal, triangulate } from '../geometry';
import type { Device, DeviceMake } from '../project';
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

/**
 * The closed solids of a device at all its openings, and its sheets that let light pass; what moves as it stands at a
 * moment, at rest without one.
 */
export function deviceSolid(
  device: Pick<Device, 'make' | 'along'>,
  places: readonly DevicePlace[],
  by: MovedBy | null = null,
): Piece {
  const { make } = device;
  const stations = deviceStations(device, places);
  return solidAt(
    make,
    stations,
    stations.map(({ face }) => positionNow(make, face, by)),
  );
}

/** How a device on a wall stands at a moment; at rest without one. */
export function positionNow(make: DeviceMake, face: FaceAxes, by: MovedBy | null): DevicePosition {
  return by ? positionAt(make, face, by) : atRest(make);
}

/** A device at some stations, each in its position. */
export function solidAt(
  make: DeviceMake,
  stations: readonly DeviceStation[],
  positions: readonly DevicePosition[],
): Piece {
  const builder = new PieceBuilder();
  stations.forEach(({ face, box }, i) => putStation(builder, inPosition(make, positions[i]!), face, box));
  return builder.build();
}

/** How much there is of a device at some stations, m²: half of all its faces, sheets whole; what is lowered as it is when it is down. */
export function deviceAreaM2(make: DeviceMake, stations: readonly DeviceStation[]): number {
  const position = canMove(make) && make.kind !== 'louvres' ? 1 : atRest(make);
  const {
    positions: p,
    opaque,
    surfaceOf,
  } = solidAt(
    make,
    stations,
    stations.map(() => position),
  );
  let sum = 0;
  for (let t = 0; t < surfaceOf.length; t++) {
    const corners = [0, 3, 6].map((k) => [...p.subarray(t * 9 + k, t * 9 + k + 3)] as unknown as Point3);
    sum += areaInSpace(corners) / (t < opaque ? 2 : 1);
  }
  return sum;
}

function putStation(builder: PieceBuilder, make: DeviceMake | null, face: Face, box: OpeningBox): void {
  if (!make) return;
  const at = ([u, v, w]: FramePoint) => onFace(face, [u, v], -w);
  for (const solid of deviceBoxes(make, box)) putBox(builder, solid.map(at));
  for (const prism of platePrisms(make, box)) putPrism(builder, prism, face);
  for (const { corners, openness, holeDepth } of deviceSheets(make, box)) {
    const [a, b, c, d] = corners.map(at) as [Point3, Point3, Point3, Point3];
    const passing = openness > 0 ? ({ through: 'screen', share: openness, holeDepth } as const) : null;
    builder.surface('device', triangleNormal(a, b, c), { passing });
    builder.quad(a, b, c, d);
  }
}

function putBox(builder: PieceBuilder, corners: readonly Point3[]): void {
  const middle = [0, 1, 2].map((k) => corners.reduce((sum, p) => sum + p[k]! / 8, 0)) as unknown as Point3;
  for (const face of FACES) {
    const [a, b, c, d] = face.map((i) => corners[i]!) as [Point3, Point3, Point3, Point3];
    const normal = triangleNormal(a, b, c);
    const out = a.map((value, k) => value - middle[k]!) as unknown as Point3;
    const isOut = dot(normal, out) > 0;
    builder.surface('device', isOut ? normal : turned(normal));
    if (isOut) builder.quad(a, b, c, d);
    else builder.quad(a, d, c, b);
  }
}

const turned = (v: Point3) => v.map((value) => -value) as unknown as Point3;

/** A plate of any outline: its lower side, its upper side, and a face for every edge. */
function putPrism(builder: PieceBuilder, { rings, flat, rise }: DevicePrism, face: Face): void {
  const at = ([u, v, w]: FramePoint) => onFace(face, [u, v], -w);
  const up = ([u, v, w]: FramePoint): FramePoint => [u + rise[0], v + rise[1], w + rise[2]];
  const points = rings.flat();
  const [low, high] = [at(points[0]!), at(up(points[0]!))];
  const height = Math.hypot(...rise);
  const normal = high.map((value, k) => (value - low[k]!) / height) as unknown as Point3;
  const triangles = triangulate(flat);
  for (const [isTop, side] of [
    [false, turned(normal)],
    [true, normal],
  ] as const) {
    builder.surface('device', side);
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => {
        const p = points[triangles[t + k]!]!;
        return at(isTop ? up(p) : p);
      }) as [Point3, Point3, Point3];
      if (dot(triangleNormal(a, b, c), side) > 0) builder.triangle(a, b, c);
      else builder.triangle(a, c, b);
    }
  }
  rings.forEach((ring, r) => {
    // Seen from above the plane of the plate x and y run clockwise.
    const isTurned = signedArea(flat[r]!) > 0 === (r === 0);
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length]!;
      const [a, b] = isTurned ? [q, p] : [p, q];
      const corners = [a, b, up(b), up(a)].map(at) as [Point3, Point3, Point3, Point3];
      builder.surface('device', triangleNormal(corners[0], corners[1], corners[2]));
      builder.quad(...corners);
    });
  });
}
