import { z } from 'zod';
import { scopeSchema } from './opening-schema';
import { bounded, id, listOf, name, ring, whole } from './parts';

const depth = (label: string) => bounded(label, 0.02, 20, 'm');
const thickness = bounded('The thickness', 0.001, 1, 'm');
const tilt = bounded('The tilt', -85, 85, 'degrees');
const beyond = (label: string) => bounded(label, 0, 20, 'm');

/**
 * Of a sheet inside: what the solar gain through glass and sheet is of that through the glass alone, beam, sky and what is
 * thrown back alike, wherever its sun falls; `INSIDE_G_FACTOR` when left out. Outside it says nothing.
 */
const gFactor = bounded('The factor on the g-value', 0.05, 1).optional();

const monthNumber = (label: string) => whole(label, 1, 12);
const minuteOfDay = (label: string) => whole(label, 0, 1440);

/** When a blind is down, or an awning out: in its months and its hours, while the sun on the glass is as strong as it says. */
const lowered = z.strictObject({
  /** Beam on the plane of the glass with nothing before it, W/m²; null: whatever it is, at night too. */
  overWm2: bounded('The limit of beam on the glass', 0, 1500, 'W/m²').nullable(),
  /** Clock time on site, minutes; from the first up to the second, over midnight where that is earlier. */
  fromMinutes: minuteOfDay('The first minute of the day'),
  untilMinutes: minuteOfDay('The last minute of the day'),
  /** 1 to 12, both among them; over the new year where the second is earlier. */
  fromMonth: monthNumber('The first month'),
  untilMonth: monthNumber('The last month'),
});

