import {
  InputError,
  type Project,
  type Room,
  type RoomAssumptions,
  roomsIn,
  roomYear,
  standScheme,
  TODAY,
  typicalRooms,
  withoutDevices,
} from '@dial-shade/core';
import { type Asked, sceneNow } from './scene-now';

/** A room of an option that can be chosen. */
export interface RoomChoice {
  key: string;
  name: string;
  mass: string;
  storey: number;
  windows: number;
}

/** A year that is asked about: a room of an option, under one of its schemes or none, or as it stands. */
export interface RoomYearAsked {
  optionId: string;
  option: string;
  key: string;
  room: string;
  /** What tells the row apart: the scheme, the option, the facade. */
  what: string;
  devices: { scheme: string } | 'none' | 'as it stands';
  /** Whether the option stands so. */
  stands: boolean;
}

/** What a year of a room comes to. */
export interface RoomYearFound {
  floorM2: number;
  /** kWh by month. */
  heating: number[];
  cooling: number[];
  solarKWh: number;
  /** What the year's sums may be off by (±), kWh. */
  error: { heating: number; cooling: number; solar: number };
  peakCoolingW: number;
  tooWarmH: number;
}

/** The rooms of what an option itself proposes. */
function ownRooms({ project, optionId, meshes }: Asked): Room[] {
  return roomsIn(project, optionId, meshes).filter((room) => room.optionId === optionId);
}

export function roomChoices(asked: Asked): RoomChoice[] {
  sceneNow(asked);
  return ownRooms(asked).map(({ key, name, massName, shape, openings }) => ({
    key,
    name,
    mass: massName,
    storey: shape.storey,
    windows: openings.length,
  }));
}

/**
 * The years of a room that stand beside one another: without devices, under each scheme of its option, and as they stand in
 * other options the rooms of the same name.
 */
export function yearsOfRoom(asked: Asked, key: string): RoomYearAsked[] {
  const { project, optionId } = asked;
  const option = project.options.find(({ id }) => id === optionId)!;
  const room = ownRooms(asked).find((one) => one.key === key);
  if (!room) throw new InputError('room', 'The room is gone; choose another.');
  const own = { optionId, option: option.name, key, room: room.name };
  return [
    { ...own, what: 'None', devices: 'none', stands: option.scheme === null },
    ...option.schemes.map(({ id, name }): RoomYearAsked => ({
      ...own,
      what: name,
      devices: { scheme: id },
      stands: id === option.scheme,
    })),
    ...otherOptions(project, optionId).flatMap(({ id, letter, name }): RoomYearAsked[] => {
      const same = ownRooms({ ...asked, optionId: id }).find((one) => one.name === room.name);
      if (!same) return [];
      const what = `${letter} ${name}, as it stands`;
      return [
        {
          optionId: id,
          option: name,
          key: same.key,
          room: same.name,
          what,
          devices: 'as it stands',
          stands: true,
        },
      ];
    }),
  ];
}

function otherOptions(project: Project, optionId: string) {
  return project.options.filter(({ id }) => id !== optionId && id !== TODAY);
}

/** A typical room of each facade of every option, as it stands and without devices. */
export function yearsOfFacades(asked: Asked): RoomYearAsked[] {
  const { project } = asked;
  const { trueNorthDeg } = project.site.north;
  return project.options
    .filter(({ id }) => id !== TODAY)
    .flatMap(({ id, letter, name, scheme }) =>
      typicalRooms(ownRooms({ ...asked, optionId: id }), trueNorthDeg).flatMap(({ sector, room }) => {
        const row = { optionId: id, option: name, key: room.key, room: room.name };
        const what = `${letter}, ${sector}`;
        const standing: RoomYearAsked = { ...row, what, devices: 'as it stands', stands: true };
        return scheme === null
          ? [standing]
          : [standing, { ...row, what: `${what}, no devices`, devices: 'none' as const, stands: false }];
      }),
    );
}

/** One of them. Throws InputError. */
export function yearOfRoom(
  { project, meshes }: Asked,
  { optionId, key, devices }: RoomYearAsked,
  assumed: RoomAssumptions,
): RoomYearFound {
  const switched =
    devices === 'none'
      ? withoutDevices(project, optionId)
      : devices === 'as it stands'
        ? project
        : standScheme(optionId, devices.scheme)(project);
  const room = roomsIn(switched, optionId, meshes).find((one) => one.key === key);
  if (!room) throw new InputError('room', 'The room is gone; choose another.');
  const { envelope, heating, cooling, solar, error, coolingW, tooWarmH } = roomYear(
    switched,
    optionId,
    meshes,
    room,
    assumed,
  );
  return {
    floorM2: envelope.floorM2,
    heating,
    cooling,
    solarKWh: solar.reduce((sum, value) => sum + value, 0),
    error,
    peakCoolingW: coolingW.reduce((most, one) => Math.max(most, one), 0),
    tooWarmH,
  };
}
