import { renameWalls } from '../../../document';
import { type Face, meshFace, meshFaceAt, onFace, outlineBox } from '../../../form';
import { dot, type Mesh, type MeshStore, type Point2, type Point3, triangulate } from '../../../geometry';
import type { MassShape, Model, Project, Source, SourcePart } from '../../../project';
import { type KeptWalls, keptWalls, shiftedOpening } from './kept-walls';
import type { FreshPart } from '../importing';
import { counted } from '../../model-file';
import { marksOf, middleOf, type Placed, placedThings } from './marks';

/** What reading a file again does to what it brought in before. */
export interface Difference {
  /** How many parts are as they were. */
  same: number;
  /** Parts that changed, by the names that they have in the project, and in what. */
  changed: { name: string; plan: boolean; height: boolean }[];
  fresh: string[];
  /** Parts that the file no longer holds. */
  gone: string[];
  /** Parts that were taken out of the project by hand: they stay out. */
  leftOut: string[];
  /** Openings that stood in walls that are gone, by the body. */
  lost: { name: string; openings: number }[];
}

/** What is read again: the project before, and with all that the file brings in now beside it. */
export interface Again {
  before: Project;
  after: Project;
  meshes: MeshStore;
  source: Source;
  fresh: readonly FreshPart[];
  /** Of these, what is left out one by one. */
  leftOut: ReadonlySet<string>;
  /** Leaves in the project what the file no longer holds. */
  keepGone: boolean;
}

/**
 * Puts what a file brings in now in the place of what it brought in before: what is as it was stays untouched, with all that
 * was done to it since; what changed keeps its id, its name, and openings in walls that go on.
 */
export function readAgain({ before, after, meshes, source, fresh, leftOut, keepGone }: Again): {
  project: Project;
  parts: SourcePart[];
  difference: Difference;
  /** Ids of what is new. */
  ids: string[];
} {
  const [was, is] = [placedThings(before), placedThings(after)];
  const difference: Difference = { same: 0, changed: [], fresh: [], gone: [], leftOut: [], lost: [] };
  const parts: SourcePart[] = [];
  const ids: string[] = [];
  const drop = new Set<string>();
  const changes = new Map<string, Placed['thing']>();
  const renames: { optionId: string | null; rename: (name: string) => string[] }[] = [];
  const found = matchedParts(source.parts, fresh, was, is);
  for (const { part, owner } of fresh) {
    const placed = is.get(owner);
    if (!placed) continue;
    const marks = marksOf(placed);
    const old = found.get(owner);
    const stood = old && was.get(old.owner);
    if (leftOut.has(owner)) {
      drop.add(owner);
      if (old) drop.add(old.owner);
      difference.leftOut.push(placed.thing.name);
      parts.push({ part, owner: old?.owner ?? owner, ...marks });
      continue;
    }
    const isOther =
      stood &&
      (stood.list !== placed.list ||
        stood.optionId !== placed.optionId ||
        stood.thing.kind !== placed.thing.kind);
    if (!old || isOther) {
      // What was one thing and is another now comes beside it, and the one before goes.
      if (old) drop.add(old.owner);
      difference.fresh.push(placed.thing.name);
      ids.push(owner);
      parts.push({ part, owner, ...marks });
      continue;
    }
    drop.add(owner);
    parts.push({ part, owner: old.owner, ...marks });
    if (!stood) {
      difference.leftOut.push(placed.thing.name);
      continue;
    }
    const [plan, height] = [marks.plan !== old.plan, marks.height !== old.height];
    if (!plan && !height) {
      difference.same++;
      continue;
    }
    const { name } = stood.thing;
    difference.changed.push({ name, plan, height });
    const merged = mergedThing(stood, placed, { plan, height }, meshes);
    changes.set(old.owner, merged.thing);
    if (merged.lost > 0) difference.lost.push({ name, openings: merged.lost });
    if (merged.rename) renames.push({ optionId: stood.optionId, rename: merged.rename });
  }
  const matched = new Set([...found.values()].map(({ owner }) => owner));
  for (const old of source.parts) {
    const stood = was.get(old.owner);
    if (matched.has(old.owner) || !stood) continue;
    difference.gone.push(stood.thing.name);
    if (keepGone) parts.push(old);
    else drop.add(old.owner);
  }
  let project = without(withChanges(after, changes), drop);
  for (const { optionId, rename } of renames) project = renameWalls(optionId, rename)(project);
  return { project, parts, difference, ids };
}

