import { editOpenings, editRules, newId } from '../document';
import { type Face, storeyWallName } from '../form';
import { type Opening, type Project, rulesFor } from '../project';
import type { FittedOpening } from './fitted';
import type { OpeningsOf } from './in-option';

/** The one wall on which a rule is to be detached. */
export interface DetachedWall {
  ownerId: string;
  face: Pick<Face, 'key' | 'host'>;
}

/**
 * Makes single openings of what a rule makes. On all walls the rule goes; on one wall (in one storey) it stays for the
 * others and leaves that one alone from now on. `optionId` says whose rule it is (null: the neighbours').
 */
export function detachRule(
  project: Project,
  openings: OpeningsOf,
  optionId: string | null,
  ruleId: string,
  wall: DetachedWall | null = null,
): Project {
  const rule = rulesFor(project, optionId).find(({ id }) => id === ruleId);
  if (!rule) return project;
  const plain = ({ rule: _, ...opening }: FittedOpening): Opening => ({ ...opening, id: newId('opening') });
  let detached = project;
  for (const { body, optionId: of } of openings.all) {
    if (of !== optionId || (wall && body.id !== wall.ownerId)) continue;
    const made = [...(openings.of(body)?.byFace ?? [])].flatMap(([key, list]) =>
      wall && key !== wall.face.key ? [] : list.filter((opening) => opening.rule === ruleId),
    );
    if (made.length)
      detached = editOpenings({ optionId, id: body.id }, (list) => [...list, ...made.map(plain)])(detached);
  }
  const name = wall && storeyWallName(wall.ownerId, wall.face.host);
  return editRules(optionId, (list) =>
    name
      ? list.map((r) =>
          r.id === ruleId ? { ...r, scope: { ...r.scope, except: [...r.scope.except, name] } } : r,
        )
      : list.filter((r) => r.id !== ruleId),
  )(detached);
}
