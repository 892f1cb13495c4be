import type { Project } from '../project';

/** A place where both sides changed the same thing differently. */
export interface Conflict {
  path: (string | number)[];
  mine: unknown;
  theirs: unknown;
}

type Json = unknown;
export type Entity = { id: string };

/** Objects whose fields make sense only together; they are taken from one side. */
const WHOLE = new Set<string | number>([
  'footprint',
  'roof',
  'base',
  'ground',
  'outline',
  'host',
  'make',
  'on',
  'window',
  'scale',
]);

export const isObject = (value: Json): value is Record<string, Json> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** A list of things with an `id` each, or an empty one. */
export const isEntityList = (value: Json): value is Entity[] =>
  Array.isArray(value) && value.every((item) => isObject(item) && typeof item.id === 'string');

/** Whether two JSON values are equal. */
export function sameJson(a: Json, b: Json): boolean {
  if (a === b) return true;
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((item, i) => sameJson(item, b[i]));
  if (isObject(a) && isObject(b)) {
    const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
    return [...keys].every((key) => sameJson(a[key], b[key]));
  }
  return false;
}

/**
 * Three-way merge of JSON documents. Objects merge by key (but for those whose fields make
 * sense only together), lists of things with an `id` by id; anything else changed on
 * both sides is a conflict, where `mine` is kept in the result and the conflict is listed.
 */
export function mergeDocuments<T>(base: T, mine: T, theirs: T): { merged: T; conflicts: Conflict[] } {
  const conflicts: Conflict[] = [];
  const merged = merge(base, mine, theirs, [], conflicts) as T;
  return { merged, conflicts };
}

function merge(base: Json, mine: Json, theirs: Json, path: (string | number)[], conflicts: Conflict[]): Json {
  if (sameJson(mine, theirs) || sameJson(base, theirs)) return mine;
  if (sameJson(base, mine)) return theirs;
  if (isEntityList(mine) && isEntityList(theirs) && isEntityList(base) && mine.length + theirs.length > 0)
    return mergeLists(base, mine, theirs, path, conflicts);
  if (isObject(base) && isObject(mine) && isObject(theirs) && !WHOLE.has(path.at(-1)!)) {
    const result: Record<string, Json> = {};
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
      const value = merge(base[key], mine[key], theirs[key], [...path, key], conflicts);
      if (value !== undefined) result[key] = value;
    }
    return result;
  }
  conflicts.push({ path, mine, theirs });
  return mine;
}

function mergeLists(
  base: Entity[],
  mine: Entity[],
  theirs: Entity[],
  path: (string | number)[],
  conflicts: Conflict[],
): Entity[] {
  const find = (list: Entity[], id: string) => list.find((item) => item.id === id);
  const theirsKeepsOrder = sameJson(
    base.map((item) => item.id),
    theirs.map((item) => item.id).slice(0, base.length),
  );
  const [first, second] = theirsKeepsOrder ? [mine, theirs] : [theirs, mine];
  const ids = new Set([...first, ...second].map((item) => item.id));
  const result: Entity[] = [];
  for (const id of ids) {
    const was = find(base, id);
    const value = merge(was, find(mine, id), find(theirs, id), [...path, id], conflicts);
    if (value !== undefined) result.push(value as Entity);
  }
  return result;
}

/** The document with the other side's values where the two are in conflict. */
export function withTheirs(document: Project, conflicts: readonly Conflict[]): Project {
  return conflicts.reduce<Json>((now, { path, theirs }) => withValue(now, path, theirs), document) as Project;
}

/** A copy of a JSON value with another value at a path (undefined: without it), where a step in a list is an id. */
export function withValue(target: Json, path: readonly (string | number)[], value: Json): Json {
  const [step, ...rest] = path;
  if (step === undefined) return value;
  if (Array.isArray(target)) {
    const items = target as { id?: string }[];
    const at = items.findIndex((item) => item.id === step);
    if (rest.length === 0 && value === undefined) return items.filter((_, i) => i !== at);
    if (at < 0) return rest.length ? items : [...items, value];
    return items.map((item, i) => (i === at ? withValue(item, rest, value) : item));
  }
  if (target === undefined) return target;
  const object = target as Record<string, Json>;
  return { ...object, [step]: withValue(object[step], rest, value) };
}
