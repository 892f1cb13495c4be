import {
  InputError,
  type RoomAssumptions,
  roomsIn,
  type RoomYear,
  roomYear,
  standScheme,
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

/** A year of a room under one scheme of devices, or none. */
export interface SchemeYear {
  scheme: string | null;
  name: string;
  heatingKWh: number;
  coolingKWh: number;
  peakCoolingW: number;
  solarKWh: number;
  tooWarmH: number;
}

/** The rooms of what an option itself proposes. */
export function roomChoices(asked: Asked): RoomChoice[] {
  const { project, optionId, meshes } = asked;
  sceneNow(asked);
  return roomsIn(project, optionId, meshes)
    .filter((room) => room.optionId === optionId)
    .map(({ key, name, massName, shape, openings }) => ({
      key,
      name,
      mass: massName,
      storey: shape.storey,
      windows: openings.length,
    }));
}

/** The year of a room without devices and under each scheme of the option. Throws InputError. */
export function schemeYears(
  { project, optionId, meshes }: Asked,
  key: string,
  assumed: RoomAssumptions,
): SchemeYear[] {
  const option = project.options.find(({ id }) => id === optionId)!;
  return [{ id: null, name: 'None' }, ...option.schemes].map(({ id, name }): SchemeYear => {
    const switched = standScheme(optionId, id)(project);
    const room = roomsIn(switched, optionId, meshes).find((one) => one.key === key);
    if (!room) throw new InputError('room', 'The room is gone; choose another.');
    const year = roomYear(switched, optionId, meshes, room, assumed);
    return { scheme: id, name, ...figures(year) };
  });
}

function figures({ heating, cooling, solar, coolingW, tooWarmH }: RoomYear) {
  const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);
  return {
    heatingKWh: sum(heating),
    coolingKWh: sum(cooling),
    solarKWh: sum(solar),
    peakCoolingW: coolingW.reduce((most, one) => Math.max(most, one), 0),
    tooWarmH,
  };
}
