import { freeId, newId } from '../../document';
import { innerPoint, massLevels, roomsFromOutlines, storeyPlate } from '../../form';
import { containsWithHoles } from '../../geometry';
import type { Mass, Project } from '../../project';

/** A space of a building model: its outline on its floor. */
export interface SpaceOutline {
  name: string;
  outline: [number, number][];
  /** Columns and courts within it. */
  holes: [number, number][][];
  levelM: number;
}

/** How far the floor of a space may lie from that of the storey it belongs to, metres. */
const FLOOR_SLACK_M = 0.7;

/** Puts spaces as rooms into the masses of an option that they lie in; gives the ids of the rooms, and those in none. */
export function spacesIntoMasses(
  project: Project,
  spaces: readonly SpaceOutline[],
  optionId: string,
  randomIds = false,
): { project: Project; ids: string[]; rest: SpaceOutline[] } {
  const { ground } = project.site;
  const taken = new Set<string>();
  const fresh = (stem: string) => {
    const id = randomIds ? newId(stem) : freeId(project, stem, taken);
    taken.add(id);
    return id;
  };
  const ids: string[] = [];
  let rest = [...spaces];
  const withRooms = (mass: Mass): Mass => {
    const { floorM } = massLevels(mass, ground);
    const within = rest.flatMap((space) => {
      const storey = storeyAt(floorM, mass.storeys, space.levelM);
      const plate = storey === null ? null : storeyPlate(mass, storey);
      const middle = innerPoint({ outer: space.outline, holes: space.holes });
      return plate && containsWithHoles(plate, middle) ? [{ ...space, storey: storey!, space }] : [];
    });
    if (within.length === 0) return mass;
    const { body, left } = roomsFromOutlines(mass, within, fresh);
    const placed = new Set(within.filter((room) => !left.includes(room)).map(({ space }) => space));
    rest = rest.filter((space) => !placed.has(space));
    ids.push(...body.rooms.slice(mass.rooms.length).map(({ id }) => id));
    return body;
  };
  const options = project.options.map((option) =>
    option.id === optionId ? { ...option, masses: option.masses.map(withRooms) } : option,
  );
  return { project: { ...project, options }, ids, rest };
}

/** The storey whose floor lies at a level, or null. */
function storeyAt(floorM: number, storeys: Mass['storeys'], levelM: number): number | null {
  let low = floorM;
  for (let i = 0; i < storeys.length; i++) {
    if (Math.abs(levelM - low) <= FLOOR_SLACK_M) return i;
    low += storeys[i]!.heightM;
  }
  return null;
}
