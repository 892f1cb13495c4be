import {
  AT_REST,
  carpetOf,
  type DevicePlace,
  type GlassPrecision,
  GlassReader,
  type GlassReading,
  GlassYear,
  glazedPlaces,
  hourlyMonths,
  IN_MOTION,
  isHourly,
  InputError,
  type MaskStore,
  type Project,
  type Room,
  type RoomLight,
  roomLight,
  roomsIn,
  shadeOfSuns,
  type ShadingMask,
  shadingMask,
  TODAY,
  wallName,
  withoutDevices,
} from '@dial-shade/core';
import { type Asked, sceneNow } from './scene-now';

/** What is read: a window, the windows of its room, of its wall, or all of an option. */
export type ReadOf = 'window' | 'room' | 'facade' | 'option';

/** What the devices of an option do at some windows through the year. */
export interface GlassYearFound {
  reading: GlassReading;
  windows: number;
  hasWeather: boolean;
  /** Days × 24 hours of the clock: share of the glass in shade; −1 while the sun stands behind it, NaN at night. */
  days: number;
  shade: Float32Array;
  notes: string[];
}

/** The windows that are meant with one of them. Throws InputError `opening`. */
export function windowsOf(asked: Asked, key: string, of: ReadOf): DevicePlace[] {
  const { project, optionId, meshes } = asked;
  const all = glazedPlaces(project, optionId, meshes).flatMap(({ places }) => places);
  const one = all.find(({ owner, opening }) => `${owner.id}/${opening.id}` === key);
  if (!one) throw new InputError('opening', 'The window is gone; choose another.');
  if (of === 'window') return [one];
  if (of === 'option') return all;
  const { owner } = one;
  if (of === 'facade') {
    const nameOf = (place: DevicePlace) => wallName(place.owner.id, place.face.host) ?? place.face.key;
    return all.filter((place) => place.owner.id === owner.id && nameOf(place) === nameOf(one));
  }
  const room = roomOf(asked, one);
  if (!room) return [one];
  const inRoom = new Set(room.openings.map((each) => `${each.face.key}/${each.id}`));
  return all.filter(
    (place) => place.owner.id === owner.id && inRoom.has(`${place.face.key}/${place.opening.id}`),
  );
}

/** The room that a window is of; undefined where it is of none. */
export function roomOf(
  { project, optionId, meshes }: Asked,
  { owner, face, opening }: DevicePlace,
): Room | undefined {
  return roomsIn(project, optionId, meshes).find(
    ({ mass, openings }) =>
      mass === owner.id && openings.some((each) => each.id === opening.id && each.face.key === face.key),
  );
}

/** What a year of windows without devices goes by: the same objects, the same year. */
export function partsOf({ project, optionId, meshes }: Asked): unknown[] {
  const { site, neighbours, neighbourRules, glazings, hourSets, options } = project;
  const { masses, models, rules } = options.find(({ id }) => id === optionId)!;
  const today = options.find(({ id }) => id === TODAY);
  return [
    site,
    neighbours,
    neighbourRules,
    glazings,
    hourSets,
    masses,
    models,
    rules,
    today,
    meshes,
    optionId,
  ];
}

/** The years that were asked about last: what a drag changes is only the device. */
const kept: { parts: unknown[]; windows: string; reader: GlassReader }[] = [];
const KEPT = 6;

/** The windows through the year without devices; made once while only devices change. */
function readerOf(
  asked: Asked,
  places: readonly DevicePlace[],
  masks: MaskStore,
  precision: GlassPrecision = AT_REST,
): GlassReader {
  const parts = [...partsOf(asked), precision];
  const windows = places.map(({ owner, face, opening }) => `${owner.id}/${face.key}/${opening.id}`).join('|');
  const at = kept.findIndex(
    (one) => one.windows === windows && one.parts.every((part, i) => part === parts[i]),
  );
  if (at >= 0) {
    const [found] = kept.splice(at, 1);
    kept.unshift(found!);
    return found!.reader;
  }
  const { optionId, meshes } = asked;
  const project: Project = withoutDevices(asked.project, optionId);
  const reader = new GlassReader(
    new GlassYear({ project, optionId, meshes, masks }, places, precision),
    project,
  );
  kept.unshift({ parts, windows, reader });
  kept.splice(KEPT);
  return reader;
}

/** The light in the middle of the room behind a window; null where none is behind it. Throws InputError. */
export function lightOfRoom(asked: Asked, key: string): (RoomLight & { room: string }) | null {
  const { project, optionId, meshes } = asked;
  const [one] = windowsOf(asked, key, 'window') as [DevicePlace];
  const room = roomOf(asked, one);
  if (!room) return null;
  const windows = windowsOf(asked, key, 'room');
  return {
    room: room.name,
    ...roomLight(project, optionId, meshes, room, windows, sceneNow(asked)),
  };
}

/** The shading mask of the devices that stand, at a window. Throws InputError. */
export function maskOfWindow(asked: Asked, key: string, masks: MaskStore): ShadingMask {
  const { year } = readerOf(asked, windowsOf(asked, key, 'window'), masks);
  return shadingMask(year, devicesNow(asked), asked.project.site.north.trueNorthDeg);
}

/** The devices that stand, as they are at rest. */
function devicesNow(asked: Asked) {
  const scene = sceneNow(asked);
  return scene.pieces.filter((_, i) => scene.owners[i]!.layer === 'devices');
}

/** What is to be known of figures past what moves or hangs inside. */
const AS_THEY_HANG =
  'Beam, sky and light thrown back are summed hour by hour, past blinds, awnings and slats as they stand then; sheets inside take their share of what comes in. Glass in sun, and sky light on the glass, are without them inside, and at rest.';

/**
 * Reads the devices that stand at some windows through the year. Throws InputError.
 * @param isResting nothing is dragged: as finely as a figure that stands is to be
 */
export function glassYear(
  asked: Asked,
  key: string,
  of: ReadOf,
  isResting: boolean,
  masks: MaskStore,
): GlassYearFound {
  const places = windowsOf(asked, key, of);
  const reader = readerOf(asked, places, masks, isResting ? AT_REST : IN_MOTION);
  const { year } = reader;
  const { moving } = sceneNow(asked);
  const precision = isResting ? AT_REST : IN_MOTION;
  const hangs = isHourly(asked);
  const still = devicesNow(asked).filter((piece) => !moving.some(({ resting }) => resting === piece));
  const past = year.past(still, moving);
  const shades = shadeOfSuns(year, past.open);
  const { hourOf, days } = carpetOf(asked.project.site, year.sky.hours, () => 0);
  const sunOf = new Int32Array(year.sky.hours.length).fill(-1);
  year.sky.hourOf.forEach((h, d) => (sunOf[h] = d));
  return {
    reading: reader.read(past, hangs && year.sky.hasWeather ? hourlyMonths(asked, places, precision) : null),
    windows: places.length,
    hasWeather: year.sky.hasWeather,
    days,
    shade: Float32Array.from(hourOf, (h) => {
      if (h < 0 || sunOf[h]! < 0) return NaN;
      const share = shades[sunOf[h]!]!;
      return Number.isNaN(share) ? -1 : share;
    }),
    notes: hangs ? [AS_THEY_HANG] : [],
  };
}
