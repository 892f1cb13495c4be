import { z } from 'zod';
import { listOf } from './parts';

const variant = z.string().regex(/^[a-zA-Z0-9_-]{1,64}(~[a-zA-Z0-9_-]{0,64})?$/, {
  error: 'What is compared is the id of an option, or one with a scheme: OPTION~SCHEME.',
});

/** What the options are compared by: the keys of measures in their order, and which options. */
export const comparisonSchema = z.strictObject({
  /** Keys of measures (see docs/project-file.md); empty: those that are offered first. */
  measures: listOf(z.string().min(1).max(200), 'measures', 100),
  /**
   * Options in their order, or one with another of its schemes of devices (`OPTION~SCHEME`) or without any (`OPTION~`); null:
   * all, as they stand in the project.
   */
  options: listOf(variant, 'options', 60).nullable(),
  /** Which of them differences are told to; null: none. */
  against: variant.nullable(),
  /** What is assumed of rooms: which of the sets that are offered. */
  rooms: z.enum(['new', 'light', 'old'], { error: 'Rooms are “new”, “light” or “old”.' }).default('new'),
});

export type Comparison = z.infer<typeof comparisonSchema>;
