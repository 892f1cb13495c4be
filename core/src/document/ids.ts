import { nanoid } from 'nanoid';
import type { MassShape, Project } from '../project';

/** An id for something that people add: the stem, and ten letters drawn at random, so that no two pages give the same. */
export function newId(stem: string): string {
  return `${stem.replace(/[^a-zA-Z0-9_-]/g, '').slice(0, 40)}-${nanoid(10)}`;
}

/** An id not yet used in the project: the stem itself, or with the next free number. For what is made again the same. */
export function freeId(project: Project, stem: string, taken: ReadonlySet<string> = new Set()): string {
  return freeAmong(new Set([...usedIds(project), ...taken]), stem);
}

/** The stem itself, or with the next number that is not taken. */
export function freeAmong(taken: ReadonlySet<string>, stem: string): string {
  if (!taken.has(stem)) return stem;
  let n = 2;
  while (taken.has(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
}

/** Every id in use. */
export function usedIds(project: Project): string[] {
  const lists: { id: string }[][] = [
    project.neighbours,
    project.neighbourRules,
    project.glazings,
    project.areas,
    project.options,
    project.targets,
    project.studies,
    project.probes,
    project.viewpoints,
    project.momentSets,
    project.hourSets,
    project.envelopes,
    project.sources,
    project.underlays,
    project.criteria,
  ];
  for (const option of project.options) {
    lists.push(option.masses, option.models, option.rules, option.schemes);
    for (const { devices } of option.schemes) lists.push(devices);
    for (const mass of option.masses) lists.push(...inBody(mass));
    for (const model of option.models) lists.push(model.openings);
  }
  for (const neighbour of project.neighbours)
    if (neighbour.kind === 'building') lists.push(...inBody(neighbour));
    else if (neighbour.kind === 'mesh') lists.push(neighbour.openings);
  return lists.flatMap((list) => list.map(({ id }) => id));
}

function inBody(body: MassShape): { id: string }[][] {
  return [body.openings, body.partitions, body.rooms, body.furniture];
}
