import { z } from 'zod';
import { MAX_MASSES } from '../constants';
import { schemeSchema } from './device-schema';
import { openingRuleSchema, openingSchema } from './opening-schema';
import {
  bounded,
  coordinate,
  edgeNumber,
  id,
  listOf,
  monthDay,
  name,
  note,
  path,
  point2,
  point3,
  ring,
  sha256,
  whole,
  yesNo,
} from './parts';

const rise = bounded('The rise of the roof', 0.01, 100, 'm');
const bearing = (label: string) => bounded(label, 0, 360, 'degrees');

const roofSchema = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({ kind: z.literal('flat'), parapetM: bounded('The parapet', 0, 10, 'm') }),
    /** Two slopes on a four-cornered footprint, the ridge along its longer side. */
    z.strictObject({ kind: z.literal('gable'), riseM: rise }),
    /** Slopes from every eave to one point over the middle of the footprint. */
    z.strictObject({ kind: z.literal('pyramid'), riseM: rise }),
    /** One slope; `fallsTowardsDeg` clockwise from drawing north. */
    z.strictObject({
      kind: z.literal('mono'),
      riseM: rise,
      fallsTowardsDeg: bearing('The fall of the roof'),
    }),
    /** Slopes of one pitch from every eave. */
    z.strictObject({ kind: z.literal('hip'), pitchDeg: bounded('The pitch of the roof', 1, 80, 'degrees') }),
    /** Upright faces turned to `facesDeg` (clockwise from drawing north), slopes falling away from them. */
    z.strictObject({
      kind: z.literal('sawtooth'),
      riseM: rise,
      teeth: whole('The teeth', 1, 60),
      facesDeg: bearing('The bearing of the upright faces'),
    }),
  ],
  { error: 'A roof is “flat”, “gable”, “pyramid”, “mono”, “hip” or “sawtooth”.' },
);

const storeySchema = z.strictObject({
  heightM: bounded('The storey height', 0.1, 100, 'm'),
  /** How far each edge of the outer footprint stands back in this storey; outwards where negative. */
  setbacksM: z
    .array(bounded('The setback', -50, 500, 'm'))
    .max(2000)
    .optional(),
});

const partitionSchema = z.strictObject({
  id,
  storey: whole('The storey', 0, 199),
  path: path('The partition'),
});

const roomSchema = z.strictObject({
  id,
  name,
  storey: whole('The storey', 0, 199),
  /** A point within the room; its outline is whatever walls and partitions enclose it. */
  at: point2,
  /** Open to the storey above. */
  doubleHeight: yesNo('doubleHeight'),
});

const furnitureSchema = z.strictObject({
  id,
  name,
  storey: whole('The storey', 0, 199),
  /** Centre on the floor. */
  at: point2,
  widthM: bounded('The width', 0.05, 50, 'm'),
  depthM: bounded('The depth', 0.05, 50, 'm'),
  heightM: bounded('The height', 0.02, 20, 'm'),
  /** Anticlockwise seen from above. */
  turnDeg: bounded('The turn', -360, 360, 'degrees'),
});

const massFields = {
  id,
  name,
  footprint: z.strictObject({
    outer: ring('The footprint'),
    holes: z.array(ring('The court'), { error: 'The courts must be a list.' }).max(50, {
      error: 'A footprint may have at most 50 courts.',
    }),
    /**
     * The lasting number of each edge, ring by ring, the outer ring first and run anticlockwise, courts clockwise.
     * Left out where edges are numbered as they run, from 0.
     */
    edges: z.array(z.array(edgeNumber).max(2000)).max(51).optional(),
  }),
  /** `ground`: sits on the ground, raised by offsetM; `level`: starts at an absolute level, as a cantilever does. */
  base: z.discriminatedUnion(
    'on',
    [
      z.strictObject({
        on: z.literal('ground'),
        offsetM: bounded('The offset from the ground', -50, 200, 'm'),
      }),
      z.strictObject({ on: z.literal('level'), levelM: coordinate }),
    ],
    { error: 'A base must be on “ground” or on a “level”.' },
  ),
  storeys: z
    .array(storeySchema, { error: 'The storeys must be a list.' })
    .min(1, { error: 'A mass needs at least one storey.' })
    .max(200, { error: 'A mass may have at most 200 storeys.' }),
  roof: roofSchema,
  openings: listOf(openingSchema, 'openings', 2000).default([]),
  partitions: listOf(partitionSchema, 'partitions', 500).default([]),
  rooms: listOf(roomSchema, 'rooms', 500).default([]),
  furniture: listOf(furnitureSchema, 'pieces of furniture', 500).default([]),
};

/** Only read in Today: the mass stands only until one of the options is built. */
const demolished = yesNo('demolished');

/** Of an option: the body is a shading device, which results, figures and drawings count as one; not when left out. */
const device = yesNo('device').optional();

export const massSchema = z.strictObject({ ...massFields, demolished, device });

