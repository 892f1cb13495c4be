import type { Scene } from '@dial-shade/core';

/** What of the light passes the crowns of a scene, by season, and its panes and fences: the mean of each. Null: none. */
export interface PassingShares {
  leaves: { leaf: number; bare: number; from: string; until: string } | null;
  glass: number | null;
}

/** How much passes what is drawn as letting light pass. */
export function passingShares({ surfaces }: Pick<Scene, 'surfaces'>): PassingShares {
  let leaves: PassingShares['leaves'] = null;
  const crowns: { leaf: number; bare: number }[] = [];
  const panes: number[] = [];
  for (const { passing } of surfaces) {
    if (passing?.through === 'leaves') {
      leaves ??= passing;
      crowns.push(passing);
    } else if (passing) panes.push(passing.share);
  }
  const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
  return {
    leaves: leaves && {
      ...leaves,
      leaf: mean(crowns.map(({ leaf }) => leaf)),
      bare: mean(crowns.map(({ bare }) => bare)),
    },
    glass: panes.length ? mean(panes) : null,
  };
}

/**
 * What of the sun is added where nothing blocks it, then where no crown stands before it either, then where no glass does:
 * so that behind a crown there is the crown's share, behind a pane the pane's, behind both the smaller, in the open all.
 * @param monthDay MM-DD
 */
export function sunSteps({ leaves, glass }: PassingShares, monthDay: string): [number, number, number] {
  const behindGlass = glass ?? 1;
  if (!leaves) return [0, behindGlass, 1 - behindGlass];
  const { from, until, leaf, bare } = leaves;
  const isInLeaf =
    from <= until ? monthDay >= from && monthDay <= until : monthDay >= from || monthDay <= until;
  const behindLeaves = Math.min(isInLeaf ? leaf : bare, behindGlass);
  return [behindLeaves, behindGlass - behindLeaves, 1 - behindGlass];
}
