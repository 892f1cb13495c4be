import { z } from 'zod';

export const STUDY_KIND_KEYS = [
  'sun-hours',
  'shadow-frequency',
  'sun-on-ground',
  'room-exposure',
  'vsc',
  'sky-view',
  'insolation',
  'probable-sun',
  'solar-gain',
] as const;

/** What a study measures. */
export const studyKind = z.enum(STUDY_KIND_KEYS, {
  error: `A study is of kind ${STUDY_KIND_KEYS.map((kind) => `“${kind}”`).join(', ')}.`,
});
