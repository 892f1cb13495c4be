import { type FaceAxes, insideFactor, inVariant, type MovedBy } from '../devices';
import { InputError } from '../errors';
import { standsOnGround } from '../form';
import { areaWithHoles, type MeshStore, type Point2, subtractPolygons } from '../geometry';
import {
  type DeviceMake,
  type DrawnTarget,
  type Project,
  standingBodies,
  type Study,
  type Target,
} from '../project';
import { ruledTargets } from './ruled-targets';

/** The glass that a target is: what solar gain goes by. */
export interface TargetGlass {
  gValue: number;
  /** Share of the opening that its frame takes. */
  frameShare: number;
  panes: number;
  categoryQ: number;
  /** Sheets that hang behind it. */
  inside?: readonly InsideSheet[];
}

/** A sheet inside, and how its wall lies, by which it moves. */
export interface InsideSheet {
  make: DeviceMake;
  face: FaceAxes;
}

/** What the sheets behind glass leave of what comes in at a moment, at rest for null. */
export function leftInside({ inside = [] }: TargetGlass, by: MovedBy | null): number {
  return inside.reduce((product, { make, face }) => product * insideFactor(make, face, by), 1);
}

/** A flat surface that is measured: a target as drawn, or one of those that a target by rule comes to. */
export type FlatTarget = DrawnTarget & {
  /** Where its one sensor stands, in its outline’s coordinates; a grid where there is none. */
  sensorAt?: Point2;
  /** Of a pane. */
  glass?: TargetGlass;
};

/** What one target comes to in an option: itself as drawn, or the surfaces that its rule means. */
export function partsOfTarget(
  project: Project,
  optionId: string,
  target: Target,
  meshes: MeshStore,
): FlatTarget[] {
  return target.kind === 'ground' || target.kind === 'plane'
    ? [target]
    : ruledTargets(project, optionId, target, meshes);
}

/** Whether the targets of a study mean anything that stands in an option, or in one with another scheme, and is not built over. */
export function meansAnything(asked: Project, variantId: string, study: Study, meshes: MeshStore): boolean {
  const { project, optionId } = inVariant(asked, variantId);
  return project.targets.some(
    (target) =>
      study.targets.includes(target.id) &&
      partsOfTarget(project, optionId, target, meshes).some((part) => !isBuiltOver(project, optionId, part)),
  );
}

/** Area of a target under which nothing of it is left to measure, m². */
const NOTHING_M2 = 0.01;

/** Whether buildings stand on all of a target on the ground. */
function isBuiltOver(project: Project, optionId: string, target: FlatTarget): boolean {
  if (target.kind !== 'ground' || target.levelM !== undefined) return false;
  const covers = standingBodies(project, optionId)
    .filter((body) => standsOnGround(body, project.site.ground))
    .map(({ footprint }) => footprint);
  if (covers.length === 0) return false;
  const left = subtractPolygons([{ outer: target.outline, holes: [] }], covers);
  return left.reduce((sum, part) => sum + areaWithHoles(part), 0) < NOTHING_M2;
}

/** Flat targets that a study may have. */
const MAX_FLAT = 20_000;

/**
 * What the targets of a study come to in an option, in their order. Throws InputError `no-target` where a rule means
 * nothing there, `too-many-targets` where it means more than can be told apart.
 */
export function flatTargets(
  project: Project,
  optionId: string,
  study: Study,
  meshes: MeshStore,
): FlatTarget[] {
  const chosen = project.targets.filter(({ id }) => study.targets.includes(id));
  const flat = chosen.flatMap((target) => partsOfTarget(project, optionId, target, meshes));
  if (flat.length === 0)
    throw new InputError(
      'no-target',
      `${chosen.map(({ name }) => `“${name}”`).join(', ')} ${chosen.length > 1 ? 'mean' : 'means'} nothing that stands in this option.`,
    );
  if (flat.length > MAX_FLAT)
    throw new InputError(
      'too-many-targets',
      `The targets come to ${flat.length.toLocaleString('en')} surfaces; ${MAX_FLAT.toLocaleString('en')} are allowed. Narrow the rule.`,
    );
  return flat;
}
