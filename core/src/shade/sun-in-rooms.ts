import { DEG } from '../civil';
import {
  dot,
  intersectPolygons,
  type MeshStore,
  type Point2,
  type Point3,
  type Polygon,
  polygonsArea,
  subtractPolygons,
} from '../geometry';
import type { Project } from '../project';
import { assembleScene, refuseTooLarge, type Scene } from '../scene';
import { sunPosition, sunVector } from '../sun';
import { type Casters, castersOf, castShade } from './cast';
import { MovingScene } from './moving-scene';
import { type Room, type RoomOpening, roomsIn, type RoomSurface } from './room-surfaces';

/** What the sun lights of a surface of a room. */
export interface SunlitSurface {
  surface: RoomSurface;
  areaM2: number;
  litM2: number;
  /** Sunlit polygons in space: outlines and their holes. */
  lit: { outer: Point3[]; holes: Point3[][] }[];
}

/** The ray that limits how far the sun reaches in. */
export interface LimitingRay {
  opening: RoomOpening;
  /** How far the sunlit floor reaches, square from the plane of the facade, metres. */
  depthM: number;
  /** The farthest sunlit place on the floor, and where its ray crosses the plane of the facade. */
  at: Point3;
  through: Point3;
  /** Altitude of the sun projected onto the plane square to the facade, degrees. */
  vsaDeg: number;
  /** The floor ends there: the sun goes on up the wall. */
  reachesWall: boolean;
}

/** The sun in a room at a moment. */
export interface RoomSun {
  room: Room;
  surfaces: SunlitSurface[];
  /** Null where no sunlit floor comes through an opening in a wall. */
  deepest: LimitingRay | null;
}

/** What of the rooms of an option is asked for. */
export interface RoomsAsked {
  /** Keys of rooms; all where null. */
  only?: ReadonlySet<string> | null;
  /** Floors alone, as depth of penetration needs. */
  floorsOnly?: boolean;
  /** The scene of the option, where it is at hand. */
  scene?: Scene;
  /** What throws shade at the moment, in place of the scene. */
  casters?: Casters;
}

/**
 * The sun in the rooms of an option at a moment (epoch ms): exact sunlit polygons on floors, walls, furniture and reveals,
 * and how far it reaches in. What lets light pass (panes, fences, crowns) takes nothing away. Ceilings see no direct sun
 * and are left out. Empty while the sun is down.
 * @see docs/methods.md, sun in rooms
 */
export function sunInRooms(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  atMs: number,
  { only = null, floorsOnly = false, scene: atHand, casters: given }: RoomsAsked = {},
): RoomSun[] {
  refuseTooLarge(project, optionId);
  const { place, north, ground } = project.site;
  const position = sunPosition(atMs, place);
  if (position.altitudeDeg <= 0) return [];
  const sun = sunVector(position.altitudeDeg, position.azimuthDeg, north.trueNorthDeg);
  const scene = new MovingScene(project, optionId, meshes, atHand).at(atMs);
  if (dot(sun, scene.ground.normal) <= 0) return [];
  const casters = given ?? castersOf(scene.pieces.slice(ground.kind === 'terrain' ? 0 : 1), sun);
  return roomsIn(project, optionId, meshes)
    .filter(({ key }) => !only || only.has(key))
    .map((room) => {
      const asked = floorsOnly ? room.surfaces.filter(({ kind }) => kind === 'floor') : room.surfaces;
      const surfaces = asked.map((surface) => sunlit(surface, casters));
      return { room, surfaces: surfaces.map(({ found }) => found), deepest: deepestOf(room, surfaces, sun) };
    });
}

function sunlit(surface: RoomSurface, casters: Casters): { found: SunlitSurface; flat: Polygon[] } {
  let areaM2 = 0;
  let litM2 = 0;
  const lit: SunlitSurface['lit'] = [];
  const flat: Polygon[] = [];
  for (const part of surface.parts) {
    areaM2 += polygonsArea(part.regions) * part.stretch;
    if (dot(part.normal, casters.sun) <= 1e-9) continue;
    const shade = castShade(part, casters);
    const regions = shade.length ? subtractPolygons(part.regions, shade) : [...part.regions];
    litM2 += polygonsArea(regions) * part.stretch;
    flat.push(...regions);
    const inSpace = (ring: readonly Point2[]) => ring.map(part.lift);
    lit.push(...regions.map(({ outer, holes }) => ({ outer: inSpace(outer), holes: holes.map(inSpace) })));
  }
  return { found: { surface, areaM2, litM2, lit }, flat };
}

