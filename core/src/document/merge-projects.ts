import type { Project } from '../project';
import { editProblems, problems } from './check';
import { type Conflict, mergeDocuments, sameJson, withTheirs, withValue } from './merge';
import { danglingReferences } from './references';

type Path = (string | number)[];
type Json = unknown;

/**
 * Merges two edited versions of a project, so that what comes of it is as sound as they were: `theirs` is, as it is stored. What both changed
 * differently is a conflict, and so is what no longer fits together: one side removed what the other refers to, or the
 * two make something that cannot be built. `mine` is kept in the result, which is sound whatever is chosen: all of mine
 * or all of theirs. With `built` false only references are looked at, not what can be built.
 */
export function mergeProjects(
  base: Project,
  mine: Project,
  theirs: Project,
  { built = true } = {},
): { merged: Project; conflicts: Conflict[] } {
  const first = mergeDocuments(base, mine, theirs);
  const isOneSide = sameJson(first.merged, mine) || sameJson(first.merged, theirs);
  if (isOneSide && first.conflicts.length === 0) return first;
  const repaired = repairReferences(first.merged, mine, theirs);
  const conflicts = [...first.conflicts, ...repaired.conflicts];
  const { merged } = repaired;
  const isSound =
    !built ||
    (editProblems(theirs, merged).length === 0 &&
      (conflicts.length === 0 || editProblems(theirs, withTheirs(merged, conflicts)).length === 0));
  // In the middle of a drag the document at hand may itself be unsound; then there is nothing to be held to.
  if (isSound || problems(mine).length > 0) return { merged, conflicts };
  return { merged: mine, conflicts: [{ path: [], mine, theirs }] };
}

/**
 * Each reference that leads nowhere becomes two conflicts: about what was removed, and about what refers to it. Where
 * mine removed it, what refers to it goes back to mine; where theirs removed it, it comes back.
 */
function repairReferences(
  merged: Project,
  mine: Project,
  theirs: Project,
): { merged: Project; conflicts: Conflict[] } {
  let document: Json = merged;
  const conflicts: Conflict[] = [];
  const note = (path: Path, mineValue: Json, theirsValue: Json) => {
    if (!conflicts.some((other) => sameJson(other.path, path)))
      conflicts.push({ path, mine: mineValue, theirs: theirsValue });
  };
  const settle = (holder: Path, named: Path) => {
    const [kept, other] = [valueAt(mine, named), valueAt(theirs, named)];
    note(named, kept, other);
    if (kept !== undefined) {
      document = withValue(document, named, kept);
      note(holder, valueAt(document, holder), valueAt(theirs, holder));
    } else {
      note(holder, valueAt(mine, holder), valueAt(merged, holder));
      document = withValue(document, holder, valueAt(mine, holder));
    }
  };
  for (const { path, wanted } of danglingReferences(merged)) {
    if (!wanted) continue;
    const named: Path = [wanted.list, wanted.id];
    const holder = pathByIds(merged, path);
    if (holder[0] !== 'studies') {
      settle(holder, named);
      continue;
    }
    settle([...holder, 'targets'], named);
    // Whoever removed the target took it out of every study; it comes back to those of the side that kept it.
    const keeper = valueAt(mine, named) === undefined ? theirs : mine;
    for (const { id, targets } of keeper.studies) {
      const place: Path = ['studies', id, 'targets'];
      const now = valueAt(document, place);
      if (!targets.includes(wanted.id) || !Array.isArray(now) || now.includes(wanted.id)) continue;
      note(place, keeper === mine ? targets : now, keeper === mine ? now : targets);
      if (keeper === mine) document = withValue(document, place, targets);
    }
  }
  return { merged: document as Project, conflicts };
}

/** A path with the ids of list items instead of their numbers. */
function pathByIds(document: Json, path: readonly (string | number)[]): Path {
  let value = document;
  return path.map((step) => {
    value = (value as Record<string | number, Json>)[step];
    const id = (value as { id?: unknown } | undefined)?.id;
    return typeof step === 'number' && typeof id === 'string' ? id : step;
  });
}

/** The value at a path, where a step in a list is the id of an item; undefined where there is none. */
function valueAt(document: Json, path: readonly (string | number)[]): Json {
  return path.reduce<Json>((value, step) => {
    if (Array.isArray(value)) return (value as { id?: string }[]).find((item) => item.id === step);
    return (value as Record<string, Json> | undefined)?.[step];
  }, document);
}