/** What a device is, in the frame of its opening: u to the right seen from outside, v upwards, w outwards. */
const makeSchema = z.discriminatedUnion(
  'kind',
  [
    /** A plate over the head; its underside meets the wall `aboveM` above the head. */
    z.strictObject({
      kind: z.literal('overhang'),
      depthM: depth('The depth'),
      aboveM: beyond('The height over the head'),
      /** Beyond both jambs. */
      sideM: beyond('The extension beyond the jambs'),
      thicknessM: thickness,
      /** The outer edge lower. */
      tiltDeg: tilt,
      /** Slats along it in place of the plate, each turned about its length; left out: solid. */
      slats: z
        .strictObject({
          slatM: depth('The width of a slat'),
          spacingM: bounded('The spacing', 0.01, 20, 'm'),
          turnDeg: bounded('The turn of the slats', -90, 90, 'degrees'),
        })
        .optional(),
    }),
    /** Upright plates beside the opening, or midway to the next one of its wall. */
    z.strictObject({
      kind: z.literal('fins'),
      depthM: depth('The depth'),
      /** Seen from outside. */
      at: z.enum(['left', 'right', 'both', 'between'], {
        error: 'Fins are “left”, “right”, at “both” jambs or “between” the openings.',
      }),
      /** From the jamb to the near face. */
      gapM: beyond('The gap from the jamb'),
      /** Beyond head and sill. */
      aboveM: beyond('The extension over the head'),
      belowM: beyond('The extension under the sill'),
      thicknessM: thickness,
      /** The outer edge turned away from the opening. */
      turnDeg: bounded('The turn', -80, 80, 'degrees'),
    }),
    /** Slats before the opening, level or upright. */
    z.strictObject({
      kind: z.literal('louvres'),
      lie: z.enum(['level', 'upright'], { error: 'Louvres lie “level” or “upright”.' }),
      slatM: depth('The depth of a slat'),
      spacingM: bounded('The spacing', 0.01, 20, 'm'),
      /** The outer edge lower; of upright ones, further to the right seen from outside. */
      tiltDeg: tilt,
      thicknessM: thickness,
      /** From the face to the inner edges. */
      offM: beyond('The distance from the face'),
      /** Beyond the opening on every side. */
      aroundM: beyond('The extension round the opening'),
      /**
       * The slats turn with the sun between two tilts: in steps of 5 degrees to the one nearest `tiltDeg` at which no beam
       * passes between them, and back to it while the sun is not before the wall. Left out: they stand still.
       */
      turning: z.strictObject({ fromDeg: tilt, toDeg: tilt }).optional(),
    }),
    /** A plate across the opening, outside, inside or both. */
    z.strictObject({
      kind: z.literal('shelf'),
      /** Of its upper face over the sill, at the pane. */
      heightM: bounded('The height over the sill', 0.02, 50, 'm'),
      outM: bounded('The depth outside', 0, 20, 'm'),
      inM: bounded('The depth inside', 0, 20, 'm'),
      thicknessM: thickness,
      /** The outer edge lower, the inner one higher; level when left out. */
      tiltDeg: tilt.optional(),
      /** Of its upper face, and of that the share as a mirror (none when left out): what rays into the room go by. */
      reflectance: bounded('The reflectance', 0, 1).optional(),
      mirror: bounded('The share that is reflected as by a mirror', 0, 1).optional(),
    }),
    /** Level and upright plates crossing before the opening. */
    z.strictObject({
      kind: z.literal('eggcrate'),
      depthM: depth('The depth'),
      columnM: bounded('The spacing of the upright plates', 0.02, 20, 'm'),
      rowM: bounded('The spacing of the level plates', 0.02, 20, 'm'),
      thicknessM: thickness,
    }),
    /** Plates all round the opening, flush with it inside. */
    z.strictObject({ kind: z.literal('reveal'), depthM: depth('The depth'), thicknessM: thickness }),
    /** A sheet before the opening that lets a share of the light pass. */
    z.strictObject({
      kind: z.literal('screen'),
      /** Share of it that is open. */
      openness: bounded('The openness', 0, 0.95),
      /** Depth of its holes over their width: what they take from a slanting sun; 0 takes nothing. */
      holeDepth: bounded('The depth of the holes over their width', 0, 10),
      /** Outside when left out. */
      side: z.enum(['outside', 'inside'], { error: 'A screen hangs “outside” or “inside”.' }).optional(),
      gFactor,
      /** From the face outside, from the pane inside. */
      offM: beyond('The distance of the screen'),
      aroundM: beyond('The extension round the opening'),
    }),
    /** A sheet over the whole opening, lowered by a rule. */
    z.strictObject({
      kind: z.literal('blind'),
      side: z.enum(['outside', 'inside'], { error: 'A blind hangs “outside” or “inside”.' }),
      /** From the face outside, from the pane inside. */
      offM: beyond('The distance of the blind'),
      /** Share of the light that passes it. */
      openness: bounded('The openness', 0, 0.95),
      gFactor,
      lowered,
    }),
    /** A sheet that is let out over the head by a rule. */
    z.strictObject({
      kind: z.literal('awning'),
      depthM: depth('The depth'),
      aboveM: beyond('The height over the head'),
      sideM: beyond('The extension beyond the jambs'),
      tiltDeg: tilt,
      openness: bounded('The openness', 0, 0.95),
      lowered,
    }),
    /** A plate over the head on two posts at its outer corners. */
    z.strictObject({
      kind: z.literal('canopy'),
      depthM: depth('The depth'),
      aboveM: beyond('The height over the head'),
      sideM: beyond('The extension beyond the jambs'),
      thicknessM: thickness,
      tiltDeg: tilt,
      /** Side of a post, and how far it goes down under the sill; its height is what the tilt leaves. */
      postM: bounded('The side of a post', 0.01, 2, 'm'),
      downM: beyond('The length of a post under the sill'),
    }),
    /** A slab under the opening with a rail round it: it shades what lies below. */
    z.strictObject({
      kind: z.literal('balcony'),
      depthM: depth('The depth'),
      /** Of its upper face. */
      belowM: beyond('The height under the sill'),
      sideM: beyond('The extension beyond the jambs'),
      thicknessM: thickness,
      railM: bounded('The height of the rail', 0, 3, 'm'),
      /** Share of the light that passes the rail; 0 blocks. */
      railOpenness: bounded('The openness of the rail', 0, 0.95),
    }),
    /**
     * A plate of any outline in a plane through the line `aboveM` over the head and `offM` off the face: x to the right
     * of the middle of the opening, y outwards from the line, lower by the tilt (90: straight down).
     */
    z.strictObject({
      kind: z.literal('plate'),
      aboveM: bounded('The height over the head', -20, 20, 'm'),
      offM: beyond('The distance from the face'),
      tiltDeg: bounded('The tilt', -90, 90, 'degrees'),
      thicknessM: thickness,
      outlines: listOf(
        z.strictObject({
          outer: ring('The outline of the plate'),
          holes: listOf(ring('The hole in the plate'), 'holes', 50),
        }),
        'outlines',
        50,
      ),
    }),
  ],
  {
    error:
      'A device is “overhang”, “fins”, “louvres”, “shelf”, “eggcrate”, “reveal”, “screen”, “blind”, “awning”, “canopy”, “balcony” or “plate”.',
  },
);

