import type { StudyResult } from '@dial-shade/core';

/** The result that lies on the scene of a pane, as it is looked at, and where each of its sensors is. */
export interface ShownResult {
  standing: { result: StudyResult | null };
  index: ReadonlyMap<string, number>;
}

/** Where none lies on it. */
export const NO_RESULT: ShownResult = { standing: { result: null }, index: new Map() };
