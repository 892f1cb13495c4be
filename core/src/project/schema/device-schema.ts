import { z } from 'zod';
import { scopeSchema } from './opening-schema';
import { bounded, id, listOf, name } from './parts';

const depth = (label: string) => bounded(label, 0.02, 20, 'm');
const thickness = bounded('The thickness', 0.001, 1, 'm');
const tilt = bounded('The tilt', -85, 85, 'degrees');
const beyond = (label: string) => bounded(label, 0, 20, 'm');

/** What a device is, in the frame of its opening: u to the right seen from outside, v upwards, w outwards. */
const makeSchema = z.discriminatedUnion(
  'kind',
  [
    /** A plate over the head; its underside meets the wall `aboveM` above the head. */
    z.object({
      kind: z.literal('overhang'),
      depthM: depth('The depth'),
      aboveM: beyond('The height over the head'),
      /** Beyond both jambs. */
      sideM: beyond('The extension beyond the jambs'),
      thicknessM: thickness,
      /** The outer edge lower. */
      tiltDeg: tilt,
    }),
    /** Upright plates beside the opening. */
    z.object({
      kind: z.literal('fins'),
      depthM: depth('The depth'),
      /** Seen from outside. */
      at: z.enum(['left', 'right', 'both'], { error: 'Fins are “left”, “right” or at “both” jambs.' }),
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
    z.object({
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
    }),
    /** A level plate across the opening, outside, inside or both. */
    z.object({
      kind: z.literal('shelf'),
      /** Of its upper face, over the sill. */
      heightM: bounded('The height over the sill', 0.02, 50, 'm'),
      outM: bounded('The depth outside', 0, 20, 'm'),
      inM: bounded('The depth inside', 0, 20, 'm'),
      thicknessM: thickness,
    }),
    /** Level and upright plates crossing before the opening. */
    z.object({
      kind: z.literal('eggcrate'),
      depthM: depth('The depth'),
      columnM: bounded('The spacing of the upright plates', 0.02, 20, 'm'),
      rowM: bounded('The spacing of the level plates', 0.02, 20, 'm'),
      thicknessM: thickness,
    }),
  ],
  { error: 'A device is “overhang”, “fins”, “louvres”, “shelf” or “eggcrate”.' },
);

/** Something that stands at openings to shade them. */
export const deviceSchema = z
  .object({
    id,
    name,
    /** Which glazed openings of the option it hangs on: by body, sector and storey (null: all), or one by one. */
    scope: scopeSchema.pick({ owners: true, sectors: true, storeys: true }),
    /** Openings one by one, within the scope; null: all of it. */
    openings: listOf(z.object({ owner: id, opening: z.string().max(160) }), 'openings', 2000).nullable(),
    make: makeSchema,
  })
  .superRefine(({ make }, context) => {
    const say = (message: string) => context.addIssue({ code: 'custom', message });
    if (make.kind === 'louvres' && make.thicknessM >= make.spacingM)
      say(
        `Slats of ${make.thicknessM} m do not fit into a spacing of ${make.spacingM} m; make them thinner or space them wider.`,
      );
    if (make.kind === 'eggcrate' && make.thicknessM >= Math.min(make.columnM, make.rowM))
      say(
        `Plates of ${make.thicknessM} m do not fit into their spacing; make them thinner or space them wider.`,
      );
    if (make.kind === 'shelf' && make.outM + make.inM < 0.02) say('A shelf needs a depth outside or inside.');
  });

/** Why a device of such sizes cannot be; null where it can. */
export function makeProblem(make: DeviceMake): string | null {
  const whole = { owners: null, sectors: null, storeys: null };
  const found = deviceSchema.safeParse({ id: 'd', name: 'd', scope: whole, openings: null, make });
  return found.success ? null : found.error.issues[0]!.message;
}

/** Devices of an option that are switched as one. */
export const schemeSchema = z.object({ id, name, devices: listOf(deviceSchema, 'devices', 100) });

export type Device = z.infer<typeof deviceSchema>;
export type DeviceMake = Device['make'];
export type Scheme = z.infer<typeof schemeSchema>;
