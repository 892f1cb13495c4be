import { InputError } from '@dial-shade/core';
import type { z } from 'zod';

/** The parsed value. Throws InputError `request` with the first problem in a sentence; it is answered with 400. */
export function parsed<T>(schema: z.ZodType<T>, value: unknown): T {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  throw new InputError(
    'request',
    `The request is not right at “${issue.path.join('.') || 'its body'}”: ${issue.message}.`,
  );
}