/** Which part of before each new thing is: by the id or name that the file gives it, by its plan, by where it lies. */
function matchedParts(
  before: readonly SourcePart[],
  fresh: readonly FreshPart[],
  was: ReadonlyMap<string, Placed>,
  is: ReadonlyMap<string, Placed>,
): Map<string, SourcePart> {
  const found = new Map<string, SourcePart>();
  const taken = new Set<SourcePart>();
  const take = (owner: string, old: SourcePart | undefined) => {
    if (!old || found.has(owner) || taken.has(old)) return;
    found.set(owner, old);
    taken.add(old);
  };
  const hasMiddle = (owner: string) => {
    const placed = is.get(owner);
    return placed !== undefined && middleOf(placed) !== null;
  };
  const byPart = new Map(before.map((old) => [old.part, old]));
  // Names of outlines are their numbers in the file: they say nothing when one is added before them.
  for (const { part, owner } of fresh)
    if (part.startsWith('id:') || !hasMiddle(owner)) take(owner, byPart.get(part));
  const byPlan = new Map<string, SourcePart[]>();
  for (const old of before) byPlan.set(old.plan, [...(byPlan.get(old.plan) ?? []), old]);
  for (const { part, owner } of fresh) {
    const placed = is.get(owner);
    const same = placed && byPlan.get(marksOf(placed).plan)?.filter((old) => !taken.has(old));
    take(owner, same?.find((old) => old.part === part) ?? same?.[0]);
  }
  const left = before.flatMap((old) => {
    const stood = was.get(old.owner);
    const middle = stood && middleOf(stood);
    return taken.has(old) || !middle || old.part.startsWith('id:') ? [] : [{ old, middle, list: stood.list }];
  });
  for (const { owner } of fresh) {
    const placed = is.get(owner);
    const here = placed && !found.has(owner) ? middleOf(placed) : null;
    if (!here) continue;
    const near = left
      .map((one) => ({
        ...one,
        awayM: Math.hypot(one.middle.at[0] - here.at[0], one.middle.at[1] - here.at[1]),
      }))
      .filter(
        ({ old, awayM, middle, list }) =>
          !taken.has(old) && list === placed!.list && awayM < Math.min(middle.reachM, here.reachM),
      )
      .sort((a, b) => a.awayM - b.awayM);
    take(owner, near[0]?.old);
  }
  return found;
}

interface Merged {
  thing: Placed['thing'];
  lost: number;
  rename: ((name: string) => string[]) | null;
}

/** The thing that stood, with what changed in the file. */
function mergedThing(
  stood: Placed,
  placed: Placed,
  changed: { plan: boolean; height: boolean },
  meshes: MeshStore,
): Merged {
  const [old, now] = [stood.thing, placed.thing];
  if ('mesh' in old && 'mesh' in now) return mergedMesh(old, now, meshes);
  if ('footprint' in old && 'footprint' in now) return mergedBody(old, now, changed);
  const { id, name } = old;
  // What has no openings is as the file has it now; what was set here and the file does not know stays.
  if (stood.list === 'areas' && placed.list === 'areas')
    return { thing: { ...stood.thing, outline: placed.thing.outline }, lost: 0, rename: null };
  if (stood.list === 'targets' && placed.list === 'targets') {
    const { spacingM, offsetM } = stood.thing;
    return { thing: { ...placed.thing, id, name, spacingM, offsetM }, lost: 0, rename: null };
  }
  const demolished = 'demolished' in old && old.demolished;
  return { thing: { ...now, id, name, demolished } as Placed['thing'], lost: 0, rename: null };
}

