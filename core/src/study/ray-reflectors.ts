import { RAD } from '../civil';
import { type DevicePlace, deviceStations, glazedPlaces, placesOfDevice, standingScheme } from '../devices';
import { InputError } from '../errors';
import { type Face, onFace } from '../form';
import { dot, type MeshStore, minus, opposite, plus, type Point2, type Point3 } from '../geometry';
import { faceOfOwner } from '../openings';
import type { Project } from '../project';
import type { Scene } from '../scene';
import type { Room } from '../shade';
import { firstObstruction, type Obstacles } from '../trace';
import { gridIn, gridOnStrip, type Reflecting, type StripPlane } from './ray-shapes';
import type { ReflectingWall } from './rays-asked';

/** A surface outside that the sun falls on and that throws it on: points on it, each for a part of its area. */
export interface Reflector {
  points: { at: Point3; areaM2: number }[];
  /** Of the side that the sun is on. */
  normal: Point3;
  reflecting: Reflecting;
  /** Whether what it throws elsewhere is drawn too: of a whole wall that is nearly all. */
  showsMisses: boolean;
}

/** How far before and behind a face its wall is looked for, metres. */
const NEAR_M = 0.02;

export function stripReflector(plane: StripPlane, spacingM: number, sun: Point3): Reflector {
  const { normal, strip } = plane;
  return {
    points: gridOnStrip(plane, spacingM),
    normal: dot(normal, sun) > 0 ? normal : opposite(normal),
    reflecting: strip,
    showsMisses: true,
  };
}

/** The wall on a face, without its openings. Throws InputError `rays` where there is none. */
export function wallReflector(
  project: Project,
  meshes: MeshStore,
  wall: ReflectingWall,
  spacingM: number,
  scene: Scene,
  obstacles: Obstacles,
): Reflector {
  const face = faceOfOwner(project, wall.owner, wall.face, meshes);
  const stands = scene.owners.some(
    ({ id, optionId }) => id === wall.owner.id && optionId === wall.owner.optionId,
  );
  if (!face || !stands)
    throw new InputError('rays', `There is no wall “${wall.owner.id}/${wall.face}” in this option.`);
  const points = gridIn(face.outline, spacingM)
    .map(({ at: [u, v], areaM2 }) => ({ at: plus(plus(face.origin, face.u, u), face.v, v), areaM2 }))
    .filter(({ at }) => isWall(at, face, scene, obstacles));
  return { points, normal: face.normal, reflecting: wall, showsMisses: false };
}

/** The upper faces of light shelves outside some openings of a room, as far as they have a reflectance. */
export function shelfReflectors(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  room: Pick<Room, 'mass' | 'openings'>,
  spacingM: number,
): Reflector[] {
  const { trueNorthDeg } = project.site.north;
  const bodies = glazedPlaces(project, optionId, meshes);
  const isOfRoom = ({ owner, opening, face }: DevicePlace) =>
    owner.id === room.mass &&
    room.openings.some(({ id, face: { key } }) => id === opening.id && key === face.key);
  return (standingScheme(project, optionId)?.devices ?? []).flatMap((device): Reflector[] => {
    const { make } = device;
    if (make.kind !== 'shelf' || make.reflectance === undefined || make.outM === 0) return [];
    const { heightM, outM, tiltDeg = 0, reflectance, mirror = 0 } = make;
    const [sin, cos] = [Math.sin(tiltDeg * RAD), Math.cos(tiltDeg * RAD)];
    const places = placesOfDevice(device, bodies, trueNorthDeg).filter(isOfRoom);
    return deviceStations(device, places).map(({ face, box: { u0, u1, v0, revealM } }): Reflector => {
      const reach = outM + revealM;
      const outline: Point2[] = [
        [u0, 0],
        [u1, 0],
        [u1, reach],
        [u0, reach],
      ];
      return {
        points: gridIn(outline, spacingM).map(({ at: [u, along], areaM2 }) => ({
          at: onFace(face, [u, v0 + heightM - along * sin], revealM - along * cos),
          areaM2,
        })),
        normal: [0, 1, 2].map((k) => face.v[k]! * cos + face.normal[k]! * sin) as unknown as Point3,
        reflecting: { reflectance, mirror },
        showsMisses: false,
      };
    });
  });
}

/** How the upper faces of light shelves reflect, as far as that is said. */
export function shelfFaces(project: Project, optionId: string): Map<string, Reflecting> {
  const devices = standingScheme(project, optionId)?.devices ?? [];
  return new Map(
    devices.flatMap(({ id, make }): [string, Reflecting][] =>
      make.kind === 'shelf' && make.reflectance !== undefined
        ? [[id, { reflectance: make.reflectance, mirror: make.mirror ?? 0 }]]
        : [],
    ),
  );
}

/** Whether a ray square on a face meets something opaque in it: no opening, and nothing built against it. */
function isWall(at: Point3, { normal }: Face, { positions: p }: Scene, obstacles: Obstacles): boolean {
  const from = plus(at, normal, NEAR_M);
  const triangle = firstObstruction(obstacles, ...from, ...opposite(normal));
  if (triangle < 0) return false;
  const corner: Point3 = [p[triangle * 9]!, p[triangle * 9 + 1]!, p[triangle * 9 + 2]!];
  return Math.abs(dot(minus(corner, at), normal)) < NEAR_M / 2;
}
