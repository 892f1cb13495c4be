import { faceAzimuthDeg } from '../form';
import type { Point3 } from '../geometry';
import type { LimitingRay, RoomSun } from './sun-in-rooms';
import type { Room, RoomSurface } from './room-surfaces';

/** Area of a kind of surface, and what of it the sun lights, m². */
export interface SunlitArea {
  areaM2: number;
  sunlitM2: number;
}

/** How far the sun reaches into a room. */
export interface DepthReading {
  /** Square from the plane of the facade, metres. */
  depthM: number;
  /** The floor ends there: the sun goes on up the wall. */
  reachesWall: boolean;
  vsaDeg: number;
  /** Azimuth of the facade from true north. */
  facadeAzimuthDeg: number;
  opening: string;
  face: string;
  at: Point3;
  through: Point3;
}

/** A line of the table of rooms. */
export interface RoomRow {
  key: string;
  room: string;
  mass: string;
  massName: string;
  storey: number;
  floor: SunlitArea;
  walls: SunlitArea;
  furniture: SunlitArea;
  reveals: SunlitArea;
  depth: DepthReading | null;
}

/** What is said of a limiting ray. */
export function depthReading(ray: LimitingRay, trueNorthDeg: number): DepthReading {
  const { depthM, reachesWall, vsaDeg, opening, at, through } = ray;
  const facadeAzimuthDeg = faceAzimuthDeg(opening.face.normal, trueNorthDeg)!;
  return {
    depthM,
    reachesWall,
    vsaDeg,
    facadeAzimuthDeg,
    opening: opening.id,
    face: opening.face.key,
    at,
    through,
  };
}

/** Sun by room as lines of a table. */
export function roomRows(found: readonly RoomSun[], trueNorthDeg: number): RoomRow[] {
  return found.map(({ room, surfaces, deepest }) => {
    const of = (kind: RoomSurface['kind']): SunlitArea => {
      const own = surfaces.filter(({ surface }) => surface.kind === kind);
      return {
        areaM2: own.reduce((sum, { areaM2 }) => sum + areaM2, 0),
        sunlitM2: own.reduce((sum, { litM2 }) => sum + litM2, 0),
      };
    };
    return {
      ...nameOfRoom(room),
      floor: of('floor'),
      walls: of('wall'),
      furniture: of('furniture'),
      reveals: of('reveal'),
      depth: deepest && depthReading(deepest, trueNorthDeg),
    };
  });
}

/** How a room is named in tables. */
export function nameOfRoom({ key, name, mass, massName, shape }: Room) {
  return { key, room: name, mass, massName, storey: shape.storey + 1 };
}
