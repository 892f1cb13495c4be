import { z } from 'zod';
import { bounded, id, listOf, name } from './parts';
import { studyKind } from './study-kind';

/** One rule of a set: what a place must have, or how much of what it had before it must keep. */
const ruleSchema = z.strictObject({
  kind: studyKind,
  /** All of these, in the unit of the measure. */
  needs: z
    .array(
      z.strictObject({
        /** Key of a measure of the kind. */
        measure: z.string().max(40),
        atLeast: bounded('The threshold', 0, 9000),
      }),
    )
    .min(1, { error: 'A criterion needs at least one threshold.' })
    .max(4),
  /** Or so much of what it had before, 0 to 1, in the first of the measures; null: no matter. */
  keeps: bounded('The share kept', 0, 1).nullable(),
  /** And then, less lost than this, in the unit of the measure; null: no matter. */
  losesLessThan: bounded('The loss', 0, 9000).nullable(),
  /** Further grades of the first measure, lowest first. */
  grades: listOf(z.strictObject({ name, atLeast: bounded('The grade', 0, 9000) }), 'grades', 5).default([]),
  words: z.string().max(600, { error: 'The words of a criterion may have at most 600 characters.' }),
});

/** Criteria that are applied together, with where they come from. */
export const criteriaSetSchema = z.strictObject({
  id,
  name,
  source: z.string().max(600, { error: 'The source of criteria may have at most 600 characters.' }),
  rules: listOf(ruleSchema, 'criteria', 40),
});

export type CriteriaSet = z.infer<typeof criteriaSetSchema>;
export type CriterionRule = CriteriaSet['rules'][number];
