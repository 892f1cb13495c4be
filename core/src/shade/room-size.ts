import { canMove, deviceStations, glazedPlaces, type MovedBy, placesOfDevice } from '../devices';
import { dot, type MeshStore } from '../geometry';
import type { Device, DeviceMake, Project } from '../project';
import { assembleScene, deviceAreaM2, type Scene } from '../scene';
import { sunPosition, sunVector } from '../sun';
import { type Casters, castersOf, castersTogether } from './cast';
import { leastMake } from './least-size';
import { isOf, movedBy, MovingScene, positionedPiece } from './moving-scene';
import { sunInRooms } from './sun-in-rooms';
import type { SecondNumber } from './window-shade';

/** What of the sun in a room is to be kept off: deeper than so many metres, or any of it from the tops of furniture. */
export type RoomGoal = { by: 'depth'; atMostM: number } | { by: 'furniture' };

/** What sizing a device for a room came to. */
export interface RoomSized {
  value: number;
  /** The second number, where two are free. */
  second: number | null;
  isMet: boolean;
  /** Moments with the sun above the horizon. */
  moments: number;
  /** The moment that is worst with the device so: how deep the sun reaches, metres, or how much it lights, metres². */
  worst: { atMs: number; value: number } | null;
  /** The same without the device. */
  bare: { atMs: number; value: number } | null;
}

/** So much sun on furniture is none, metres². */
const NONE_M2 = 1e-4;

/**
 * The least value of a number of a device (of two, the two with the least area of device) with which the sun reaches no deeper into a room, or lights nothing of its
 * furniture, at any of some moments (epoch ms); from exact polygons of sun. What everything else throws is worked out once.
 * @param room its key
 */
export function sizeForRoom(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  room: string,
  device: Device,
  moments: readonly number[],
  free: SecondNumber & { second?: SecondNumber | null },
  goal: RoomGoal,
  scene: Scene = assembleScene(project, optionId, meshes),
): RoomSized {
  const { place, north, ground } = project.site;
  const places = placesOfDevice(device, glazedPlaces(project, optionId, meshes), north.trueNorthDeg);
  const first = ground.kind === 'terrain' ? 0 : 1;
  const moving = new MovingScene(project, optionId, meshes, scene);
  const seen = moments.flatMap((atMs): { atMs: number; around: Casters; by: MovedBy | null }[] => {
    const { altitudeDeg, azimuthDeg } = sunPosition(atMs, place);
    if (altitudeDeg <= 0) return [];
    const sun = sunVector(altitudeDeg, azimuthDeg, north.trueNorthDeg);
    if (dot(sun, scene.ground.normal) <= 0) return [];
    const now = moving.at(atMs);
    const stays = now.pieces.filter((_, i) => i >= first && !isOf(now.owners[i]!, device));
    const by = canMove(device.make) ? movedBy(project, atMs) : null;
    return [{ atMs, around: castersOf(stays, sun), by }];
  });
  const only = new Set([room]);
  const floorsOnly = goal.by === 'depth';
  /** The worst of all moments with a device of these sizes, or without. */
  const worstOf = (make: DeviceMake | null): RoomSized['worst'] => {
    const pieceAt = make && positionedPiece({ ...device, make }, places);
    let worst: RoomSized['worst'] = null;
    for (const { atMs, around, by } of seen) {
      const casters = pieceAt ? castersTogether(around, castersOf([pieceAt(by)], around.sun)) : around;
      const [found] = sunInRooms(project, optionId, meshes, atMs, { only, floorsOnly, scene, casters });
      const value = floorsOnly
        ? (found?.deepest?.depthM ?? 0)
        : (found?.surfaces ?? [])
            .filter(({ surface }) => surface.kind === 'furniture')
            .reduce((sum, { litM2 }) => sum + litM2, 0);
      if (!worst || value > worst.value) worst = { atMs, value };
    }
    return worst;
  };
  const most = goal.by === 'depth' ? goal.atMostM : NONE_M2;
  const { make, ...found } = leastMake(
    device.make,
    free,
    (of) => -(worstOf(of)?.value ?? 0),
    -most - 1e-6,
    (of) => deviceAreaM2(of, deviceStations(device, places)),
  );
  return { ...found, moments: seen.length, worst: worstOf(make), bare: worstOf(null) };
}