type Body = MassShape & { id: string };

function mergedBody<T extends Body>(old: T, now: Body, changed: { plan: boolean; height: boolean }): Merged {
  const walls: KeptWalls = changed.plan
    ? keptWalls(old.footprint, now.footprint)
    : { footprint: old.footprint, gone: new Set(), shiftM: new Map() };
  const corners = walls.footprint.outer.length;
  const isFlat = now.roof.kind === 'flat' && now.roof.parapetM === 0;
  const isOtherRoof = changed.height && !isFlat;
  const storeys = (changed.height ? now.storeys : old.storeys).map((storey, i) => {
    const setbacksM = storey.setbacksM ?? (changed.height ? old.storeys[i]?.setbacksM : undefined);
    return setbacksM?.length === corners ? { ...storey, setbacksM } : { heightM: storey.heightM };
  });
  const has = ({ storey }: { storey: number }) => storey < storeys.length;
  const openings = old.openings.flatMap((opening) => {
    const { host } = opening;
    // A roof over another outline, or of another kind, has other faces.
    if (host.on !== 'wall') return changed.plan || isOtherRoof ? [] : [opening];
    const wall = `${host.ring}/${host.edge}`;
    if (walls.gone.has(wall) || !has(host)) return [];
    const by = walls.shiftM.get(wall) ?? 0;
    return [by === 0 ? opening : shiftedOpening(opening, by, 0)];
  });
  const gone = new Set([...walls.gone].map((wall) => `${old.id}/${wall}`));
  return {
    thing: {
      ...old,
      ...{ footprint: walls.footprint, storeys, openings },
      ...(changed.height && { base: now.base, roof: isFlat ? old.roof : now.roof }),
      partitions: old.partitions.filter(has),
      rooms: old.rooms.filter(has),
      furniture: old.furniture.filter(has),
    } as unknown as Placed['thing'],
    lost: old.openings.length - openings.length,
    rename:
      gone.size === 0 ? null : (name) => (gone.has(name.split('/').slice(0, 3).join('/')) ? [] : [name]),
  };
}

/** A mesh with its openings in the faces of the new one that lie where theirs lay. */
function mergedMesh<T extends Model & { kind?: unknown }>(old: T, now: Model, meshes: MeshStore): Merged {
  const thing = { ...old, mesh: now.mesh, triangles: now.triangles };
  const [was, is] = [meshes.get(old.mesh), meshes.get(now.mesh)];
  if (!was || !is)
    return { thing: { ...thing, openings: [] } as Placed['thing'], lost: old.openings.length, rename: null };
  const openings = old.openings.flatMap((opening) => {
    const { host, outline } = opening;
    const face = host.on === 'mesh' ? meshFace(old, was, host.face) : null;
    if (!face) return [];
    const box = outlineBox(outline);
    const next = nextFace(face, onFace(face, [(box.u0 + box.u1) / 2, (box.v0 + box.v1) / 2]), thing, is);
    if (!next) return [];
    const d = [0, 1, 2].map((k) => face.origin[k]! - next.origin[k]!) as [number, number, number];
    return [shiftedOpening(opening, dot(d, next.u), dot(d, next.v), next.host)];
  });
  return {
    thing: { ...thing, openings } as Placed['thing'],
    lost: old.openings.length - openings.length,
    rename: facesRenamed(old, was, thing, is),
  };
}

/** The face of a new mesh that lies where a face of the one before lay, through a point of it; null where there is none. */
function nextFace(face: Face, at: Point3, model: Model, mesh: Mesh): Face | null {
  const next = meshFaceAt(model, mesh, at);
  return next && dot(next.normal, face.normal) > 0.9998 ? next : null;
}

