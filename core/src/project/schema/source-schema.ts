import { z } from 'zod';
import { BECOMES, MAX_NEIGHBOURS } from '../constants';
import { bounded, id, listOf, point2, sha256 } from './parts';

const label = (what: string, most: number) =>
  z
    .string({ error: `${what} must be text.` })
    .min(1)
    .max(most, {
      error: `${what} may have at most ${most} characters.`,
    });
/** Parts of a hash, by which is told whether something is as it was. */
const mark = z.string().regex(/^[0-9a-f]{12}$/, { error: 'A mark is twelve hexadecimal digits.' });
const far = (what: string) => bounded(what, -1e9, 1e9, 'm');

/** One thing that a file brought in. */
const sourcePartSchema = z.strictObject({
  /** How the file names it: `id:` with an id of its own there, or `name:` with its name. */
  part: label('A part of a file', 200),
  /** The thing that it became; it may be gone since. */
  owner: id,
  /** What it was in plan and how high when it was read, of what has only one shape `plan`. */
  plan: mark,
  height: mark.nullable(),
});

/** A file that was brought in: what its parts became, so that it can be read again. */
export const sourceSchema = z.strictObject({
  id,
  /** Name of the file. */
  file: label('The name of a file', 200),
  /** SHA-256 of its bytes. */
  hash: sha256,
  unit: label('A unit', 10),
  up: z.enum(['z', 'y'], { error: 'Up is “z” or “y”.' }),
  /**
   * A point of the file, metres, that was set on a point of the project, with the turn about it and the level that heights are
   * told from; null where the file says itself where it stands.
   */
  place: z
    .strictObject({
      file: z.tuple([far('A point of the file'), far('A point of the file')]),
      board: point2,
      turnDeg: bounded('The turn', -360, 360, 'degrees'),
      lowM: far('A level of the file'),
    })
    .nullable(),
  /** What each layer, kind or part of it became. */
  becomes: z.record(label('A part of a file', 200), z.enum(BECOMES)),
  parts: listOf(sourcePartSchema, 'parts of a file', MAX_NEIGHBOURS + 1000),
});

export type Source = z.infer<typeof sourceSchema>;
export type SourcePart = z.infer<typeof sourcePartSchema>;