/** An imported mesh as it stands in the project. */
const meshFields = {
  id,
  name,
  mesh: sha256,
  triangles: bounded('The triangle count', 1, 2_000_000),
  /** Metres that the mesh is moved by. */
  move: point3,
  /** Anticlockwise turn about the z axis, seen from above. */
  turnDeg: bounded('The turn', -360, 360, 'degrees'),
  /** Share of the light that passes it, as through glass; 0 blocks. */
  openness: bounded('The openness of the mesh', 0, 1).default(0),
  /** Openings in its flat faces. */
  openings: listOf(openingSchema, 'openings', 2000).default([]),
  demolished: demolished.default(false),
};

export const modelSchema = z.strictObject({ ...meshFields, device });

const openness = (label: string) => bounded(label, 0, 1);

const wallSchema = z.strictObject({
  kind: z.literal('wall'),
  id,
  name,
  path: path('The wall'),
  heightM: bounded('The height of the wall', 0.1, 100, 'm'),
  thicknessM: bounded('The thickness of the wall', 0.02, 5, 'm'),
  demolished: demolished.default(false),
});

const fenceSchema = z.strictObject({
  kind: z.literal('fence'),
  id,
  name,
  path: path('The fence'),
  heightM: bounded('The height of the fence', 0.1, 30, 'm'),
  /** Share of the light that passes. */
  openness: openness('The openness of the fence'),
  demolished: demolished.default(false),
});

const treeSchema = z.strictObject({
  kind: z.literal('tree'),
  id,
  name,
  at: point2,
  heightM: bounded('The height of the tree', 0.5, 120, 'm'),
  crownM: bounded('The width of the crown', 0.2, 80, 'm'),
  /** Height of the trunk below the crown. */
  clearM: bounded('The height below the crown', 0, 100, 'm'),
  crown: z.enum(['round', 'cone', 'column'], { error: 'A crown is “round”, “cone” or “column”.' }),
  /** Share of the light that passes the crown in leaf, and bare. */
  leafOpenness: openness('The openness in leaf'),
  bareOpenness: openness('The openness when bare'),
  leafFrom: monthDay,
  leafUntil: monthDay,
  demolished: demolished.default(false),
});

export const neighbourSchema = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({ kind: z.literal('building'), ...massFields, demolished: demolished.default(false) }),
    wallSchema,
    fenceSchema,
    treeSchema,
    z.strictObject({ kind: z.literal('mesh'), ...meshFields }),
  ],
  { error: 'A neighbour is a “building”, “wall”, “fence”, “tree” or “mesh”.' },
);

const OWN = { id: true, name: true, demolished: true } as const;

/**
 * What a neighbour or a mass is besides its name and where it stands: what files that go out say of it, so that it can come
 * back as what it was.
 */
export const thingSchema = z.discriminatedUnion('kind', [
  treeSchema.omit({ ...OWN, at: true }),
  fenceSchema.omit({ ...OWN, path: true }),
  wallSchema.omit({ ...OWN, path: true }),
  z.strictObject({
    kind: z.literal('building'),
    storeys: massFields.storeys,
    roof: roofSchema,
    /** Of the lowest floor above the highest ground under its walls; left out where it starts at a level. */
    offsetM: bounded('The offset from the ground', -50, 200, 'm').optional(),
  }),
]);
export type Thing = z.infer<typeof thingSchema>;

export const optionSchema = z.strictObject({
  id,
  name,
  /** One or two characters that stand for the option everywhere. */
  letter: z.string().min(1, { error: 'An option needs a letter.' }).max(2, {
    error: 'The letter of an option has one or two characters.',
  }),
  /** Index into the palette of option hues and hatches. */
  hue: whole('The hue', 0, 7),
  note,
  masses: z.array(massSchema, { error: 'The masses must be a list.' }).max(MAX_MASSES, {
    error: `An option may have at most ${MAX_MASSES} masses.`,
  }),
  /** Imported meshes that belong to this option. */
  models: listOf(modelSchema, 'models', 200).default([]),
  /** Openings made by rule in the masses of this option. */
  rules: listOf(openingRuleSchema, 'rules', 100).default([]),
  /** Schemes of shading devices, and the one that stands; null: none. */
  schemes: listOf(schemeSchema, 'schemes', 20).default([]),
  scheme: id.nullable().default(null),
});

export type Mass = z.infer<typeof massSchema>;
export type MassShape = Pick<Mass, keyof typeof massFields>;
export type Storey = Mass['storeys'][number];
export type Footprint = Mass['footprint'];
export type Roof = z.infer<typeof roofSchema>;
export type Furniture = z.infer<typeof furnitureSchema>;
export type Neighbour = z.infer<typeof neighbourSchema>;
export type BuildingNeighbour = Extract<Neighbour, { kind: 'building' }>;
export type WallNeighbour = Extract<Neighbour, { kind: 'wall' }>;
export type FenceNeighbour = Extract<Neighbour, { kind: 'fence' }>;
export type TreeNeighbour = Extract<Neighbour, { kind: 'tree' }>;
export type MeshNeighbour = Extract<Neighbour, { kind: 'mesh' }>;
export type Model = z.infer<typeof modelSchema>;
export type Option = z.infer<typeof optionSchema>;