/** Names of faces of a mesh as rules and devices have them, `owner/mesh/face…`, in the new mesh. */
function facesRenamed(old: Model, was: Mesh, thing: Model, is: Mesh): (name: string) => string[] {
  return (name) => {
    const [owner, kind, number, ...rest] = name.split('/');
    if (owner !== old.id || kind !== 'mesh') return [name];
    const face = meshFace(old, was, Number(number));
    const at = face && middleOfRing(face.outline);
    const next = face && at && nextFace(face, onFace(face, at), thing, is);
    return next?.host.on === 'mesh' ? [[owner, kind, next.host.face, ...rest].join('/')] : [];
  };
}

/** A point within a face: the middle of the first triangle that it is cut into. */
function middleOfRing(outline: readonly Point2[]): Point2 | null {
  const [a, b, c] = triangulate([outline]).slice(0, 3);
  if (a === undefined || b === undefined || c === undefined) return null;
  const of = (k: 0 | 1) => (outline[a]![k] + outline[b]![k] + outline[c]![k]) / 3;
  return [of(0), of(1)];
}

/** The document with some things changed where they stand. */
function withChanges(project: Project, changes: ReadonlyMap<string, Placed['thing']>): Project {
  return inLists(project, (list) =>
    list.map((one) => (changes.get(one.id) as typeof one | undefined) ?? one),
  );
}

/** The document without some things. */
export function without(project: Project, ids: ReadonlySet<string>): Project {
  return inLists(project, (list) => list.filter(({ id }) => !ids.has(id)));
}

function inLists(project: Project, edit: <T extends { id: string }>(list: T[]) => T[]): Project {
  return {
    ...project,
    neighbours: edit(project.neighbours),
    areas: edit(project.areas),
    targets: edit(project.targets),
    options: project.options.map((option) => ({
      ...option,
      masses: edit(option.masses),
      models: edit(option.models),
    })),
  };
}

/** What reading a file again changes, in sentences. */
export function differenceInWords(
  { same, changed, fresh, gone, leftOut, lost }: Difference,
  keepGone: boolean,
): string[] {
  if (changed.length + fresh.length + gone.length + leftOut.length === 0)
    return [
      `Nothing has changed in it: ${counted(same, 'part is', 'parts are')} as ${same === 1 ? 'it was' : 'they were'}.`,
    ];
  const what = ({ name, plan, height }: Difference['changed'][number]) =>
    `“${name}” (${plan && height ? 'outline and height' : height ? 'height' : 'shape'})`;
  const named = (names: readonly string[]) =>
    `${names.slice(0, TOLD).join(', ')}${names.length > TOLD ? ` and ${names.length - TOLD} more` : ''}`;
  const quoted = (names: readonly string[]) => named(names.map((name) => `“${name}”`));
  return [
    same > 0 &&
      `${counted(same, 'part is as it was and stays', 'parts are as they were and stay')} untouched.`,
    changed.length > 0 &&
      `${counted(changed.length, 'part has', 'parts have')} changed: ${named(changed.map(what))}.`,
    fresh.length > 0 && `${counted(fresh.length, 'part is', 'parts are')} new: ${quoted(fresh)}.`,
    gone.length > 0 &&
      `${counted(gone.length, 'part is', 'parts are')} no longer in the file and ${keepGone ? 'kept' : 'taken out'}: ${quoted(gone)}.`,
    leftOut.length > 0 &&
      `${counted(leftOut.length, 'part was', 'parts were')} left out, or taken out of the project, and ${leftOut.length === 1 ? 'stays' : 'stay'} out: ${quoted(leftOut)}.`,
    lost.length > 0 &&
      `Openings in walls and roofs that are gone are left out: ${named(lost.map(({ name, openings }) => `${openings} of “${name}”`))}.`,
  ].filter((sentence) => sentence !== false);
}

/** Names told one by one. */
const TOLD = 8;
