import type { Project } from './schema';
import type { BuildingNeighbour, Mass, Model, Neighbour } from './schema/form-schema';
import type { OpeningRule } from './schema/opening-schema';

/** Something that stands in the scene: a mass or model of an option, or a neighbour (optionId null). */
export interface OwnerRef {
  optionId: string | null;
  id: string;
}

/** What an owner is in the document. */
export type Standable = Mass | Model | Neighbour;

/** The mass, model or neighbour that is meant, or undefined. */
export function findOwner(project: Project, { optionId, id }: OwnerRef): Standable | undefined {
  if (optionId === null) return project.neighbours.find((item) => item.id === id);
  const option = project.options.find((item) => item.id === optionId);
  return option?.masses.find((item) => item.id === id) ?? option?.models.find((item) => item.id === id);
}

/** The body that is meant, if it is one that has storeys: a mass, or a neighbour of kind building. */
export function findBody(project: Project, owner: OwnerRef): Mass | BuildingNeighbour | undefined {
  const found = findOwner(project, owner);
  return found && 'footprint' in found ? found : undefined;
}

/** What has openings, if that is what is meant: a mass, a building, an imported mesh. */
export function findOpenable(
  project: Project,
  owner: OwnerRef,
): Mass | BuildingNeighbour | Model | undefined {
  const found = findOwner(project, owner);
  return found && 'openings' in found ? found : undefined;
}

/** The rules that apply to a body. */
export function rulesFor(project: Project, optionId: string | null): OpeningRule[] {
  return optionId === null
    ? project.neighbourRules
    : (project.options.find((option) => option.id === optionId)?.rules ?? []);
}

/** The hashes of all meshes that a project names, with the name of what uses each. */
export function meshesNamed(project: Project): Map<string, string> {
  const found = new Map<string, string>();
  for (const neighbour of project.neighbours)
    if (neighbour.kind === 'mesh') found.set(neighbour.mesh, neighbour.name);
  for (const option of project.options) for (const model of option.models) found.set(model.mesh, model.name);
  return found;
}

/** The hashes of all pictures that a project names, with the name of what uses each. */
export const picturesNamed = ({ underlays }: Project): Map<string, string> =>
  new Map(underlays.map(({ picture, name }) => [picture, name]));
