import {
  type Device,
  type DeviceMake,
  deviceProblems,
  type MaskStore,
  type MeshStore,
  type Project,
  type RoomAssumptions,
  type RoomGoal,
  type SecondNumber,
  type SizeAsked,
  type WorthPlane,
} from '@dial-shade/core';
import { glassRows } from './glass-work';
import { glassYear, lightOfRoom, maskOfWindow, type ReadOf } from './glass-year-work';
import { refusing } from './refusing';
import { roomChoices, type RoomYearAsked, yearOfRoom, yearsOfFacades, yearsOfRoom } from './room-year-work';
import {
  type Against,
  beamLetIn,
  sizedAt,
  sizedForRoom,
  sizedGroup,
  sizeGroups,
  yearOfWindow,
} from './size-work';
import { type SetsAsked, sweepPart, worthOf } from './sweep-work';

/** What the worker holds while it is asked. */
interface Held {
  project: Project;
  meshes: MeshStore;
  masks: MaskStore;
}

/** What is asked about shading, of the document at hand. */
export function shadingWork(held: () => Held) {
  const about = (optionId: string) => {
    const { project, meshes } = held();
    return { project, meshes, optionId };
  };
  return {
    /** How much of the glass of an option is in sun at moments, with its devices and without. */
    glassSun: (optionId: string, moments: readonly number[], opening: string | null) =>
      refusing(() => glassRows(about(optionId), moments, opening)),

    /** What the devices of an option do at some windows through the year. */
    glassYear: (optionId: string, opening: string, of: ReadOf, isResting: boolean) =>
      refusing(() => glassYear(about(optionId), opening, of, isResting, held().masks)),

    /** What is worth knowing of where the devices stand, a sentence each. */
    deviceProblems: (optionId: string) => {
      const { project, meshes } = held();
      return deviceProblems(project, optionId, meshes);
    },

    /** The sky component and the view in the middle of the room behind a window. */
    lightOfRoom: (optionId: string, opening: string) => refusing(() => lightOfRoom(about(optionId), opening)),

    /** The sky before a window, by what its devices shade of it. */
    maskOfWindow: (optionId: string, opening: string) =>
      refusing(() => maskOfWindow(about(optionId), opening, held().masks)),

    /** Sizes one number of a device at a window, against moments or a set of hours. */
    sizedAt: (
      optionId: string,
      opening: string,
      device: Device,
      against: Against,
      size: SizeAsked,
      atMostKWh: number | null,
    ) => refusing(() => sizedAt(about(optionId), opening, device, against, size, atMostKWh)),

    /** What a device of a size lets in of the beam of each set of hours. */
    beamLetIn: (optionId: string, opening: string, device: Device, make: DeviceMake) =>
      refusing(() => beamLetIn(about(optionId), opening, device, make)),

    /** The same so that the sun in the room of a window stays within a goal. */
    sizedForRoom: (
      optionId: string,
      opening: string,
      device: Device,
      against: Against,
      size: SecondNumber & { second: SecondNumber | null },
      goal: RoomGoal,
    ) => refusing(() => sizedForRoom(about(optionId), opening, device, against, size, goal)),

    /** The windows of a device by side and storey, and what those of one of them need. */
    sizeGroups: (optionId: string, device: Device) => sizeGroups(about(optionId), device),
    sizedGroup: (
      optionId: string,
      keys: readonly string[],
      device: Device,
      against: Against,
      size: SizeAsked,
    ) => refusing(() => sizedGroup(about(optionId), keys, device, against, size)),

    /** Tries some sizes of a device at a window. */
    sweepPart: (
      optionId: string,
      opening: string,
      device: Device,
      sets: SetsAsked,
      makes: readonly DeviceMake[],
    ) => refusing(() => sweepPart(about(optionId), opening, device, sets, makes, held().masks)),

    /** Where shade is worth having on a plane. */
    worth: (
      optionId: string,
      opening: string,
      along: Device['along'],
      plane: WorthPlane,
      sets: SetsAsked,
      without: string | null,
    ) => refusing(() => worthOf(about(optionId), opening, along, plane, sets, without, held().masks)),

    /** The year of a window: the share of its glass in sun, and in whose shade it lies. */
    yearOfWindow: (optionId: string, opening: string) =>
      refusing(() => yearOfWindow(about(optionId), opening)),

    /** Rooms of what an option proposes, the years that are to stand side by side, and one of them. */
    roomChoices: (optionId: string) => roomChoices(about(optionId)),
    yearsAsked: (optionId: string, key: string | null) =>
      refusing(() => (key === null ? yearsOfFacades(about(optionId)) : yearsOfRoom(about(optionId), key))),
    yearOfRoom: (asked: RoomYearAsked, assumed: RoomAssumptions) =>
      refusing(() => yearOfRoom(about(asked.optionId), asked, assumed)),
  };
}
