import {
  compareResults,
  type Comparison,
  type CriterionRule,
  InputError,
  type Project,
  type Study,
  type StudyResult,
  TODAY,
} from '@dial-shade/core';
import { useEffect, useMemo } from 'react';
import { useDocument } from '../state/project-store';
import { type ResultState, useResultState } from '../state/result-state';
import { loadResult } from '../state/run-store';
import { useView } from '../state/view-store';

/** The option that a study of an option is compared with: the one chosen, Today unless that is shown itself. */
export function beforeOf(project: Project, optionId: string, chosen: string | null): string | null {
  const other = chosen !== null && project.options.some(({ id }) => id === chosen) ? chosen : TODAY;
  return other === optionId ? null : other;
}

/** How a study stands before and after. */
export interface Compared {
  before: { optionId: string; state: ResultState };
  after: { optionId: string; state: ResultState };
  comparison: Comparison | null;
  /** Why there is none, where both have results. */
  refused: string | null;
}

/** A study of the option on the board against the option before; null where there is nothing to compare it with. */
export function useComparison(study: Study, rule: CriterionRule): Compared | null {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const chosen = useView((view) => view.before);
  const beforeId = beforeOf(project, optionId, chosen);
  const after = useResultState(study.id, optionId);
  const before = useResultState(beforeId === null ? null : study.id, beforeId ?? optionId);
  useEffect(() => {
    for (const { shown, result } of [before, after]) if (shown && !result) void loadResult(shown.id);
  }, [before, after]);
  const found = useMemo(
    () => compared(before.result, after.result, rule),
    [before.result, after.result, rule],
  );
  if (beforeId === null) return null;
  return {
    before: { optionId: beforeId, state: before },
    after: { optionId, state: after },
    ...found,
  };
}

function compared(
  before: StudyResult | null,
  after: StudyResult | null,
  rule: CriterionRule,
): Pick<Compared, 'comparison' | 'refused'> {
  if (!before || !after) return { comparison: null, refused: null };
  try {
    return { comparison: compareResults(before, after, rule), refused: null };
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    return { comparison: null, refused: error.message };
  }
}
