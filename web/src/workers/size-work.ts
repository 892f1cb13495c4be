import {
  beamOfSet,
  type Device,
  type DevicePlace,
  endlessDepth,
  faceAzimuthDeg,
  glazedPlaces,
  InputError,
  ownersOf,
  placesOfDevice,
  type Sector,
  SECTORS,
  sectorOf,
  type Point3,
  onFace,
  opensWithMore,
  type Project,
  type RoomGoal,
  type RoomSized,
  type SecondNumber,
  sizeForRoom,
  shadowAngles,
  sizeDevice,
  type SizeAsked,
  type Sized,
  sunPosition,
  surfaceYear,
  type SurfaceYear,
  WindowShade,
  type WeighedMoment,
} from '@dial-shade/core';
import { roomOf } from './glass-year-work';
import { type Asked, obstaclesNow, sceneNow } from './scene-now';

/** The sun that is to be kept off: moments (epoch ms), all alike, or the beam in a set of hours. */
export type Against = { by: 'moments'; moments: readonly number[] } | { by: 'set'; id: string };

/** What sizing a device at a window came to. */
export interface SizeFound extends Sized {
  /** Moments with the sun before the glass. */
  moments: number;
  /** Of a set of hours: all of its sun before the glass, kWh. */
  wholeKWh: number | null;
  /** Share in shade without the device. */
  bare: number;
  /** The depth that an endless device would need at the moment that asks most; null where there is no closed form. */
  endlessM: number | null;
}

/** Of a set of hours, the share of its beam that reaches the glass: with a device as it was found, and without. */
export interface BeamLetIn {
  id: string;
  name: string;
  letsIn: number;
  letsInBare: number;
}

/** The opening `OWNER/OPENING` of an option. Throws InputError `opening`. */
function placeOf({ project, optionId, meshes }: Asked, key: string): DevicePlace {
  const place = glazedPlaces(project, optionId, meshes)
    .flatMap(({ places }) => places)
    .find(({ owner, opening }) => `${owner.id}/${opening.id}` === key);
  if (!place) throw new InputError('opening', 'The window is gone; choose another.');
  return place;
}

function momentsAgainst(project: Project, against: Against, normal: Point3): WeighedMoment[] {
  if (against.by === 'moments') return against.moments.map((atMs) => ({ atMs, weight: 1 }));
  const set = project.hourSets.find(({ id }) => id === against.id);
  if (!set) throw new InputError('hours', 'The set of hours is gone; choose another.');
  return beamOfSet(project, set, normal);
}

/** Sizes one number of a device at a window. Throws InputError. */
export function sizedAt(
  asked: Asked,
  key: string,
  device: Device,
  against: Against,
  size: SizeAsked,
  atMostKWh: number | null = null,
): SizeFound {
  const { project, optionId, meshes } = asked;
  const place = placeOf(asked, key);
  const scene = sceneNow(asked);
  const open = (moments: readonly WeighedMoment[]) =>
    new WindowShade(project, optionId, meshes, place, device, moments, scene);
  const moments = momentsAgainst(project, against, place.face.normal);
  const window = open(moments);
  // So much sun on the glass is a share of it in shade.
  const goal = atMostKWh === null ? size.goal : Math.max(0, 1 - atMostKWh / Math.max(1e-9, window.whole));
  const found = sizeDevice(window, device.make, { ...size, goal, each: size.each && atMostKWh === null });
  return {
    ...found,
    moments: window.moments,
    wholeKWh: against.by === 'set' ? window.whole : null,
    bare: window.read(null).shaded,
    endlessM: size.number === 'depthM' ? endless(project, place, device, moments, goal) : null,
  };
}

/** What a device of a size lets in at a window of the beam of each set of hours; none without weather. Throws InputError. */
export function beamLetIn(asked: Asked, key: string, device: Device, make: Device['make']): BeamLetIn[] {
  const { project, optionId, meshes } = asked;
  const place = placeOf(asked, key);
  const scene = sceneNow(asked);
  return (project.site.weather ? project.hourSets : []).map(({ id, name, source }) => {
    const moments = beamOfSet(project, { source }, place.face.normal);
    const seen = new WindowShade(project, optionId, meshes, place, device, moments, scene);
    return { id, name, letsIn: 1 - seen.read(make).shaded, letsInBare: 1 - seen.read(null).shaded };
  });
}

/** What sizing a device for the room of a window came to. */
export interface RoomSizeFound extends RoomSized {
  room: string;
}

