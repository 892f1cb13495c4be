import { type Entity, isEntityList, isObject } from './merge';

type Json = unknown;

/** What turns one JSON value into another, holding only what changed. */
export type Changes =
  | { value: Json }
  | { fields: Record<string, Changes>; gone: string[] }
  | { ids: string[]; items: Record<string, Changes> };

/** Whether the things of a list can be told apart by their ids. */
const isTold = (value: Json): value is Entity[] =>
  isEntityList(value) && value.length > 0 && new Set(value.map(({ id }) => id)).size === value.length;

/**
 * What changed between two documents, told by which parts are not the same objects any more; null when none. Documents
 * are never changed in place, so this looks only along the changed branches.
 */
export function documentChanges(before: Json, after: Json): Changes | null {
  if (before === after) return null;
  if (isTold(before) && isTold(after)) {
    const old = new Map(before.map((item) => [item.id, item]));
    const items: Record<string, Changes> = {};
    for (const item of after) {
      const was = old.get(item.id);
      const change = was ? documentChanges(was, item) : { value: item };
      if (change) items[item.id] = change;
    }
    return { ids: after.map(({ id }) => id), items };
  }
  if (isObject(before) && isObject(after)) {
    const fields: Record<string, Changes> = {};
    for (const [key, value] of Object.entries(after)) {
      const change = key in before ? documentChanges(before[key], value) : { value };
      if (change) fields[key] = change;
    }
    return { fields, gone: Object.keys(before).filter((key) => !(key in after)) };
  }
  return { value: after };
}

/** The document with changes made to it; what did not change is the same object as before. */
export function withChanges<T>(document: T, changes: Changes): T {
  return apply(document, changes) as T;
}

function apply(document: Json, changes: Changes): Json {
  if ('value' in changes) return changes.value;
  if ('ids' in changes) {
    const old = new Map((document as Entity[]).map((item) => [item.id, item as Json]));
    return changes.ids.map((id) => {
      const change = changes.items[id];
      return change ? apply(old.get(id), change) : old.get(id);
    });
  }
  const next: Record<string, Json> = { ...(document as Record<string, Json>) };
  for (const key of changes.gone) delete next[key];
  for (const [key, change] of Object.entries(changes.fields)) next[key] = apply(next[key], change);
  return next;
}
