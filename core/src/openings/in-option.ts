import type { MeshStore } from '../geometry';
import {
  type BuildingNeighbour,
  type Mass,
  type MassShape,
  type MeshNeighbour,
  type Model,
  type OpeningRule,
  type Project,
  requireOption,
  standingMasses,
  standingModels,
  standingNeighbours,
  TODAY,
} from '../project';
import { type AdjoiningBody, SpatialIndex } from './adjoining-body';
import { MAX_RULED, ruledOpenings } from './how-many';
import { fitOpenings, type FittedBody, type Openable, openableBody, openableModel } from './fitted';

/** Openings of everything that has any, in one option. */
export interface OpeningsOf {
  /** Every building that stands in the option, with the option that holds it (null: a neighbour). */
  bodies: { body: Mass | BuildingNeighbour; optionId: string | null }[];
  /** The same, and every imported mesh that stands there and is at hand. */
  all: { body: Mass | BuildingNeighbour | Model; optionId: string | null }[];
  /** By the body itself; null when it has no openings and no rules. */
  of(body: MassShape | Model): FittedBody | null;
  /** The same, also for a body without any. */
  fitted(body: MassShape | Model): FittedBody;
  /** What stands near enough to a body to cover a part of its walls. */
  near(body: MassShape | Model): AdjoiningBody[];
  /** About how many openings rules would make, when that is more than an option may have: then they make none. */
  tooMany: number | null;
}

const NO_MESHES: MeshStore = new Map();

/** Those asked for last, newest first; few, so that the documents of a long history are not held by it. */
const latest: { project: Project; optionId: string; meshes: MeshStore; openings: OpeningsOf }[] = [];
const KEPT = 4;

/**
 * The openings of an option: fitted on first use, remembered with the bodies. Imported meshes have openings, and cover
 * walls, only where they are in the store. Throws InputError `option`.
 */
export function openingsIn(project: Project, optionId: string, meshes: MeshStore = NO_MESHES): OpeningsOf {
  const known = latest.find(
    (item) => item.project === project && item.optionId === optionId && item.meshes === meshes,
  );
  if (known) return known.openings;
  const openings = makeOpenings(project, optionId, meshes);
  latest.unshift({ project, optionId, meshes, openings });
  latest.length = Math.min(latest.length, KEPT);
  return openings;
}

function makeOpenings(project: Project, optionId: string, meshes: MeshStore): OpeningsOf {
  const option = requireOption(project, optionId);
  const { ground } = project.site;
  const { trueNorthDeg } = project.site.north;
  const isProposal = optionId !== TODAY;
  const neighbours = standingNeighbours(project, optionId);
  const bodies = [
    ...neighbours.flatMap((n) => (n.kind === 'building' ? { body: n, optionId: null } : [])),
    ...standingMasses(project, optionId).map((body) => ({ body, optionId: TODAY })),
    ...(isProposal ? option.masses : []).map((body) => ({ body, optionId })),
  ];
  const meshOf = (model: Model | MeshNeighbour) => meshes.get(model.mesh);
  const models = [
    ...neighbours.flatMap((n) => (n.kind === 'mesh' ? { body: n, optionId: null } : [])),
    ...standingModels(project, optionId).map((body) => ({ body, optionId: TODAY })),
    ...(isProposal ? option.models : []).map((body) => ({ body, optionId })),
  ].filter(({ body }) => meshOf(body));
  const all = [...bodies, ...models];
  const todayRules = project.options.find((item) => item.id === TODAY)?.rules ?? [];
  const holder = new Map<object, string | null>(all.map(({ body, optionId: of }) => [body, of]));
  /** Rules that may be for a body; whether for one of its walls is seen when they are fitted. */
  const rulesFor = (body: MassShape | Model): readonly OpeningRule[] => {
    const of = holder.get(body);
    const rules =
      of === undefined ? [] : of === null ? project.neighbourRules : of === TODAY ? todayRules : option.rules;
    if (rules.length === 0) return rules;
    return rules.filter(({ scope }) => {
      if (scope.owners && !scope.owners.includes(body.id)) return false;
      return !('mesh' in body) || scope.owners !== null || namesOwner(scope.walls, body.id);
    });
  };
  let wanted = 0;
  for (const { body } of bodies) wanted += ruledOpenings(body, rulesFor(body), ground, trueNorthDeg);
  const tooMany = wanted > MAX_RULED ? wanted : null;
  const openable = (body: MassShape | Model): Openable =>
    'mesh' in body ? openableModel(body, meshes.get(body.mesh)!) : openableBody(body, ground);
  let index: SpatialIndex | null = null;
  const near = (body: MassShape | Model) => {
    index ??= new SpatialIndex(all.map((item) => openable(item.body).adjoining));
    return index.near(openable(body).adjoining);
  };
  const fitted = (body: MassShape | Model) =>
    fitOpenings(openable(body), { trueNorthDeg, rules: tooMany ? [] : rulesFor(body), near: near(body) });
  return {
    bodies,
    all,
    of(body) {
      return rulesFor(body).length === 0 && body.openings.length === 0 ? null : fitted(body);
    },
    fitted,
    near,
    tooMany,
  };
}

function namesOwner(walls: readonly string[] | null, id: string): boolean {
  return walls?.some((wall) => wall.startsWith(`${id}/`)) ?? false;
}
