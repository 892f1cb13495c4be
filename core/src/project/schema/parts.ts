import { z } from 'zod';
import { isDate } from '../../civil';
import { MAX_COORDINATE_M } from '../constants';
import { type Point2, ringProblem } from '../../geometry';

/** A number within bounds whose message names the thing, the value and the bounds. */
export function bounded(label: string, min: number, max: number, unit = '') {
  const range = `${String(min).replace('-', '−')} to ${max}${unit && ` ${unit}`}`;
  const say = (issue: { input?: unknown }) =>
    typeof issue.input === 'number' && Number.isFinite(issue.input)
      ? `${label} ${issue.input}${unit && ` ${unit}`} is outside ${range}.`
      : `${label} must be a number from ${range}.`;
  return z.number({ error: say }).min(min, { error: say }).max(max, { error: say });
}

/** A whole number within bounds. */
export function whole(label: string, min: number, max: number) {
  return bounded(label, min, max).refine(Number.isInteger, { error: `${label} must be a whole number.` });
}

export function yesNo(label: string) {
  return z.boolean({ error: `${label} must be true or false.` });
}

/** A list with at most `max` entries. */
export function listOf<T extends z.ZodType>(item: T, things: string, max: number) {
  return z
    .array(item, { error: `The ${things} must be a list.` })
    .max(max, { error: `There may be at most ${max} ${things} here.` });
}

export const id = z
  .string({ error: 'An id must be text.' })
  .regex(/^[a-zA-Z0-9_-]{1,64}$/, { error: 'An id is 1 to 64 letters, digits, - or _.' });

export const name = z
  .string({ error: 'A name must be text.' })
  .trim()
  .min(1, { error: 'A name must not be empty.' })
  .max(80, { error: 'A name may have at most 80 characters.' });

export const note = z
  .string({ error: 'A note must be text.' })
  .max(4000, { error: 'A note may have at most 4000 characters.' })
  .default('');

export const sha256 = z
  .string()
  .regex(/^[0-9a-f]{64}$/, { error: 'A mesh is named by its SHA-256 in hexadecimal.' });

export const coordinate = bounded('The coordinate', -MAX_COORDINATE_M, MAX_COORDINATE_M, 'm');
export const point2 = z.tuple([coordinate, coordinate], {
  error: 'A point must be two numbers, x and y in metres.',
});
export const point3 = z.tuple([coordinate, coordinate, coordinate], {
  error: 'A point in space must be three numbers, x, y and z in metres.',
});

export const ring = (label: string) =>
  z
    .array(point2, { error: `${label} must be a list of points.` })
    .max(2000, { error: `${label} has more than 2000 corners; simplify it.` })
    .superRefine((points, context) => {
      const problem = ringProblem(points as Point2[]);
      if (problem) context.addIssue({ code: 'custom', message: `${label} ${problem}.` });
    });

/** An open line of at least two different points. */
export const path = (label: string) =>
  z
    .array(point2, { error: `${label} must be a list of points.` })
    .min(2, { error: `${label} needs at least two points.` })
    .max(500, { error: `${label} has more than 500 points; simplify it.` })
    .superRefine((points, context) => {
      const at = points.findIndex(
        (p, i) => i > 0 && Math.hypot(p[0] - points[i - 1]![0], p[1] - points[i - 1]![1]) < 1e-3,
      );
      if (at > 0)
        context.addIssue({
          code: 'custom',
          message: `${label} has two points in the same place; remove one of them.`,
        });
    });

/** The lasting number of an edge of a footprint. */
export const edgeNumber = whole('The number of the edge', 0, 999_999);

export const date = z.string({ error: 'A date must be text.' }).refine(isDate, {
  error: (issue) => `“${String(issue.input)}” is not a date; write it as YYYY-MM-DD, for example 2026-03-21.`,
});

/** A day of any year, MM-DD. */
export const monthDay = z
  .string({ error: 'A day of the year must be text.' })
  .refine((text) => /^\d\d-\d\d$/.test(text) && isDate(`2028-${text}`), {
    error: (issue) =>
      `“${String(issue.input)}” is not a day of the year; write it as MM-DD, for example 04-20.`,
  });
