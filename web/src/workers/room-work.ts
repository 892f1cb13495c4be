import {
  cross,
  deepestSun,
  depthReading,
  type DepthReading,
  dot,
  minus,
  nameOfRoom,
  ownersOf,
  type Point3,
  type Room,
  type RoomRow,
  roomRows,
  roomsIn,
  sunInRooms,
  type SunlitSurface,
  surfaceYear,
  type SurfaceYear,
} from '@dial-shade/core';
import { type Asked, obstaclesNow, sceneNow } from './scene-now';

/** The sun in a room as the page shows it. */
export type RoomFound = RoomRow & {
  surfaces: { name: string; areaM2: number; litM2: number }[];
  /** Sunlit polygons in space. */
  lit: SunlitSurface['lit'];
  floorM: number;
  /** Ids of its openings. */
  openings: string[];
  /** Names of what stands in it. */
  pieces: string[];
};

/** Whose year is asked for: the pane of an opening, or a piece of furniture, by its place in the room's list. */
export type YearOf = { kind: 'opening'; id: string } | { kind: 'furniture'; index: number };

/** Points along each side of a surface whose year is traced. */
const YEAR_GRID = 3;

/** Points spread over a pane or a table top, a little off it. */
function pointsOf(room: Room, what: YearOf): { points: Point3[]; normal: Point3 } | null {
  const opening = what.kind === 'opening' ? room.openings.find(({ id }) => id === what.id) : null;
  const top =
    what.kind === 'furniture'
      ? room.surfaces.filter(({ kind }) => kind === 'furniture')[what.index]?.parts[0]
      : null;
  const corners = opening?.pane ?? top?.regions[0]?.outer.map(top.lift);
  const normal = opening?.face.normal ?? top?.normal;
  if (!corners || !normal) return null;
  // A box of the corners across the normal, in its own two directions.
  const a: Point3 = corners.length > 1 ? unit(minus(corners[1]!, corners[0]!)) : [1, 0, 0];
  const b = cross(normal, a);
  const span = (way: Point3) => {
    const along = corners.map((p) => dot(minus(p, corners[0]!), way));
    return [Math.min(...along), Math.max(...along)] as const;
  };
  const [[a0, a1], [b0, b1]] = [span(a), span(b)];
  const points = Array.from({ length: YEAR_GRID ** 2 }, (_, i): Point3 => {
    const s = a0 + (((i % YEAR_GRID) + 0.5) / YEAR_GRID) * (a1 - a0);
    const t = b0 + ((Math.floor(i / YEAR_GRID) + 0.5) / YEAR_GRID) * (b1 - b0);
    return [0, 1, 2].map(
      (k) => corners[0]![k]! + a[k]! * s + b[k]! * t + normal[k]! * 0.01,
    ) as unknown as Point3;
  });
  return { points, normal };
}

const unit = (v: Point3): Point3 => {
  const length = Math.hypot(...v) || 1;
  return [v[0] / length, v[1] / length, v[2] / length];
};

/** The deepest that the sun reaches into a room, and at which moment (epoch ms). */
export interface DeepestRow {
  key: string;
  room: string;
  massName: string;
  storey: number;
  atMs: number | null;
  depth: DepthReading | null;
}

/** Keys of the rooms of a storey (`MASS/STOREY`), or null: all of them. */
function keysOf({ project, optionId, meshes }: Asked, which: string): Set<string> | null {
  if (which === 'all') return null;
  const rooms = roomsIn(project, optionId, meshes);
  return new Set(rooms.flatMap(({ key }) => (key.slice(0, key.lastIndexOf('/')) === which ? [key] : [])));
}

/** The sun in rooms at a moment. Throws InputError where an option is too large. */
export function roomsSun(asked: Asked, atMs: number, which: string): RoomFound[] {
  const { project, meshes, optionId } = asked;
  const found = sunInRooms(project, optionId, meshes, atMs, {
    only: keysOf(asked, which),
    scene: sceneNow(asked),
  });
  return roomRows(found, project.site.north.trueNorthDeg).map((row, i) => {
    const { room, surfaces } = found[i]!;
    return {
      ...row,
      floorM: room.floorM,
      openings: room.openings.map(({ id }) => id),
      pieces: room.surfaces.flatMap(({ kind, name }) => (kind === 'furniture' ? [name] : [])),
      surfaces: surfaces.map(({ surface, areaM2, litM2 }) => ({ name: surface.name, areaM2, litM2 })),
      lit: surfaces.flatMap(({ lit }) => lit),
    };
  });
}

/** How far the sun reaches into a room at each of some moments; null where it does not. */
export function roomDepths(asked: Asked, key: string, moments: number[]): (DepthReading | null)[] {
  const { project, meshes, optionId } = asked;
  const only = new Set([key]);
  const scene = sceneNow(asked);
  return moments.map((atMs) => {
    const [found] = sunInRooms(project, optionId, meshes, atMs, { only, floorsOnly: true, scene });
    return found?.deepest ? depthReading(found.deepest, project.site.north.trueNorthDeg) : null;
  });
}

/** The deepest sun in rooms over moments. */
export function deepestRooms(asked: Asked, which: string, moments: number[]): DeepestRow[] {
  const { project, meshes, optionId } = asked;
  return deepestSun(project, optionId, meshes, moments, keysOf(asked, which), () => {}, sceneNow(asked)).map(
    ({ room, best }) => {
      const { key, room: name, massName, storey } = nameOfRoom(room);
      return {
        key,
        room: name,
        massName,
        storey,
        atMs: best && moments[best.moment]!,
        depth: best && depthReading(best.ray, project.site.north.trueNorthDeg),
      };
    },
  );
}

/** The year of a pane or of the top of a piece of furniture in a room; null where it is gone. */
export function yearOfSurface(
  asked: Asked,
  key: string,
  what: YearOf,
): { year: SurfaceYear; owners: string[] } | null {
  const { project, meshes, optionId } = asked;
  const room = roomsIn(project, optionId, meshes).find((one) => one.key === key);
  const surface = room && pointsOf(room, what);
  if (!surface) return null;
  const scene = sceneNow(asked);
  return {
    year: surfaceYear(project.site, surface.points, surface.normal, obstaclesNow(asked), ownersOf(scene)),
    owners: scene.owners.map(({ name }) => name),
  };
}
