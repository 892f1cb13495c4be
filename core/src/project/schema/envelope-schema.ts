import { z } from 'zod';
import { bounded, id, listOf, name, ring } from './parts';
import { windowSchema } from './study-schema';

/** Something that is to keep its sun, and when: an area that matters, or a plane that is a target. */
const keptSchema = z.strictObject({
  on: z.enum(['area', 'target'], { error: 'What keeps its sun is an “area” or a “target”.' }),
  id,
  /** The option in which a target by rule is looked for; null: Today. */
  option: id.nullable().default(null),
  windows: listOf(windowSchema, 'windows of time', 12).min(1, {
    error: 'What keeps its sun needs a window of time.',
  }),
  /** What the hours of its windows are told by: the clock on site, with daylight saving, or the sun (720: due south or north). */
  basis: z
    .enum(['clock', 'solar'], { error: 'Hours are by the “clock” or by the sun (“solar”).' })
    .default('clock'),
});

/** How tall may be built somewhere without taking sun that is to be kept. */
export const envelopeSchema = z.strictObject({
  id,
  name,
  keep: listOf(keptSchema, 'things that keep their sun', 100),
  /** Where it may be built; null: within the boundary of the site. */
  build: ring('The outline that may be built on').nullable(),
  /** From the edges of that outline inwards, metres: one for all, or one for each in their order. */
  setbacksM: listOf(bounded('A setback', 0, 200, 'm'), 'setbacks', 400),
  noBuild: listOf(ring('The strip that may not be built on'), 'strips', 50),
  /** Over the ground at each place, or over the datum; null: none. */
  limit: z
    .strictObject({
      over: z.enum(['ground', 'datum'], { error: 'A height is limited over the “ground” or the “datum”.' }),
      heightM: bounded('The height limit', -500, 1000, 'm'),
    })
    .nullable(),
  /** Over the ground: so high at the outline, and so much higher for each metre from it; null: none. */
  slope: z
    .strictObject({
      fromM: bounded('The height at the outline', 0, 500, 'm'),
      rise: bounded('The slope', 0, 20),
    })
    .nullable(),
  /** Sun that what stands and stays takes already from all of something: kept as well, or left. */
  lost: z
    .enum(['keep', 'leave'], { error: 'Sun that is lost already is one to “keep” or to “leave”.' })
    .default('keep'),
  /** Height of the storeys that the floor area is told with. */
  storeyM: bounded('The height of a storey', 2, 20, 'm'),
  /** Distance between the points of the field. */
  spacingM: bounded('The spacing', 0.1, 20, 'm'),
});

export type Envelope = z.infer<typeof envelopeSchema>;
