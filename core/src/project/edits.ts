import { produce } from 'immer';
import { InputError } from '../errors';
import type { Ring } from '../geometry/ring';
import { ringProblem } from '../geometry/ring';
import {
  type Mass,
  type Neighbour,
  type Option,
  type Place,
  type Probe,
  type Project,
  type Site,
  type Study,
  type Target,
  TODAY,
  type Viewpoint,
} from './schema';

/** Every edit takes a document and gives a new one; what did not change is shared. */
type Edit = (project: Project) => Project;

type Listed = {
  neighbours: Neighbour;
  targets: Target;
  studies: Study;
  probes: Probe;
  options: Option;
  viewpoints: Viewpoint;
};

/** An id not yet used in the project: the stem itself, or with the next free number. */
export function freshId(project: Project, stem: string): string {
  const used = new Set(
    [
      project.neighbours,
      project.options,
      project.options.flatMap((option) => option.masses),
      project.targets,
      project.studies,
      project.probes,
      project.viewpoints,
    ].flatMap((list) => list.map((item: { id: string }) => item.id)),
  );
  if (!used.has(stem)) return stem;
  let n = 2;
  while (used.has(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
}

/** Rename the project, change its note or its units. */
export const editProject =
  (change: Partial<Pick<Project, 'name' | 'note' | 'units'>>): Edit =>
  (project) => ({ ...project, ...change });

/** Change where the site is; the place stays or becomes unconfirmed unless the change confirms it. */
export const editPlace =
  (change: Partial<Place>): Edit =>
  (project) =>
    produce(project, (draft) => {
      Object.assign(draft.site.place, { confirmed: false }, change);
    });

/** Turn true north, or confirm it. */
export const editNorth =
  (change: Partial<Site['north']>): Edit =>
  (project) =>
    produce(project, (draft) => {
      Object.assign(draft.site.north, { confirmed: false }, change);
    });

/** Change the year, the ground or the boundary. */
export const editSite =
  (change: Partial<Pick<Site, 'year' | 'ground' | 'boundary'>>): Edit =>
  (project) => ({ ...project, site: { ...project.site, ...change } });

/** Put a new thing at the end of its list. */
export const add =
  <K extends keyof Listed>(list: K, item: Listed[K]): Edit =>
  (project) => ({ ...project, [list]: [...project[list], item] });

/** Change fields of one thing in a list. */
export const change =
  <K extends keyof Listed>(list: K, id: string, fields: Partial<Listed[K]>): Edit =>
  (project) => ({
    ...project,
    [list]: (project[list] as Listed[K][]).map((item) => (item.id === id ? { ...item, ...fields } : item)),
  });

/** Remove one thing from a list. Targets leave the studies that use them; Today cannot be removed. */
export const remove =
  <K extends keyof Listed>(list: K, id: string): Edit =>
  (project) => {
    if (list === 'options' && id === TODAY)
      throw new InputError('today', 'Today cannot be removed; it is what every option is compared with.');
    const rest = (project[list] as { id: string }[]).filter((item) => item.id !== id);
    const studies = project.studies.map((study) => ({
      ...study,
      targets: study.targets.filter((target) => target !== id),
    }));
    return list === 'targets'
      ? { ...project, studies, targets: rest as Target[] }
      : { ...project, [list]: rest };
  };

/** Add a mass to an option. */
export const addMass =
  (optionId: string, mass: Mass): Edit =>
  (project) =>
    editMasses(project, optionId, (masses) => [...masses, mass]);

/** Change fields of a mass. */
export const changeMass =
  (optionId: string, massId: string, fields: Partial<Mass>): Edit =>
  (project) =>
    editMasses(project, optionId, (masses) =>
      masses.map((mass) => (mass.id === massId ? { ...mass, ...fields } : mass)),
    );

/** Remove a mass from an option. */
export const removeMass =
  (optionId: string, massId: string): Edit =>
  (project) =>
    editMasses(project, optionId, (masses) => masses.filter((mass) => mass.id !== massId));

function editMasses(project: Project, optionId: string, edit: (masses: Mass[]) => Mass[]): Project {
  return {
    ...project,
    options: project.options.map((option) =>
      option.id === optionId ? { ...option, masses: edit(option.masses) } : option,
    ),
  };
}

/** Move a mass of an option, or a neighbour, over the ground. Metres along x and y. */
export const moveOwner =
  (owner: { optionId: string | null; id: string }, dx: number, dy: number): Edit =>
  (project) =>
    produce(project, (draft) => {
      const shift = (ring: [number, number][]) => ring.map(([x, y]): [number, number] => [x + dx, y + dy]);
      const moveShape = (shape: { footprint: Mass['footprint'] }) => {
        shape.footprint.outer = shift(shape.footprint.outer);
        shape.footprint.holes = shape.footprint.holes.map(shift);
      };
      if (owner.optionId !== null) {
        const mass = draft.options
          .find((option) => option.id === owner.optionId)
          ?.masses.find((item) => item.id === owner.id);
        if (mass) moveShape(mass);
        return;
      }
      const neighbour = draft.neighbours.find((item) => item.id === owner.id);
      if (neighbour?.kind === 'building') moveShape(neighbour);
      if (neighbour?.kind === 'mesh')
        neighbour.move = [neighbour.move[0] + dx, neighbour.move[1] + dy, neighbour.move[2]];
    });

/** A copy of an option with everything in it, under a new letter, behind the last proposal. */
export const duplicateOption =
  (optionId: string): Edit =>
  (project) => {
    const source = project.options.find((option) => option.id === optionId);
    if (!source) return project;
    const letter = nextLetter(project);
    const id = freshId(project, letter.toLowerCase());
    const copy: Option = { ...source, id, letter, hue: nextHue(project), name: `${source.name} copy` };
    return { ...project, options: [...project.options, copy] };
  };

/** The next letter that no option has: A, B … Z. */
export function nextLetter(project: Project): string {
  const used = new Set(project.options.map((option) => option.letter));
  for (let code = 65; code <= 90; code++) {
    const letter = String.fromCharCode(code);
    if (!used.has(letter)) return letter;
  }
  throw new InputError('options', 'All letters from A to Z are taken; remove an option first.');
}

/** The option hue used least so far. */
export function nextHue(project: Project): number {
  const counts = new Array<number>(7).fill(0);
  for (const option of project.options) if (option.hue < 7) counts[option.hue]!++;
  return counts.indexOf(Math.min(...counts));
}

/** Throws InputError `footprint` when a drawn outline is not a sound polygon. */
export function requireRing(label: string, ring: Ring): void {
  const problem = ringProblem(ring);
  if (problem) throw new InputError('footprint', `${label} ${problem}.`);
}
