import { z } from 'zod';
import { isDate } from '../../civil';
import { SEASON_MARKS } from '../season-marks';
import { bounded, coordinate, id, listOf, name, point2, point3, whole, yesNo } from './parts';

const shownHeight = bounded('The height of the view', 0.1, 200_000, 'm');
const bearing = bounded('The bearing', -360, 360, 'degrees');

/** From where, and how, the scene is seen. Bearings clockwise from drawing north. */
const cameraSchema = z.discriminatedUnion(
  'kind',
  [
    /** From outside, turning round what is looked at. */
    z.strictObject({
      kind: z.literal('orbit'),
      projection: z.enum(['perspective', 'parallel'], {
        error: 'A projection is “perspective” or “parallel”.',
      }),
      eye: point3,
      lookAt: point3,
      /** Height of what a parallel view shows, metres. */
      heightM: shownHeight,
    }),
    /** From where somebody stands. */
    z.strictObject({
      kind: z.literal('eye'),
      at: point3,
      bearingDeg: bearing,
      /** Upwards from the horizon. */
      pitchDeg: bounded('The pitch of the eye', -89, 89, 'degrees'),
      /** Upright angle of what is seen. */
      fovDeg: bounded('The field of view', 5, 120, 'degrees'),
    }),
    /** From above on a level cut: what is higher is taken away for the eye. */
    z.strictObject({
      kind: z.literal('level'),
      /** Level of the floor, and how far above it is cut, metres. */
      floorM: coordinate,
      aboveM: bounded('The height of the cut', 0.01, 100, 'm'),
      centre: point2,
      heightM: shownHeight,
      /** True north up; as drawn otherwise. */
      northUp: yesNo('northUp'),
    }),
    /** Square on an upright cut along a line; what lies on its right side, walking along it, is taken away. */
    z.strictObject({
      kind: z.literal('upright'),
      from: point2,
      to: point2,
      /** Middle of the picture: along the line from its beginning, and its level, metres. */
      alongM: coordinate,
      levelM: coordinate,
      heightM: shownHeight,
    }),
    /** Square on a facade. */
    z.strictObject({
      kind: z.literal('elevation'),
      centre: point3,
      /** The way the facade faces. */
      bearingDeg: bearing,
      heightM: shownHeight,
    }),
    /** From the sun: what it sees is lit. */
    z.strictObject({ kind: z.literal('sun'), lookAt: point3, heightM: shownHeight }),
  ],
  { error: 'A view is “orbit”, “eye”, “level”, “upright”, “elevation” or “sun”.' },
);

/** How the scene is drawn. */
const drawingSchema = z.strictObject({
  tone: z.enum(['paper', 'white', 'kinds'], { error: 'Surfaces are toned as “paper”, “white” or “kinds”.' }),
  /** Strength of lines, 0 none to 1 full. */
  ink: bounded('The strength of lines', 0, 1),
  /** How dark shade is, 0 not at all to 1. */
  shade: bounded('The darkness of shade', 0, 1),
  sunPath: yesNo('sunPath'),
  /** Lines on the ground every ten metres. */
  grid: yesNo('grid').default(false),
  /** Whether what is hidden is drawn as outline. */
  ghost: yesNo('ghost').default(false),
  /** How results lie on the scene; evenly coloured, without lines or figures, where it is left out. */
  map: z
    .strictObject({
      /** So many steps of colour; 0 for even colour. */
      steps: whole('The steps of colour', 0, 20),
      /** Name of a ramp in place of that of the kind. */
      ramp: z
        .enum(['sun', 'shade', 'sky', 'heat', 'taken'], {
          error: 'A ramp is “sun”, “shade”, “sky”, “heat” or “taken”.',
        })
        .nullable(),
      /** Lines at each step, with their value. */
      contours: yesNo('contours'),
      /** The value of each cell. */
      values: yesNo('values'),
    })
    .optional(),
});

export const viewpointSchema = z.strictObject({
  id,
  name,
  camera: cameraSchema,
  drawing: drawingSchema,
  /** What is not drawn, though it goes on shading: `OPTION/ID`, of neighbours `/ID`. */
  hidden: listOf(z.string().min(1).max(200), 'hidden things', 5000).default([]),
});

const minutes = bounded('A time of day', 0, 1439.999, 'minutes');
const date = z
  .string({ error: 'A date must be text.' })
  .refine(isDate, { error: 'A date is written YYYY-MM-DD.' });

/** A named list of moments on site. */
export const momentSetSchema = z.strictObject({
  id,
  name,
  /** Whether times of day are those of the clock on site or solar time. */
  basis: z.enum(['clock', 'solar'], { error: 'Times are “clock” or “solar” time.' }),
  source: z.discriminatedUnion(
    'kind',
    [
      /** Solstices and equinoxes of the year of the site × times of day. */
      z.strictObject({
        kind: z.literal('seasons'),
        marks: listOf(z.enum(SEASON_MARKS), 'marks of the year', 4).min(1, {
          error: 'A set needs at least one mark of the year.',
        }),
        times: listOf(minutes, 'times of day', 96).min(1, { error: 'A set needs at least one time of day.' }),
      }),
      /** Every so many minutes of a date; from sunrise or until sunset where a bound is null. */
      z.strictObject({
        kind: z.literal('day'),
        date,
        everyMinutes: whole('The step', 1, 720),
        from: minutes.nullable(),
        to: bounded('A time of day', 0, 1440, 'minutes').nullable(),
      }),
      /** Dates and times of day, one by one. */
      z.strictObject({
        kind: z.literal('list'),
        moments: listOf(z.strictObject({ date, minutes }), 'moments', 2000),
      }),
    ],
    { error: 'The moments of a set come from “seasons”, a “day” or a “list”.' },
  ),
});

export type Viewpoint = z.infer<typeof viewpointSchema>;
export type Camera = Viewpoint['camera'];
export type CameraOf<K extends Camera['kind']> = Extract<Camera, { kind: K }>;
export type Drawing = Viewpoint['drawing'];
export type MomentSet = z.infer<typeof momentSetSchema>;
