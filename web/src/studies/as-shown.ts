import { hadBefore, type Measure, STUDY_KINDS, type StudyResult } from '@dial-shade/core';

/** What of a result is looked at. */
export interface Looked {
  /** Key of a measure; the first where there is none. */
  measure: string | undefined;
  /** What it is compared with: its change is looked at. */
  before: { result: StudyResult; name: string } | null;
}

/** The measure of a kind that is looked at. */
export function measureOf(kind: StudyResult['summary']['kind'], key: string | undefined): Measure {
  const { measures } = STUDY_KINDS[kind];
  return measures.find((measure) => measure.key === key) ?? measures[0];
}

/** A result as it is looked at: by one of its measures, or by the change against another result. */
export function asShown(result: StudyResult, { measure: key, before }: Looked): StudyResult {
  const { kind } = result.summary;
  const measure = measureOf(kind, key);
  const values = result.values[measure.key] ?? result.values[STUDY_KINDS[kind].measures[0].key]!;
  if (!before || before.result.summary.kind !== kind)
    return measure === STUDY_KINDS[kind].measures[0] ? result : { ...result, shown: { measure, values } };
  const had = hadBefore(before.result, result, measure.key);
  return {
    ...result,
    shown: {
      measure: {
        ...measure,
        key: 'change',
        label: `Change of ${measure.label.toLowerCase()} against ${before.name}`,
        reads: undefined,
        definition: `What it is less what it was in ${before.name}, where both measure it. ${measure.definition}`,
      },
      values: values.map((now, i) => now - had[i]!),
    },
  };
}

/** Whether what is looked at is a change. */
export const isChange = ({ shown }: StudyResult): boolean => shown?.measure.key === 'change';
