import { InputError } from '../errors';
import { TODAY } from './constants';
import type { Project } from './schema';
import type { BuildingNeighbour, Mass, Model, Neighbour } from './schema/form-schema';

/** The option with this id. Throws InputError `option`, naming those that exist. */
export function requireOption(project: Project, optionId: string) {
  const option = project.options.find((item) => item.id === optionId);
  if (option) return option;
  const known = project.options.map((item) => `“${item.id}” (${item.letter} ${item.name})`).join(', ');
  throw new InputError('option', `The option “${optionId}” does not exist; there are ${known}.`);
}

/** The masses of Today that stand in an option: all in Today itself, else those not demolished. */
export function standingMasses(project: Project, optionId: string): Mass[] {
  const today = project.options.find((item) => item.id === TODAY)?.masses ?? [];
  return optionId === TODAY ? today : today.filter((mass) => !mass.demolished);
}

/** The models of Today that stand in an option. */
export function standingModels(project: Project, optionId: string): Model[] {
  const today = project.options.find((item) => item.id === TODAY)?.models ?? [];
  return optionId === TODAY ? today : today.filter((model) => !model.demolished);
}

/** The neighbours that stand in an option: all in Today, else those that are not taken down with the proposal. */
export function standingNeighbours(project: Project, optionId: string): Neighbour[] {
  return optionId === TODAY
    ? project.neighbours
    : project.neighbours.filter((neighbour) => !neighbour.demolished);
}

/** Every mass and neighbouring building that stands in an option. */
export function standingBodies(project: Project, optionId: string): (Mass | BuildingNeighbour)[] {
  return [
    ...standingMasses(project, optionId),
    ...(optionId === TODAY ? [] : requireOption(project, optionId).masses),
    ...standingNeighbours(project, optionId).filter((neighbour) => neighbour.kind === 'building'),
  ];
}
