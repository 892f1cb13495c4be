import { RAD, wrap360 } from '../civil';
import { cross, dot, type Point2, type Point3, polygonNormal } from '../geometry';
import type { Ground, MassShape, OpeningHost } from '../project';
import { massLevels } from './levels';
import { normalFootprint, type Plate, storeyPlate } from './plates';
import { type RoofFace, roofShape } from './roof-shape';

/** A flat outer face of a mass with a frame of its own: u to the right seen from outside, v upwards. */
export interface Face {
  /** `wall/ring/edge/storey`, `roof/number` or `mesh/triangle`. */
  key: string;
  host: OpeningHost;
  /** Where u and v are 0. On a wall: its left end, at the floor of its storey. */
  origin: Point3;
  u: Point3;
  v: Point3;
  normal: Point3;
  /** In u and v, anticlockwise seen from outside. */
  outline: Point2[];
  holes: Point2[][];
  /** The same corners in space, exactly those that neighbouring faces have. */
  corners: Point3[];
  holeCorners: Point3[][];
  /** Of a wall: its length and the height of its storey. */
  lengthM: number;
  heightM: number;
}

/** The name of the face that a host means. */
export function hostKey(host: OpeningHost): string {
  return host.on === 'wall' ? `wall/${host.ring}/${host.edge}/${host.storey}` : `${host.on}/${host.face}`;
}

/** The name of a wall in the scope of a rule: `owner/ring/edge`, of a mesh `owner/mesh/face`; null of a roof. */
export function wallName(ownerId: string, host: OpeningHost): string | null {
  if (host.on === 'roof') return null;
  return host.on === 'wall' ? `${ownerId}/${host.ring}/${host.edge}` : `${ownerId}/mesh/${host.face}`;
}

/** The name of the part of a wall within one storey: `owner/ring/edge/storey`, of a mesh `owner/mesh/face/0`. */
export function storeyWallName(ownerId: string, host: OpeningHost): string | null {
  const wall = wallName(ownerId, host);
  return wall && `${wall}/${host.on === 'wall' ? host.storey : 0}`;
}

/** Every wall, storey by storey, in the order of rings and edges. */
export function wallFaces(mass: MassShape, ground: Ground): Face[] {
  const { bottomM, floorM } = massLevels(mass, ground);
  const faces: Face[] = [];
  let floor = floorM;
  mass.storeys.forEach(({ heightM }, storey) => {
    const plate = storeyPlate(mass, storey) ?? normalFootprint(mass.footprint);
    const below = storey === 0 ? bottomM - floorM : 0;
    [plate.outer, ...plate.holes].forEach((ring, r) =>
      ring.forEach((p, i) => {
        faces.push(
          wallFace(
            { on: 'wall', ring: r, edge: plate.edges[r]![i]!, storey },
            p,
            ring[(i + 1) % ring.length]!,
            floor,
            below,
            heightM,
          ),
        );
      }),
    );
    floor += heightM;
  });
  return faces;
}

function wallFace(
  host: OpeningHost,
  p: Point2,
  q: Point2,
  floor: number,
  below: number,
  heightM: number,
): Face {
  const lengthM = Math.hypot(q[0] - p[0], q[1] - p[1]);
  const along: Point3 = [(q[0] - p[0]) / lengthM, (q[1] - p[1]) / lengthM, 0];
  return {
    key: hostKey(host),
    host,
    origin: [p[0], p[1], floor],
    u: along,
    v: [0, 0, 1],
    normal: [along[1], -along[0], 0],
    outline: [
      [0, below],
      [lengthM, below],
      [lengthM, heightM],
      [0, heightM],
    ],
    holes: [],
    corners: [
      [p[0], p[1], floor + below],
      [q[0], q[1], floor + below],
      [q[0], q[1], floor + heightM],
      [p[0], p[1], floor + heightM],
    ],
    holeCorners: [],
    lengthM,
    heightM,
  };
}

/** Every face of the roof. Of a pitched one, v runs up the slope; of a flat one, u runs along x. */
export function roofFaces(mass: MassShape, ground: Ground): Face[] {
  const { eavesM } = massLevels(mass, ground);
  return roofShape(topPlate(mass), mass.roof).faces.map((face, i) => roofFace(face, i, eavesM));
}

/** The plate of the uppermost storey. */
export function topPlate(mass: MassShape): Plate {
  return storeyPlate(mass, mass.storeys.length - 1) ?? normalFootprint(mass.footprint);
}

function roofFace(face: RoofFace, number: number, eavesM: number): Face {
  const normal = polygonNormal(face.points);
  const flat = Math.hypot(normal[0], normal[1]) < 1e-9;
  const level = Math.hypot(normal[0], normal[1]);
  const u: Point3 = flat ? [1, 0, 0] : [-normal[1] / level, normal[0] / level, 0];
  const v = cross(normal, u);
  const [x, y, z] = face.points.reduce((low, p) =>
    p[2] < low[2] - 1e-9 || (Math.abs(p[2] - low[2]) <= 1e-9 && dot(p, u) < dot(low, u)) ? p : low,
  );
  const origin: Point3 = [x, y, z + eavesM];
  const local = (p: Point3): Point2 => {
    const d: Point3 = [p[0] - x, p[1] - y, p[2] - z];
    return [dot(d, u), dot(d, v)];
  };
  const host: OpeningHost = { on: 'roof', face: number };
  const outline = face.points.map(local);
  const us = outline.map((p) => p[0]);
  const vs = outline.map((p) => p[1]);
  const raised = (p: Point3): Point3 => [p[0], p[1], p[2] + eavesM];
  return {
    key: hostKey(host),
    host,
    origin,
    u,
    v,
    normal,
    outline,
    holes: face.holes.map((hole) => hole.map(local)),
    corners: face.points.map(raised),
    holeCorners: face.holes.map((hole) => hole.map(raised)),
    lengthM: Math.max(...us) - Math.min(...us),
    heightM: Math.max(...vs) - Math.min(...vs),
  };
}

/** Every face that may take openings. */
export function openableFaces(mass: MassShape, ground: Ground): Face[] {
  return [...wallFaces(mass, ground), ...roofFaces(mass, ground)];
}

/** A place of a face in space, `inM` metres behind it. */
export function onFace(face: Face, [u, v]: Point2, inM = 0): Point3 {
  const { origin: o, normal: n } = face;
  return [
    o[0] + face.u[0] * u + face.v[0] * v - n[0] * inM,
    o[1] + face.u[1] * u + face.v[1] * v - n[1] * inM,
    o[2] + face.u[2] * u + face.v[2] * v - n[2] * inM,
  ];
}

/** Azimuth that a face looks to, degrees clockwise from true north; null when it lies level. */
export function faceAzimuthDeg(normal: Point3, trueNorthDeg: number): number | null {
  if (Math.hypot(normal[0], normal[1]) < 1e-6) return null;
  return wrap360(Math.atan2(normal[0], normal[1]) / RAD - trueNorthDeg);
}
