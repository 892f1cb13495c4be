import { z } from 'zod';
import { SECTORS } from '../constants';
import { bounded, edgeNumber, id, listOf, name, point2, whole, yesNo } from './parts';

/** What a pane is made of. */
export const glazingSchema = z.strictObject({
  id,
  name,
  /** Share of visible light that passes at normal incidence. */
  visibleTransmittance: bounded('The visible transmittance', 0, 1),
  /** Share of solar energy that gets in, directly and as heat, at normal incidence. */
  gValue: bounded('The g-value', 0, 1),
  /** Share of the opening that its frame takes. */
  frameShare: bounded('The frame share', 0, 0.9),
  /** Panes of glass, and the category of their coating (4: uncoated), by which the g-value falls with the angle. */
  panes: whole('The panes', 1, 4).default(2),
  categoryQ: bounded('The category of the coating', 0.5, 10).default(4),
});

const size = (label: string) => bounded(label, 0.05, 500, 'm');
const position = (label: string) => bounded(label, -1000, 1000, 'm');

/** The outline of an opening in the frame of its face: u to the right seen from outside, v upwards, metres. */
const outlineSchema = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({
      kind: z.literal('rectangle'),
      u: position('The left edge'),
      v: position('The sill'),
      widthM: size('The width'),
      heightM: size('The height'),
    }),
    z.strictObject({
      kind: z.literal('arch'),
      u: position('The left edge'),
      v: position('The sill'),
      widthM: size('The width'),
      /** Height to the crown. */
      heightM: size('The height'),
      /** Height of the arch itself, from its springing to its crown; at most half the width. */
      riseM: size('The rise of the arch'),
    }),
    z.strictObject({ kind: z.literal('polygon'), points: listOf(point2, 'corners', 200) }),
  ],
  { error: 'An opening is a “rectangle”, an “arch” or a “polygon”.' },
);

/** Where an opening sits: a wall of a storey, a face of the roof, or a flat face of a mesh. */
const hostSchema = z.discriminatedUnion(
  'on',
  [
    z.strictObject({
      on: z.literal('wall'),
      /** 0 the outer footprint, 1 the first court, and so on. */
      ring: whole('The ring', 0, 50),
      /** The lasting number of the edge in its ring (see `edges` of the footprint). */
      edge: edgeNumber,
      storey: whole('The storey', 0, 199),
    }),
    z.strictObject({ on: z.literal('roof'), face: whole('The roof face', 0, 1999) }),
    /** A flat face of an imported mesh, named by the lowest of its triangles. */
    z.strictObject({ on: z.literal('mesh'), face: whole('The face of the mesh', 0, 2_000_000) }),
  ],
  { error: 'An opening sits in a “wall”, in a “roof” or in a “mesh”.' },
);

const kind = z.enum(['window', 'door', 'void'], { error: 'An opening is a “window”, a “door” or a “void”.' });

export const openingSchema = z
  .strictObject({
    id,
    name,
    host: hostSchema,
    outline: outlineSchema,
    /** `door` with `glazing` null is opaque; `void` has no pane at all. */
    kind,
    /** Id of the glazing type; null for an opaque door and for a void. */
    glazing: id.nullable(),
    /** How far the pane stands back from the face. */
    revealM: bounded('The reveal', 0, 2, 'm'),
    openable: yesNo('openable'),
    /** Curtain wall: panes between mullions and transoms. */
    grid: z
      .strictObject({
        columns: whole('The columns', 1, 200),
        rows: whole('The rows', 1, 200),
        barM: bounded('The width of the bars', 0.01, 1, 'm'),
      })
      .nullable()
      .default(null),
  })
  .superRefine((opening, context) => {
    const { outline } = opening;
    if (outline.kind === 'arch' && outline.riseM > Math.min(outline.widthM / 2 + 1e-6, outline.heightM))
      context.addIssue({
        code: 'custom',
        message: 'The arch rises by more than half its width or more than its height; lower it.',
      });
    if (outline.kind === 'polygon' && outline.points.length < 3)
      context.addIssue({ code: 'custom', message: 'The opening needs at least three corners.' });
    if (opening.grid && outline.kind !== 'rectangle')
      context.addIssue({ code: 'custom', message: 'A curtain-wall grid needs a rectangular opening.' });
  });

