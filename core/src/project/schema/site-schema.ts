import { z } from 'zod';
import { isZone } from '../../civil';
import { AREA_USES, MAX_TERRAIN_POINTS } from '../constants';
import { bounded, coordinate, id, listOf, name, point3, ring, whole, yesNo } from './parts';
import { weatherSchema } from './weather-schema';

const placeSchema = z.strictObject({
  name: z
    .string({ error: 'The place name must be text.' })
    .max(80, { error: 'The place name may have at most 80 characters.' }),
  latitudeDeg: bounded('Latitude', -90, 90, 'degrees'),
  longitudeDeg: bounded('Longitude', -180, 180, 'degrees'),
  elevationM: bounded('Elevation', -500, 9000, 'm'),
  zone: z.string({ error: 'The time zone must be text.' }).refine(isZone, {
    error: (issue) =>
      `The time zone “${String(issue.input)}” does not exist; use an IANA name such as Europe/London.`,
  }),
  confirmed: yesNo('confirmed'),
});

const groundSchema = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({ kind: z.literal('level'), levelM: coordinate }),
    z.strictObject({
      kind: z.literal('plane'),
      /** Level at the project origin. */
      levelM: coordinate,
      slopeDeg: bounded('The slope of the ground', 0, 60, 'degrees'),
      /** Bearing towards which the ground falls, clockwise from drawing north. */
      fallsTowardsDeg: bounded('The bearing of the fall', 0, 360, 'degrees'),
    }),
    z.strictObject({
      kind: z.literal('terrain'),
      /** Spot heights; the ground is their Delaunay triangulation, level beyond them. */
      points: listOf(point3, 'terrain points', MAX_TERRAIN_POINTS)
        .min(3, { error: 'A terrain needs at least three points.' })
        .superRefine((points, context) => {
          const seen = new Set<string>();
          for (const [x, y] of points) {
            const key = `${x.toFixed(3)},${y.toFixed(3)}`;
            if (seen.has(key)) {
              context.addIssue({
                code: 'custom',
                message: `The terrain has two heights at (${x.toFixed(2)}, ${y.toFixed(2)}); keep one of them.`,
              });
              return;
            }
            seen.add(key);
          }
        }),
    }),
  ],
  { error: 'The ground must be of kind “level”, “plane” or “terrain”.' },
);

export const siteSchema = z.strictObject({
  place: placeSchema,
  north: z.strictObject({
    /** Clockwise from drawing north (+y) to true north. */
    trueNorthDeg: bounded('True north', -180, 360, 'degrees'),
    confirmed: yesNo('confirmed'),
  }),
  /**
   * The point of a survey’s coordinates, metres, that is the project origin, so that files of the same survey stay in relation;
   * and the map system that they are in, as `EPSG:25832`, where that is known. Null: no file has brought one.
   */
  survey: z
    .strictObject({
      x: bounded('The survey origin', -1e8, 1e8, 'm'),
      y: bounded('The survey origin', -1e8, 1e8, 'm'),
      z: bounded('The level of the survey origin', -1e4, 1e5, 'm'),
      system: z.string().max(120).nullable(),
    })
    .nullable()
    .default(null),
  year: whole('The year', 1900, 2100),
  boundary: ring('The site boundary').nullable(),
  ground: groundSchema,
  /** Share of the light that the ground throws back. */
  albedo: bounded('The albedo of the ground', 0, 1).default(0.2),
  /**
   * Light that the ground and what stands about throw back: `traced` past all that stands, from where it really falls; or
   * `open`, albedo × global × (1 − n_z)/2 with nothing in its way, off the ground alone.
   */
  thrownBack: z.enum(['traced', 'open'], {
    error: 'Light that is thrown back is “traced”, or that of “open” ground.',
  }),
  /** Shares that surfaces outside throw back, all ways alike; `glass` as it is seen from outside. */
  reflectances: z.strictObject({
    facades: bounded('The reflectance of facades and roofs', 0, 1),
    glass: bounded('The reflectance of glass', 0, 1),
    devices: bounded('The reflectance of devices', 0, 1),
    crowns: bounded('The reflectance of crowns', 0, 1),
  }),
  /** The weather year of the site; null without one. */
  weather: weatherSchema.nullable().default(null),
});

/** An area that matters: on the ground, or at a level, as on a roof. */
export const areaSchema = z.strictObject({
  id,
  name,
  use: z.enum(AREA_USES, { error: `The use of an area is one of ${AREA_USES.join(', ')}.` }),
  outline: ring('The area'),
  on: z.discriminatedUnion(
    'kind',
    [
      z.strictObject({ kind: z.literal('ground') }),
      z.strictObject({ kind: z.literal('level'), levelM: coordinate }),
    ],
    { error: 'An area lies on the “ground” or at a “level”.' },
  ),
});

export type Site = z.infer<typeof siteSchema>;
export type Place = Site['place'];
export type Ground = Site['ground'];
export type Terrain = Extract<Ground, { kind: 'terrain' }>;
export type Area = z.infer<typeof areaSchema>;