const openings = listOf(z.strictObject({ owner: id, opening: z.string().max(160) }), 'openings', 2000);

/** Something that stands at openings to shade them. */
export const deviceSchema = z
  .strictObject({
    id,
    name,
    /** Which glazed openings of the option it hangs on: by body, sector and storey (null: all), or one by one. */
    scope: scopeSchema.pick({ owners: true, sectors: true, storeys: true }).extend({
      /** Walls picked one by one, as of a rule; all when left out. */
      walls: scopeSchema.shape.walls.optional(),
      /** Only openings of these named rooms; of all when left out. */
      rooms: listOf(z.strictObject({ owner: id, room: id }), 'rooms', 500)
        .nullable()
        .optional(),
    }),
    /** Openings one by one, within the scope; null: all of it. */
    openings: openings.nullable(),
    /** Openings that it leaves alone; none when left out. */
    except: openings.optional(),
    /** At each opening; or once along a storey of a wall, or along the whole wall, over the openings that it means there. */
    along: z
      .enum(['opening', 'storey', 'facade'], {
        error: 'A device hangs at each “opening”, or runs along a “storey” or a “facade”.',
      })
      .optional(),
    make: makeSchema,
  })
  .superRefine(({ make }, context) => {
    const say = (message: string) => context.addIssue({ code: 'custom', message });
    if (make.kind === 'louvres' && make.thicknessM >= make.spacingM)
      say(
        `Slats of ${make.thicknessM} m do not fit into a spacing of ${make.spacingM} m; make them thinner or space them wider.`,
      );
    if (make.kind === 'louvres' && make.turning) {
      const { fromDeg, toDeg } = make.turning;
      if (fromDeg >= toDeg) say('Slats turn from a lesser tilt to a greater one.');
      else if (make.tiltDeg < fromDeg || make.tiltDeg > toDeg)
        say(`The tilt at rest, ${make.tiltDeg}°, lies beyond those that the slats turn between.`);
    }
    if (make.kind === 'eggcrate' && make.thicknessM >= Math.min(make.columnM, make.rowM))
      say(
        `Plates of ${make.thicknessM} m do not fit into their spacing; make them thinner or space them wider.`,
      );
    if (make.kind === 'overhang' && make.slats && make.thicknessM >= make.slats.spacingM)
      say(
        `Slats of ${make.thicknessM} m do not fit into a spacing of ${make.slats.spacingM} m; make them thinner or space them wider.`,
      );
    if (make.kind === 'plate' && make.outlines.length === 0) say('A plate needs an outline.');
    if (make.kind === 'shelf' && make.outM + make.inM < 0.02) say('A shelf needs a depth outside or inside.');
  });

/** Why a device of such sizes cannot be; null where it can. */
export function makeProblem(make: DeviceMake): string | null {
  const whole = { owners: null, sectors: null, storeys: null };
  const found = deviceSchema.safeParse({ id: 'd', name: 'd', scope: whole, openings: null, make });
  return found.success ? null : found.error.issues[0]!.message;
}

/** Devices of an option that are switched as one. */
export const schemeSchema = z.strictObject({ id, name, devices: listOf(deviceSchema, 'devices', 100) });

export type Device = z.infer<typeof deviceSchema>;
export type DeviceMake = Device['make'];
export type LoweredWhen = Extract<DeviceMake, { kind: 'blind' }>['lowered'];
export type Scheme = z.infer<typeof schemeSchema>;
