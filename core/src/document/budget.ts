/** Levels that a document may be nested. */
export const MAX_DEPTH = 40;
/** Objects that a document may hold: a town of 5,000 neighbours has some 60 thousand. */
export const MAX_OBJECTS = 400_000;
/** Lists that a document may hold, those that begin with a number, as points do, not among them. */
export const MAX_LISTS = 1_000_000;

/** What is said of a document that is over its budget. */
export const OVER_BUDGET = {
  depth: `The document is nested more than ${MAX_DEPTH} levels deep; it is no project.`,
  objects: `The document holds more than ${MAX_OBJECTS.toLocaleString('en')} objects; leave out what is far from the site.`,
  lists: `The document holds more than ${MAX_LISTS.toLocaleString('en')} lists; leave out what is far from the site.`,
} as const;
/** Items of a list that are looked into before the whole is. */
const FIRST_ITEMS = 200;

/**
 * What makes a JSON value one that is not looked into at all, as a sentence, or null: nested too deeply, too many objects
 * or lists, or what cannot be kept (a NUL character, half of a surrogate pair, a number beyond all numbers, “__proto__”). Cheap: no schema is asked.
 */
export function budgetProblem(raw: unknown): string | null {
  const waiting: { value: unknown; depth: number }[] = [{ value: raw, depth: 0 }];
  let objects = 0;
  let lists = 0;
  let isLossy = false;
  const isLost = (value: unknown) => typeof value === 'number' && !Number.isFinite(value);
  while (waiting.length) {
    const { value, depth } = waiting.pop()!;
    if (typeof value === 'string') {
      if (!isKeepable(value))
        return `The text “${value.replace(/[\0\p{Surrogate}]/gu, '·').slice(0, 40)}” holds a character that cannot be kept (a NUL, or half of a pair); type it again.`;
      continue;
    }
    if (typeof value !== 'object' || value === null) continue;
    if (depth > MAX_DEPTH) return OVER_BUDGET.depth;
    if (Array.isArray(value)) {
      if (typeof value[0] !== 'number' && ++lists > MAX_LISTS) return OVER_BUDGET.lists;
      for (const item of value)
        if (isLost(item)) isLossy = true;
        else if (item !== null && typeof item !== 'number') waiting.push({ value: item, depth: depth + 1 });
      continue;
    }
    if (++objects > MAX_OBJECTS) return OVER_BUDGET.objects;
    for (const [key, item] of Object.entries(value)) {
      if (!isKeepable(key))
        return 'The document has a field whose name holds a character that cannot be kept.';
      if (key === '__proto__' || isLost(item)) isLossy = true;
      else if (item !== null && typeof item !== 'number' && typeof item !== 'boolean')
        waiting.push({ value: item, depth: depth + 1 });
    }
  }
  return isLossy ? lossSentence(raw) : null;
}

/** Where a value first holds what would not come back as it was sent, as a sentence; null where it does not. */
function lossSentence(value: unknown, path: readonly (string | number)[] = []): string | null {
  const at = (key?: string) => [...path, ...(key === undefined ? [] : [key])].join('.');
  if (typeof value === 'number' && !Number.isFinite(value))
    return `The number at “${at()}” is too large to be kept; write one below 1.8e308.`;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, item] of Object.entries(value)) {
    if (key === '__proto__') return `“${at(key)}” is a name that cannot be kept; choose another.`;
    const found = lossSentence(item, [...path, key]);
    if (found) return found;
  }
  return null;
}

/** Whether a text can be stored: no NUL, no half of a surrogate pair. */
export function isKeepable(text: string): boolean {
  return !/[\0\p{Surrogate}]/u.test(text);
}

/** The value with every long list of objects cut to its first items; the same value where there is none. */
export function firstItems(value: unknown): unknown {
  if (Array.isArray(value)) {
    if (typeof value[0] !== 'object') return value;
    const some = value.length > FIRST_ITEMS ? value.slice(0, FIRST_ITEMS) : value;
    const items = some.map(firstItems);
    return some !== value || items.some((item, i) => item !== value[i]) ? items : value;
  }
  if (typeof value !== 'object' || value === null) return value;
  let copy: Record<string, unknown> | null = null;
  for (const [key, item] of Object.entries(value)) {
    const first = firstItems(item);
    if (first !== item) (copy ??= { ...value })[key] = first;
  }
  return copy ?? value;
}