/** How much nearer than the end of the floor the sun must stay to be said not to reach the wall, metres. */
const AT_WALL_M = 0.005;

/** The deepest sunlit place on the floor, of what comes through openings in walls. */
function deepestOf(
  { openings, shared, shape, floorM }: Room,
  surfaces: readonly { found: SunlitSurface; flat: Polygon[] }[],
  sun: Point3,
): LimitingRay | null {
  const floor = surfaces.find(({ found }) => found.surface.kind === 'floor');
  if (!floor || floor.flat.length === 0) return null;
  let deepest: LimitingRay | null = null;
  for (const opening of [...openings, ...shared]) {
    const { face, pane } = opening;
    const square = dot(face.normal, sun);
    if (face.host.on !== 'wall' || square <= 1e-6) continue;
    const onFloor = pane.map(([x, y, z]): Point2 => {
      const way = (z - floorM) / sun[2];
      return [x - sun[0] * way, y - sun[1] * way];
    });
    const depthOf = ([x, y]: Point2) => -dot([x - face.origin[0], y - face.origin[1], 0], face.normal);
    for (const { outer } of intersectPolygons(floor.flat, [{ outer: onFloor, holes: [] }]))
      for (const point of outer) {
        const depthM = depthOf(point);
        if (deepest && depthM <= deepest.depthM) continue;
        const at: Point3 = [point[0], point[1], floorM];
        const way = depthM / square;
        const through: Point3 = [at[0] + sun[0] * way, at[1] + sun[1] * way, at[2] + sun[2] * way];
        const vsaDeg = Math.atan2(sun[2], square) * DEG;
        deepest = { opening, depthM, at, through, vsaDeg, reachesWall: false };
      }
  }
  if (!deepest) return null;
  const { face } = deepest.opening;
  const farthest = Math.max(
    ...shape.outer.map(([x, y]) => -dot([x - face.origin[0], y - face.origin[1], 0], face.normal)),
  );
  return { ...deepest, reachesWall: deepest.depthM > farthest - AT_WALL_M };
}

/** The deepest that the sun reaches into a room over several moments, and when. */
export interface DeepestSun {
  room: Room;
  /** Index into the moments, with the ray; null where it never lies on the floor. */
  best: { moment: number; ray: LimitingRay } | null;
  /** The greatest sunlit area of floor at one of the moments, and its index; null where there is none. */
  most: { moment: number; litM2: number } | null;
}

/** The deepest sun in each room over moments (epoch ms); of moments that are equal, the first. */
export function deepestSun(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  moments: readonly number[],
  only: ReadonlySet<string> | null = null,
  progress: (share: number) => void = () => {},
  scene: Scene = assembleScene(project, optionId, meshes),
): DeepestSun[] {
  const found = new Map<string, DeepestSun>(
    roomsIn(project, optionId, meshes)
      .filter(({ key }) => !only || only.has(key))
      .map((room) => [room.key, { room, best: null, most: null }]),
  );
  moments.forEach((atMs, moment) => {
    for (const { room, surfaces, deepest } of sunInRooms(project, optionId, meshes, atMs, {
      only,
      floorsOnly: true,
      scene,
    })) {
      const entry = found.get(room.key)!;
      const litM2 = surfaces.reduce((sum, surface) => sum + surface.litM2, 0);
      if (litM2 > (entry.most?.litM2 ?? 0) + 1e-9) entry.most = { moment, litM2 };
      if (deepest && deepest.depthM > (entry.best?.ray.depthM ?? 0) + 1e-9)
        entry.best = { moment, ray: deepest };
    }
    progress((moment + 1) / moments.length);
  });
  return [...found.values()];
}
