import { cutText, RAD } from '../civil';
import { InputError } from '../errors';
import {
  edgeNumbers,
  followedBy,
  freshEdgeNumber,
  isMirror,
  type Motion,
  movePlane,
  movePoint,
  moveShape,
  removeCorner,
  shiftBy,
  splitEdge,
  turnAbout,
} from '../form';
import { type Ring, ringProblem } from '../geometry';
import {
  findBody,
  findOwner,
  type Mass,
  type MassShape,
  type Model,
  type Opening,
  type OpeningRule,
  type OwnerRef,
  type PlaneTarget,
  type Project,
  type Standable,
  type Target,
  type Scheme,
} from '../project';
import { newId } from './ids';
import type { Edit } from './list-edits';

/** Add a mass to an option. */
export const addMass =
  (optionId: string, mass: Mass): Edit =>
  (project) =>
    editMasses(project, optionId, (masses) => [...masses, mass]);

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

function editOwners(
  project: Project,
  owners: readonly OwnerRef[],
  edit: <T extends Standable>(owner: T) => T[],
): Project {
  const isMeant = (optionId: string | null, id: string) =>
    owners.some((owner) => owner.optionId === optionId && owner.id === id);
  const apply = <T extends Standable>(list: T[], optionId: string | null): T[] =>
    list.some((item) => isMeant(optionId, item.id))
      ? list.flatMap((item) => (isMeant(optionId, item.id) ? edit(item) : [item]))
      : list;
  return {
    ...project,
    neighbours: apply(project.neighbours, null),
    options: project.options.map((option) => {
      const masses = apply(option.masses, option.id);
      const models = apply(option.models, option.id);
      return masses === option.masses && models === option.models ? option : { ...option, masses, models };
    }),
  };
}

/** Reshape a mass or a neighbouring building. */
export const reshapeBody =
  (owner: OwnerRef, reshape: <T extends MassShape>(body: T) => T): Edit =>
  (project) =>
    editOwners(project, [owner], (item) => [
      'footprint' in item ? reshape(item as typeof item & MassShape) : item,
    ]);

/** A new corner on an edge of a body. Rules and exceptions that name the edge go on naming both its halves. */
export const splitBodyEdge =
  (owner: OwnerRef, ring: number, edge: number): Edit =>
  (project) => {
    const body = findBody(project, owner);
    if (!body) return project;
    const numbers = edgeNumbers(body.footprint)[ring]!;
    const half = freshEdgeNumber(numbers);
    const wall = (number: number) => `${owner.id}/${ring}/${number}`;
    const whole = wall(numbers[edge]!);
    const both = (name: string) =>
      isOn(whole, name) ? [name, wall(half) + name.slice(whole.length)] : [name];
    const split = reshapeBody(owner, (shape) => splitEdge(shape, ring, edge, undefined, half));
    return renameWalls(owner.optionId, both)(split(project));
  };

/** A body without a corner. Rules and exceptions leave the edge that is gone. */
export const removeBodyCorner =
  (owner: OwnerRef, ring: number, corner: number): Edit =>
  (project) => {
    const body = findBody(project, owner);
    if (!body) return project;
    const gone = `${owner.id}/${ring}/${edgeNumbers(body.footprint)[ring]![corner]!}`;
    return renameWalls(owner.optionId, (name) => (isOn(gone, name) ? [] : [name]))(
      reshapeBody(owner, (shape) => removeCorner(shape, ring, corner))(project),
    );
  };

/** Walls under other names wherever rules and devices of an option (null: rules of the neighbours) name them. */
export const renameWalls =
  (optionId: string | null, rename: (name: string) => string[]): Edit =>
  (project) => {
    const renamed = editRules(optionId, (rules) => rules.map((rule) => renamedWalls(rule, rename)))(project);
    return {
      ...renamed,
      options: renamed.options.map((option) =>
        option.id === optionId ? { ...option, schemes: option.schemes.map(renamedIn) } : option,
      ),
    };

    function renamedIn(scheme: Scheme): Scheme {
      if (!scheme.devices.some(({ scope }) => scope.walls)) return scheme;
      const devices = scheme.devices.map((device) =>
        device.scope.walls
          ? { ...device, scope: { ...device.scope, walls: device.scope.walls.flatMap(rename) } }
          : device,
      );
      return { ...scheme, devices };
    }
  };

/** Whether a name of a wall, or of a part of one, is of this wall. */
function isOn(wall: string, name: string): boolean {
  return name === wall || name.startsWith(`${wall}/`);
}

/** The rule with the walls, exceptions and panels that it names under other names; the same rule where none changes. */
function renamedWalls(rule: OpeningRule, rename: (name: string) => string[]): OpeningRule {
  const { scope, make } = rule;
  const walls = scope.walls?.flatMap(rename) ?? null;
  const except = scope.except.flatMap(rename);
  const isSame = (a: readonly string[] | null, b: readonly string[] | null) => a?.join() === b?.join();
  const renamed =
    isSame(walls, scope.walls) && isSame(except, scope.except)
      ? rule
      : { ...rule, scope: { ...scope, walls, except } };
  if (make.by !== 'panels') return renamed;
  // Panels are counted along their wall: those of the first half stay, the second half begins anew.
  const turned = make.turned.filter((name) => rename(name).length > 0);
  return turned.length === make.turned.length ? renamed : { ...renamed, make: { ...make, turned } };
}

