import {
  editRules,
  inScope,
  type OpeningRule,
  panelAt,
  panelKey,
  type Point2,
  rulesFor,
  storeyWallName,
} from '@dial-shade/core';
import { Paintbrush } from 'lucide-react';
import { ToolButton } from '../app/objects';
import { edit, useDocument } from '../state/project-store';
import type { Facade } from './use-facade';

/** The rule that lays panels over this face, if there is one. */
export function usePanelRule({ owner, face }: Facade): OpeningRule | null {
  const project = useDocument();
  const { trueNorthDeg } = project.site.north;
  return (
    rulesFor(project, owner.optionId).find(
      (rule) => rule.make.by === 'panels' && inScope(rule, owner.id, face, trueNorthDeg),
    ) ?? null
  );
}

/** Turns the panel at a place of the face over: an open one becomes solid, a solid one open. */
export function paintPanel({ owner, face, parties }: Facade, rule: OpeningRule, at: Point2): void {
  const { make } = rule;
  const wall = storeyWallName(owner.id, face.host);
  if (make.by !== 'panels' || wall === null) return;
  const panel = panelAt(make, face, parties, at);
  if (!panel) return;
  const key = panelKey(wall, panel.column, panel.row);
  const turned = make.turned.includes(key) ? make.turned.filter((k) => k !== key) : [...make.turned, key];
  edit(
    `paint a panel of ${rule.name}`,
    editRules(owner.optionId, (list) =>
      list.map((r) => (r.id === rule.id ? { ...r, make: { ...make, turned } } : r)),
    ),
  );
}

/** The brush that paints panels, where a rule lays them. */
export function PaintButton({ active, onClick }: { active: boolean; onClick: () => void }) {
  return (
    <ToolButton
      icon={Paintbrush}
      name="Paint panels"
      title="Click panels to open or close them"
      active={active}
      onClick={onClick}
    />
  );
}
