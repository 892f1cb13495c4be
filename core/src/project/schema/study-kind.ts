import { z } from 'zod';
import { STUDY_KIND_KEYS } from '../constants';

/** What a study measures. */
export const studyKind = z.enum(STUDY_KIND_KEYS, {
  error: `A study is of kind ${STUDY_KIND_KEYS.map((kind) => `“${kind}”`).join(', ')}.`,
});