/** Change the openings of a mass, a building or an imported mesh. */
export const editOpenings =
  (owner: OwnerRef, edit: (openings: Opening[]) => Opening[]): Edit =>
  (project) =>
    editOwners(project, [owner], (item) => [
      'openings' in item ? { ...item, openings: edit(item.openings) } : item,
    ]);

/** Change fields of what is meant. */
export const changeOwner =
  (
    owner: OwnerRef,
    fields: { name?: string; demolished?: boolean; openness?: number; device?: boolean },
  ): Edit =>
  (project) =>
    editOwners(project, [owner], (item) => [{ ...item, ...fields }]);

/**
 * Move, turn or mirror things over the plan; targets taken from their faces go along. Throws InputError `mirror` for a
 * mesh, which cannot be mirrored.
 */
export const moveOwners =
  (owners: readonly OwnerRef[], motion: Motion): Edit =>
  (project) =>
    moveTargetsOf(
      editOwners(project, owners, (item) => [movedOwner(item, motion)]),
      owners,
      motion,
    );

/** Moves the targets that were taken from faces of what is meant. */
function moveTargetsOf(project: Project, owners: readonly OwnerRef[], motion: Motion, raiseM = 0): Project {
  const goesAlong = (target: Target): target is PlaneTarget =>
    target.kind === 'plane' &&
    owners.some(({ optionId, id }) => target.of?.id === id && target.of.optionId === optionId);
  if (!project.targets.some(goesAlong)) return project;
  return {
    ...project,
    targets: project.targets.map((target) =>
      goesAlong(target) ? movePlane(target, motion, raiseM) : target,
    ),
  };
}

/** Set an imported mesh elsewhere; targets taken from its faces go along. */
export const placeModel =
  (owner: OwnerRef, place: Partial<Pick<Model, 'move' | 'turnDeg'>>): Edit =>
  (project) => {
    const was = findOwner(project, owner);
    if (!was || !('mesh' in was)) return project;
    const { move, turnDeg } = { ...was, ...place };
    const motion = followedBy(
      turnAbout([was.move[0], was.move[1]], turnDeg - was.turnDeg),
      shiftBy(move[0] - was.move[0], move[1] - was.move[1]),
    );
    const placed = editOwners(project, [owner], (item) => [{ ...item, move, turnDeg }]);
    return moveTargetsOf(placed, [owner], motion, move[2] - was.move[2]);
  };

function movedOwner<T extends Standable>(item: T, motion: Motion): T {
  if ('footprint' in item) return moveShape(item, motion) as T;
  if ('path' in item) return { ...item, path: item.path.map((p) => movePoint(motion, p)) };
  if ('at' in item) return { ...item, at: movePoint(motion, item.at) };
  if (isMirror(motion))
    throw new InputError(
      'mirror',
      `“${item.name}” is an imported mesh; it can be moved and turned, not mirrored.`,
    );
  const [x, y] = movePoint(motion, [item.move[0], item.move[1]]);
  const turnDeg = Number(((item.turnDeg + Math.atan2(motion.b, motion.a) / RAD) % 360).toFixed(6));
  return { ...item, move: [x, y, item.move[2]], turnDeg };
}

/** Move a mass of an option, or a neighbour, over the ground. Metres along x and y. */
export const moveOwner = (owner: OwnerRef, dx: number, dy: number): Edit =>
  moveOwners([owner], shiftBy(dx, dy));

/** Copies of things, one set for each motion, right behind what they are copies of. */
export const copyOwners =
  (owners: readonly OwnerRef[], motions: readonly Motion[]): Edit =>
  (project) =>
    editOwners(project, owners, (item) => [
      item,
      ...motions.map((motion, i) => {
        const number = motions.length > 1 ? ` ${i + 2}` : ' copy';
        return {
          ...movedOwner(item, motion),
          id: newId('copy'),
          name: cutText(`${item.name}${number}`, 80),
        };
      }),
    ]);

/** Remove things from the scene. A rule that was only for them stays, and makes nothing. */
export const removeOwners =
  (owners: readonly OwnerRef[]): Edit =>
  (project) =>
    editOwners(project, owners, () => []);

/** Put a mesh into an option. */
export const addModel =
  (optionId: string, model: Model): Edit =>
  (project) => ({
    ...project,
    options: project.options.map((option) =>
      option.id === optionId ? { ...option, models: [...option.models, model] } : option,
    ),
  });

/** Change the opening rules of an option, or (optionId null) of the neighbours. */
export const editRules =
  (optionId: string | null, edit: (rules: OpeningRule[]) => OpeningRule[]): Edit =>
  (project) =>
    optionId === null
      ? { ...project, neighbourRules: edit(project.neighbourRules) }
      : {
          ...project,
          options: project.options.map((option) =>
            option.id === optionId ? { ...option, rules: edit(option.rules) } : option,
          ),
        };

/** The project with its meshes under other hashes. */
export function renameMeshes(project: Project, hashes: ReadonlyMap<string, string>): Project {
  const renamed = <T extends { mesh: string }>(item: T): T => ({
    ...item,
    mesh: hashes.get(item.mesh) ?? item.mesh,
  });
  return {
    ...project,
    neighbours: project.neighbours.map((item) => (item.kind === 'mesh' ? renamed(item) : item)),
    options: project.options.map((option) => ({ ...option, models: option.models.map(renamed) })),
  };
}

/** Throws InputError `footprint` when a drawn outline is not a sound polygon. */
export function requireRing(label: string, ring: Ring): void {
  const problem = ringProblem(ring);
  if (problem) throw new InputError('footprint', `${label} ${problem}.`);
}
