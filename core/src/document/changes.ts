import { InputError } from '../errors';
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

/**
 * The document with changes made to it; what did not change is the same object as before. Throws InputError `changes` where
 * they are no changes, or none of this document.
 */
export function withChanges<T>(document: T, changes: unknown): T {
  return apply(document, changes, []) as T;
}

function apply(document: Json, changes: Json, path: readonly string[]): Json {
  const check = (isRight: boolean) => {
    if (!isRight) {
      const place = path.length ? `“${path.join('.')}”` : 'its beginning';
      throw new InputError('changes', `The changes do not fit the document at ${place}.`);
    }
  };
  check(isObject(changes));
  const { value, ids, items, fields, gone } = changes as Record<string, Json>;
  if (value !== undefined) return value;
  if (ids !== undefined) {
    check(isTexts(ids) && isObject(items) && isEntityList(document));
    const old = new Map((document as Entity[]).map((item) => [item.id, item as Json]));
    return (ids as string[]).map((id) => {
      const change = own(items as Record<string, Json>, id);
      check(change !== undefined || old.has(id));
      return change === undefined ? old.get(id) : apply(old.get(id), change, [...path, id]);
    });
  }
  check(isObject(fields) && isTexts(gone) && isObject(document));
  const next: Record<string, Json> = { ...(document as Record<string, Json>) };
  for (const key of gone as string[]) delete next[key];
  for (const [key, change] of Object.entries(fields as object)) {
    check(key !== '__proto__');
    next[key] = apply(own(next, key), change, [...path, key]);
  }
  return next;
}

const isTexts = (value: Json): value is string[] =>
  Array.isArray(value) && value.every((item) => typeof item === 'string');

const own = (object: Record<string, Json>, key: string): Json =>
  Object.hasOwn(object, key) ? object[key] : undefined;
