import { z } from 'zod';
import { bounded, id, listOf, name, yesNo } from './parts';
import { windowSchema } from './study-schema';

/** A set of hours of the year, in which sun is unwanted or wanted: by the temperature outside, or by windows of time. */
export const hourSetSchema = z.strictObject({
  id,
  name,
  use: z.enum(['unwanted', 'wanted', 'other'], {
    error: 'A set of hours is of sun that is “unwanted”, “wanted”, or “other”.',
  }),
  source: z.discriminatedUnion(
    'by',
    [
      /** Hours of the project's weather at or above a temperature, or at or below one. */
      z.strictObject({
        by: z.literal('temperature'),
        above: yesNo('above'),
        atC: bounded('The temperature', -60, 60, '°C'),
      }),
      z.strictObject({ by: z.literal('windows'), windows: listOf(windowSchema, 'windows of time', 24) }),
    ],
    { error: 'A set of hours goes by “temperature” or by “windows”.' },
  ),
});

export type HourSet = z.infer<typeof hourSetSchema>;
