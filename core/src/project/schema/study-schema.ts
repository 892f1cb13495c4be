import { z } from 'zod';
import { scopeSchema } from './opening-schema';
import { bounded, coordinate, date, id, listOf, name, point3, ring, whole, yesNo } from './parts';
import { studyKind } from './study-kind';

/** Whose faces or openings a target by rule is of: the neighbours’, Today’s as far as it stands, or the option’s own. */
const among = z.enum(['neighbours', 'today', 'option'], {
  error: 'A target is among the “neighbours”, what stands “today”, or the “option”.',
});

const grid = {
  spacingM: bounded('The grid spacing', 0.05, 50, 'm'),
  offsetM: bounded('The offset', 0.001, 20, 'm'),
};

export const targetSchema = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({
      id,
      name,
      kind: z.literal('ground'),
      outline: ring('The target'),
      ...grid,
      /** Level of the target where it does not lie on the ground, as a roof terrace does. */
      levelM: coordinate.optional(),
      /** On one clean plane over the ground within the outline, however ragged that is. */
      clean: z.boolean().optional(),
    }),
    /** Any plane: a facade, a slope. It faces the side from which u runs to the right and v upwards. */
    z
      .strictObject({
        id,
        name,
        kind: z.literal('plane'),
        origin: point3,
        /** Unit vectors at a right angle in the plane; the outline and the holes are in u and v from the origin. */
        u: point3,
        v: point3,
        outline: ring('The target'),
        holes: listOf(ring('The hole in the target'), 'holes', 200).default([]),
        ...grid,
        /** The mesh that it was taken from and moves with; null where it stands by itself. */
        of: z.strictObject({ optionId: id.nullable(), id }).nullable().default(null),
      })
      .superRefine(({ u, v }, context) => {
        const [uu, vv, uv] = [dot(u, u), dot(v, v), dot(u, v)];
        if (Math.abs(uu - 1) > 1e-6 || Math.abs(vv - 1) > 1e-6 || Math.abs(uv) > 1e-6)
          context.addIssue({
            code: 'custom',
            message: 'u and v of a plane must be unit vectors at a right angle to each other.',
          });
      }),
    /** Glazed openings by rule, each a target of its own that stays with its wall. */
    z.strictObject({
      id,
      name,
      kind: z.literal('openings'),
      among,
      scope: scopeSchema,
      /** Only those so near to what an option proposes, metres; null for all. */
      withinM: bounded('The distance', 0.1, 2000, 'm').nullable(),
      /** Only those before whose plane something stands that an option proposes. */
      facing: yesNo('facing'),
      /** The middle of the glass, a grid over it, or the point at which the sun exposure of a room is read. */
      at: z.enum(['centre', 'grid', 'reference'], {
        error: 'Openings are measured at the “centre”, on a “grid”, or at the “reference” point.',
      }),
      ...grid,
    }),
    /** Walls, or walls and roofs, by rule, storey by storey. */
    z.strictObject({
      id,
      name,
      kind: z.literal('facades'),
      among,
      scope: scopeSchema,
      /** With the roofs. */
      roofs: yesNo('roofs'),
      ...grid,
    }),
    /** The working plane of rooms of a mass. */
    z.strictObject({
      id,
      name,
      kind: z.literal('rooms'),
      among,
      /** Id of the mass. */
      mass: id,
      /** Ids of rooms, or null for all that are named. */
      rooms: listOf(id, 'rooms', 500).nullable(),
      /** Height of the plane above the floor. */
      heightM: bounded('The height of the working plane', 0, 20, 'm'),
      ...grid,
    }),
  ],
  { error: 'A target is of kind “ground”, “plane”, “openings”, “facades” or “rooms”.' },
);

function dot(a: readonly number[], b: readonly number[]): number {
  return a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
}

export const windowSchema = z
  .strictObject({
    from: date,
    to: date,
    /** Clock minutes on site since midnight, 0 to 1440. */
    startMinutes: bounded('The start of the window', 0, 1439, 'minutes'),
    endMinutes: bounded('The end of the window', 1, 1440, 'minutes'),
  })
  .superRefine((window, context) => {
    if (window.to < window.from)
      context.addIssue({
        code: 'custom',
        message: `The window of time ends (${window.to}) before it starts (${window.from}).`,
      });
    else if ((Date.parse(window.to) - Date.parse(window.from)) / 86_400_000 > 365)
      context.addIssue({ code: 'custom', message: 'The window of time is longer than a year; shorten it.' });
    if (window.endMinutes <= window.startMinutes)
      context.addIssue({ code: 'custom', message: 'The hours of the window end before they start.' });
  });

export const studySchema = z.strictObject({
  id,
  name,
  kind: studyKind,
  targets: z.array(id, { error: 'The targets must be a list of ids.' }).max(50),
  /** Kinds that go by the sky take no notice of window and step. */
  window: windowSchema,
  /** Further windows of time that are measured with it. */
  also: listOf(windowSchema, 'further windows of time', 11).optional(),
  stepMinutes: bounded('The step', 1, 60, 'minutes').refine(Number.isInteger, {
    error: 'The step must be a whole number of minutes.',
  }),
  /** Suns that each hour of the weather is taken with: one where it is left out. */
  sunsPerHour: whole('The suns of an hour', 1, 6).optional(),
  /** Insolation: whether the strongest hour of each point is looked for. */
  peakHour: z.boolean().optional(),
  criterion: z.strictObject({
    /** What a point must have, in the unit of the first measure of the kind: hours, per cent. */
    atLeast: bounded('The threshold', 0, 9000),
    /** Share of the area, 0 to 1, that must have them. */
    share: bounded('The share of the area', 0, 1),
    /** Where the criterion comes from. */
    source: z.string().max(400, { error: 'The source may have at most 400 characters.' }),
  }),
  /** Colour scale in the same unit, kept the same for every option, or null to fit each result. */
  scale: z
    .strictObject({ min: bounded('The scale', 0, 9000), max: bounded('The scale', 0, 9000) })
    .nullable(),
});

export const probeSchema = z.strictObject({
  id,
  number: whole('The probe number', 1, 9999),
  at: point3,
  normal: point3,
});

export type Target = z.infer<typeof targetSchema>;
export type PlaneTarget = Extract<Target, { kind: 'plane' }>;
/** Targets that are drawn, whatever the option. */
export type DrawnTarget = Extract<Target, { kind: 'ground' | 'plane' }>;
/** Targets that follow a rule. */
export type RuledTarget = Exclude<Target, DrawnTarget>;
export type Study = z.infer<typeof studySchema>;
export type WindowOfTime = z.infer<typeof windowSchema>;
export type Probe = z.infer<typeof probeSchema>;
