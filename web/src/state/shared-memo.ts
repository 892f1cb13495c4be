/** What is kept at most; what was used longest ago goes first. */
const MAX_KEPT = 40;

const kept = new Map<string, { from: readonly unknown[]; value: unknown }>();

/**
 * What is made of some values, shared by every part of the page that asks under the same key: the same object as before
 * while the values are the same.
 */
export function shared<T>(key: string, from: readonly unknown[], make: () => T): T {
  const known = kept.get(key);
  kept.delete(key);
  const isSame = known && known.from.every((value, i) => value === from[i]);
  const entry = isSame ? known : { from, value: make() };
  kept.set(key, entry);
  if (kept.size > MAX_KEPT) kept.delete(kept.keys().next().value!);
  return entry.value as T;
}
