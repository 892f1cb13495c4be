import { shownMeasure, shownValues, type Project, type Study, type StudyResult } from '@dial-shade/core';
import { activeStudyOf } from '../state/active-study';
import { paneCount, shownIn, usePanes } from '../state/panes-store';
import { standingOf } from '../state/result-state';
import { useView } from '../state/view-store';
import { asShown } from './as-shown';

/** A result of a study of an option as it is looked at now, and what changed since it was found; null without one. */
export function lookedAt(
  project: Project,
  study: Study,
  optionId: string,
): { result: StudyResult; changes: string[] } | null {
  const { result, changes } = standingOf(project, study.id, optionId);
  if (!result) return null;
  const { shownMeasure: chosen, showsChange, before: beforeId } = useView.getState();
  const other = showsChange && beforeId !== null && beforeId !== optionId ? beforeId : null;
  const before = other === null ? null : standingOf(project, study.id, other).result;
  const name = project.options.find(({ id }) => id === other)?.name ?? '';
  const shown = asShown(result, {
    measure: chosen[study.id],
    before: before && { result: before, name },
  });
  return { result: shown, changes };
}

const most = new WeakMap<Float32Array, number>();

/** The greatest of some values, either way from nothing; 0 where there are none. */
export function greatest(values: Float32Array): number {
  let found = most.get(values);
  if (found === undefined) {
    found = values.reduce((max, value) => (Math.abs(value) > max ? Math.abs(value) : max), 0);
    most.set(values, found);
  }
  return found;
}

/**
 * The greatest value that any pane of the board shows of the same figure as a result: what is seen side by side has one
 * scale.
 */
export function greatestTogether(project: Project, result: StudyResult): number {
  const state = usePanes.getState();
  const { key } = shownMeasure(result);
  let found = greatest(shownValues(result));
  for (const pane of state.panes.slice(0, paneCount(state))) {
    const { optionId, activeStudy } = shownIn(pane, state);
    const study = activeStudyOf(project, activeStudy);
    const other = study && lookedAt(project, study, optionId)?.result;
    if (other?.summary.kind === result.summary.kind && shownMeasure(other).key === key)
      found = Math.max(found, greatest(shownValues(other)));
  }
  return found;
}
