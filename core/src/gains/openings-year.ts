import type { DevicePlace } from '../devices';
import { type Project, type RuledTarget, type Study, TODAY } from '../project';

/** The target that openings are asked about with, and the grid over their glass, metres. */
const TARGET = 'gains';
const SPACING_M = 0.25;

/**
 * Solar gain of openings over the whole year, as a project that measures just that: of some bodies, and of some storeys of
 * them; null for all.
 */
export function openingsYear(
  project: Project,
  optionOf: string | null,
  { owners, storeys = null }: { owners: string[] | null; storeys?: number[] | null },
  more: Partial<Study> = {},
  spacingM = SPACING_M,
): { asked: Project; study: Study } {
  const { year } = project.site;
  const target: RuledTarget = {
    id: TARGET,
    name: 'Openings',
    kind: 'openings',
    among: optionOf === null ? 'neighbours' : optionOf === TODAY ? 'today' : 'option',
    scope: { owners, sectors: null, storeys, walls: null, except: [] },
    withinM: null,
    facing: false,
    at: 'grid',
    spacingM,
    offsetM: 0.01,
  };
  const study: Study = {
    id: TARGET,
    name: 'Solar gain',
    kind: 'solar-gain',
    targets: [TARGET],
    window: { from: `${year}-01-01`, to: `${year}-12-31`, startMinutes: 0, endMinutes: 1440 },
    stepMinutes: 60,
    criterion: { atLeast: 0, share: 0, source: '' },
    scale: null,
    ...more,
  };
  return { asked: { ...project, targets: [target], studies: [study] }, study };
}

/** The id of the flat target that an opening is there. */
export function openingTargetId({
  owner,
  face,
  opening,
}: Pick<DevicePlace, 'owner' | 'face' | 'opening'>): string {
  return [TARGET, owner.id, face.key.replaceAll('/', '-'), opening.id].join('.');
}
