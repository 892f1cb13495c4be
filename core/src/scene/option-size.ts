import { InputError } from '../errors';
import { glazedPlaces, standingScheme, tooManyBoxes, tooManyDevices } from '../devices';
import type { MeshStore } from '../geometry';
import { MAX_RULED, openingsIn } from '../openings';
import { type Project, requireOption, standingModels, standingNeighbours, TODAY } from '../project';

/** Triangles of imported meshes that an option may have where it is traced or sent out. */
export const MAX_OPTION_TRIANGLES = 1_600_000;

/** Why the rules of an option make nothing. */
export function tooManyOpenings(count: number): string {
  return `The rules of this option would make about ${count.toLocaleString('en')} openings; at most ${MAX_RULED.toLocaleString('en')} are built, so none is. Widen their bays, or let them be for fewer walls.`;
}

/**
 * Refuses an option that is too large to be traced or sent out, before anything of it is built. Throws InputError
 * `option`, `too-many-openings`, `too-many-devices` or `too-many-triangles`.
 */
export function refuseTooLarge(project: Project, optionId: string, store: MeshStore = new Map()): void {
  const option = requireOption(project, optionId);
  const { tooMany } = openingsIn(project, optionId);
  if (tooMany) throw new InputError('too-many-openings', tooManyOpenings(tooMany));
  const scheme = standingScheme(project, optionId);
  if (scheme) {
    const { trueNorthDeg } = project.site.north;
    const boxes = tooManyBoxes(scheme, glazedPlaces(project, optionId, store), trueNorthDeg);
    if (boxes !== null) throw new InputError('too-many-devices', tooManyDevices(boxes));
  }
  const meshes = [
    ...standingNeighbours(project, optionId).filter((neighbour) => neighbour.kind === 'mesh'),
    ...standingModels(project, optionId),
    ...(optionId === TODAY ? [] : option.models),
  ];
  const triangles = meshes.reduce((sum, mesh) => sum + mesh.triangles, 0);
  if (triangles > MAX_OPTION_TRIANGLES)
    throw new InputError(
      'too-many-triangles',
      `The meshes that stand in option ${option.letter} have ${triangles.toLocaleString('en')} triangles; at most ${MAX_OPTION_TRIANGLES.toLocaleString('en')} can be traced or sent out at once. Leave out what is far from the site, or bring it in plainer.`,
    );
}