const wallName = z.string().regex(/^[a-zA-Z0-9_-]{1,64}\/(\d+|mesh)\/\d+$/, {
  error: 'A wall is named owner/ring/edge, or owner/mesh/face.',
});

/** Which walls a rule is for. Imported meshes only where they, or faces of them, are named. */
export const scopeSchema = z.strictObject({
  /** Ids of masses (or neighbours), or null for all of the option. */
  owners: listOf(id, 'owners', 500).nullable(),
  /** Sectors of 90° round true north, east, south and west that the wall faces, or null for all. */
  sectors: z.array(z.enum(SECTORS)).max(4).nullable(),
  /** Storeys counted from 0, or null for all. */
  storeys: z
    .array(whole('The storey', 0, 199))
    .max(200)
    .nullable(),
  /** Walls picked one by one as `owner/ring/edge`, of a mesh `owner/mesh/face`, or null for all. */
  walls: z.array(wallName).max(2000).nullable(),
  /** Walls of single storeys that the rule leaves alone: `owner/ring/edge/storey`, or `owner/mesh/face/0`. */
  except: z
    .array(
      z.string().regex(/^[a-zA-Z0-9_-]{1,64}\/(\d+|mesh)\/\d+\/\d+$/, {
        error: 'An exception is named owner/ring/edge/storey.',
      }),
    )
    .max(5000)
    .default([]),
});

const sill = bounded('The sill', 0, 50, 'm');
const head = bounded('The head', 0.05, 50, 'm');
const jamb = bounded('The jamb margin', 0, 20, 'm');

const makeSchema = z.discriminatedUnion(
  'by',
  [
    /** So much of the wall as glass, in `bays` equal lights or one band. */
    z.strictObject({
      by: z.literal('ratio'),
      ratio: bounded('The window-to-wall ratio', 0, 0.95),
      sillM: sill,
      headM: head,
      jambM: jamb,
      /** Width of a bay, one light each; 0 for one horizontal band. */
      bayM: bounded('The bay', 0, 50, 'm'),
    }),
    /** Lights of one size at a spacing. */
    z.strictObject({
      by: z.literal('size'),
      widthM: size('The width'),
      heightM: size('The height'),
      /** Centre to centre. */
      spacingM: bounded('The spacing', 0.1, 200, 'm'),
      sillM: sill,
      jambM: jamb,
    }),
    /** Doors in the lowest storey, one in the middle of each wall or at a spacing. */
    z.strictObject({
      by: z.literal('door'),
      widthM: size('The width'),
      heightM: size('The height'),
      jambM: jamb,
      opaque: yesNo('opaque'),
    }),
    /** Panels, each open or solid by chance, the same for the same seed; some turned over by hand. */
    z.strictObject({
      by: z.literal('panels'),
      panelWidthM: bounded('The panel width', 0.1, 50, 'm'),
      panelHeightM: bounded('The panel height', 0.1, 50, 'm'),
      barM: bounded('The bar between panels', 0.02, 2, 'm'),
      density: bounded('The share of open panels', 0, 1),
      seed: whole('The seed', 0, 999_999),
      glazed: yesNo('glazed'),
      /** Panels turned over by hand, as `owner/ring/edge/storey/column/row`, of a mesh `owner/mesh/face/0/column/row`. */
      turned: z.array(z.string().max(120)).max(5000),
    }),
  ],
  { error: 'A rule makes openings by “ratio”, “size”, “door” or “panels”.' },
);

export const openingRuleSchema = z.strictObject({
  id,
  name,
  scope: scopeSchema,
  make: makeSchema,
  glazing: id,
  revealM: bounded('The reveal', 0, 2, 'm'),
  openable: yesNo('openable'),
});

export type Glazing = z.infer<typeof glazingSchema>;
export type Opening = z.infer<typeof openingSchema>;
export type OpeningOutline = Opening['outline'];
export type OpeningHost = Opening['host'];
export type OpeningRule = z.infer<typeof openingRuleSchema>;
export type RuleMake = OpeningRule['make'];
export type Sector = (typeof SECTORS)[number];
