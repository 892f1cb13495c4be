import type { StudySummary } from './summary';

/**
 * A summary as `summary.json` holds it. Sun hours have their figures under the names that they have had from the first
 * as well: `sunPositions`, `hours`, `criterion.atLeastH`, `targets[].meanH`.
 */
export function summaryJson(summary: StudySummary): object {
  if (summary.kind !== 'sun-hours') return summary;
  return {
    ...summary,
    sunPositions: summary.directions,
    hours: summary.values,
    criterion: { ...summary.criterion, atLeastH: summary.criterion.atLeast },
    targets: summary.targets.map((target) => ({ ...target, meanH: target.mean })),
  };
}
