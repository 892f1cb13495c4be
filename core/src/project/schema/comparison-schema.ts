import { z } from 'zod';
import { id, listOf } from './parts';

/** What the options are compared by: the keys of measures in their order, and which options. */
export const comparisonSchema = z.object({
  /** Keys of measures (see docs/project-file.md); empty: those that are offered first. */
  measures: listOf(z.string().min(1).max(200), 'measures', 100),
  /** Options in their order; null: all, as they stand in the project. */
  options: z.array(id).max(20).nullable(),
  /** The option that differences are told to; null: none. */
  against: id.nullable(),
});

/** Nothing chosen yet. */
export const NO_COMPARISON: z.infer<typeof comparisonSchema> = { measures: [], options: null, against: null };