/** Sizes one number of a device so that the sun in the room of a window stays within a goal. Throws InputError. */
export function sizedForRoom(
  asked: Asked,
  key: string,
  device: Device,
  against: Against,
  size: SecondNumber & { second: SecondNumber | null },
  goal: RoomGoal,
): RoomSizeFound {
  const { project, optionId, meshes } = asked;
  const place = placeOf(asked, key);
  const room = roomOf(asked, place);
  if (!room) throw new InputError('room', 'No room stands behind this window; choose another.');
  if (goal.by === 'furniture' && !room.surfaces.some(({ kind }) => kind === 'furniture'))
    throw new InputError(
      'room',
      `Nothing stands in “${room.name}”; put furniture into it on the Form stage.`,
    );
  const moments = momentsAgainst(project, against, place.face.normal).map(({ atMs }) => atMs);
  const scene = sceneNow(asked);
  return {
    room: room.name,
    ...sizeForRoom(project, optionId, meshes, room.key, device, moments, size, goal, scene),
  };
}

/** Windows that face one way in one storey, by `OWNER/OPENING`. */
export interface SizeGroup {
  sector: Sector;
  storey: number;
  keys: string[];
}

/** The windows that a device hangs on by the way they face and by storey; those of roofs and meshes are none of them. */
export function sizeGroups({ project, optionId, meshes }: Asked, device: Device): SizeGroup[] {
  const { trueNorthDeg } = project.site.north;
  const groups = new Map<string, SizeGroup>();
  const bodies = glazedPlaces(project, optionId, meshes);
  for (const { owner, face, opening } of placesOfDevice(device, bodies, trueNorthDeg)) {
    const azimuth = faceAzimuthDeg(face.normal, trueNorthDeg);
    if (azimuth === null || face.host.on !== 'wall') continue;
    const { storey } = face.host;
    const sector = sectorOf(azimuth);
    const name = `${sector}/${storey}`;
    const group = groups.get(name) ?? { sector, storey, keys: [] };
    group.keys.push(`${owner.id}/${opening.id}`);
    groups.set(name, group);
  }
  return [...groups.values()].sort(
    (a, b) => SECTORS.indexOf(a.sector) - SECTORS.indexOf(b.sector) || a.storey - b.storey,
  );
}

/** What the windows of a group need together: the most that any of them does. */
export interface GroupSized {
  value: number;
  /** Windows that no size of it does for, and those with the sun before them at all. */
  unmet: number;
  seen: number;
}

/** Sizes a device for all windows of a group: each that the size so far does not do for asks for more. */
export function sizedGroup(
  asked: Asked,
  keys: readonly string[],
  device: Device,
  against: Against,
  size: SizeAsked,
): GroupSized {
  const { project, optionId, meshes } = asked;
  const scene = sceneNow(asked);
  const isTurned = opensWithMore(device.make, size.number);
  let [value, unmet, seen] = [isTurned ? size.to : size.from, 0, 0];
  for (const key of keys) {
    const place = placeOf(asked, key);
    const moments = momentsAgainst(project, against, place.face.normal);
    const window = new WindowShade(project, optionId, meshes, place, device, moments, scene);
    if (window.moments === 0) continue;
    seen++;
    const left = isTurned ? { to: value } : { from: value };
    const found = sizeDevice(window, device.make, { ...size, ...left });
    if (!found.isMet) unmet++;
    value = isTurned ? Math.min(value, found.value) : Math.max(value, found.value);
  }
  return { value, unmet, seen };
}

/** The greatest depth that any of the moments asks of an endless device. */
function endless(
  { site }: Project,
  { face, box }: DevicePlace,
  device: Device,
  moments: readonly WeighedMoment[],
  goal: number,
): number | null {
  const azimuth = faceAzimuthDeg(face.normal, site.north.trueNorthDeg);
  if (azimuth === null) return null;
  let most: number | null = null;
  for (const { atMs } of moments) {
    const { altitudeDeg, azimuthDeg } = sunPosition(atMs, site.place);
    if (altitudeDeg <= 0) continue;
    const needed = endlessDepth(device.make, box, shadowAngles(altitudeDeg, azimuthDeg, azimuth), goal);
    if (needed !== null) most = Math.max(most ?? 0, needed);
  }
  return most;
}

/** Points a side over the glass whose year is told. */
const GRID = 5;

/** The year of a window: the share of its glass in sun, and in whose shade it lies. Throws InputError. */
export function yearOfWindow(asked: Asked, key: string): { year: SurfaceYear; owners: string[] } {
  const place = placeOf(asked, key);
  const { face, box } = place;
  const points = Array.from({ length: GRID * GRID }, (_, i) => {
    const s = ((i % GRID) + 0.5) / GRID;
    const t = (Math.floor(i / GRID) + 0.5) / GRID;
    return onFace(
      face,
      [box.u0 + s * (box.u1 - box.u0), box.v0 + t * (box.v1 - box.v0)],
      box.revealM - 0.005,
    );
  });
  const scene = sceneNow(asked);
  return {
    year: surfaceYear(asked.project.site, points, face.normal, obstaclesNow(asked), ownersOf(scene)),
    owners: scene.owners.map(({ name }) => name),
  };
}
