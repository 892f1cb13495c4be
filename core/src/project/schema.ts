import { z } from 'zod';
import { isDate, isZone } from '../civil/zone';
import { type Point2, ringProblem } from '../geometry/ring';

/** Furthest a coordinate may lie from the project origin, metres. */
export const MAX_COORDINATE_M = 100_000;

/** A number within bounds whose message names the thing, the value and the bounds. */
function bounded(label: string, min: number, max: number, unit = '') {
  const range = `${String(min).replace('-', '−')} to ${max}${unit && ` ${unit}`}`;
  const say = (issue: { input?: unknown }) =>
    typeof issue.input === 'number' && Number.isFinite(issue.input)
      ? `${label} ${issue.input}${unit && ` ${unit}`} is outside ${range}.`
      : `${label} must be a number from ${range}.`;
  return z.number({ error: say }).min(min, { error: say }).max(max, { error: say });
}

const id = z
  .string({ error: 'An id must be text.' })
  .regex(/^[a-zA-Z0-9_-]{1,64}$/, { error: 'An id is 1 to 64 letters, digits, - or _.' });

const name = z
  .string({ error: 'A name must be text.' })
  .trim()
  .min(1, { error: 'A name must not be empty.' })
  .max(80, { error: 'A name may have at most 80 characters.' });

const note = z
  .string({ error: 'A note must be text.' })
  .max(4000, { error: 'A note may have at most 4000 characters.' })
  .default('');

const coordinate = bounded('The coordinate', -MAX_COORDINATE_M, MAX_COORDINATE_M, 'm');
const point2 = z.tuple([coordinate, coordinate], {
  error: 'A point must be two numbers, x and y in metres.',
});
const point3 = z.tuple([coordinate, coordinate, coordinate], {
  error: 'A point in space must be three numbers, x, y and z in metres.',
});

const ring = (label: string) =>
  z
    .array(point2, { error: `${label} must be a list of points.` })
    .max(2000, { error: `${label} has more than 2000 corners; simplify it.` })
    .superRefine((points, context) => {
      const problem = ringProblem(points as Point2[]);
      if (problem) context.addIssue({ code: 'custom', message: `${label} ${problem}.` });
    });

const placeSchema = z.object({
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
  confirmed: z.boolean({ error: 'confirmed must be true or false.' }),
});

const groundSchema = z.discriminatedUnion(
  'kind',
  [
    z.object({ kind: z.literal('level'), levelM: coordinate }),
    z.object({
      kind: z.literal('plane'),
      /** Level at the project origin. */
      levelM: coordinate,
      slopeDeg: bounded('The slope of the ground', 0, 60, 'degrees'),
      /** Bearing towards which the ground falls, clockwise from drawing north. */
      fallsTowardsDeg: bounded('The bearing of the fall', 0, 360, 'degrees'),
    }),
  ],
  { error: 'The ground must be of kind “level” or “plane”.' },
);

const siteSchema = z.object({
  place: placeSchema,
  north: z.object({
    /** Clockwise from drawing north (+y) to true north. */
    trueNorthDeg: bounded('True north', -180, 360, 'degrees'),
    confirmed: z.boolean({ error: 'confirmed must be true or false.' }),
  }),
  year: bounded('The year', 1900, 2100).refine(Number.isInteger, {
    error: 'The year must be a whole number.',
  }),
  boundary: ring('The site boundary').nullable(),
  ground: groundSchema,
});

const roofSchema = z.discriminatedUnion(
  'kind',
  [
    z.object({ kind: z.literal('flat'), parapetM: bounded('The parapet', 0, 10, 'm') }),
    /** Two slopes on a four-cornered footprint, the ridge along its longer side. */
    z.object({ kind: z.literal('gable'), riseM: bounded('The rise of the roof', 0.01, 100, 'm') }),
    /** Slopes from every eave to one point over the middle of the footprint. */
    z.object({ kind: z.literal('pyramid'), riseM: bounded('The rise of the roof', 0.01, 100, 'm') }),
  ],
  { error: 'A roof must be of kind “flat”, “gable” or “pyramid”.' },
);

const massFields = {
  id,
  name,
  footprint: z.object({
    outer: ring('The footprint'),
    holes: z.array(ring('The court'), { error: 'The courts must be a list.' }).max(50, {
      error: 'A footprint may have at most 50 courts.',
    }),
  }),
  /** `ground`: sits on the ground, raised by offsetM; `level`: starts at an absolute level, as a cantilever does. */
  base: z.discriminatedUnion(
    'on',
    [
      z.object({ on: z.literal('ground'), offsetM: bounded('The offset from the ground', -50, 200, 'm') }),
      z.object({ on: z.literal('level'), levelM: coordinate }),
    ],
    { error: 'A base must be on “ground” or on a “level”.' },
  ),
  storeys: z
    .array(z.object({ heightM: bounded('The storey height', 0.1, 100, 'm') }), {
      error: 'The storeys must be a list.',
    })
    .min(1, { error: 'A mass needs at least one storey.' })
    .max(200, { error: 'A mass may have at most 200 storeys.' }),
  roof: roofSchema,
};

interface Roofed {
  footprint: { outer: unknown[]; holes: unknown[] };
  roof: { kind: string };
}

/** A roof that the footprint cannot carry. */
function checkRoof(mass: Roofed, context: z.RefinementCtx): void {
  const { outer, holes } = mass.footprint;
  if (mass.roof.kind === 'gable' && (outer.length !== 4 || holes.length > 0))
    context.addIssue({
      code: 'custom',
      message: 'A gable roof needs a footprint of four corners without courts.',
    });
  if (mass.roof.kind === 'pyramid' && holes.length > 0)
    context.addIssue({
      code: 'custom',
      message: 'A pyramid roof cannot stand over a footprint with courts.',
    });
}

const massSchema = z
  .object({
    ...massFields,
    /** Only read in Today: the mass stands only until one of the options is built. */
    demolished: z.boolean({ error: 'demolished must be true or false.' }),
  })
  .superRefine(checkRoof);

const sha256 = z
  .string()
  .regex(/^[0-9a-f]{64}$/, { error: 'A mesh is named by its SHA-256 in hexadecimal.' });

const neighbourSchema = z.discriminatedUnion(
  'kind',
  [
    z.object({ kind: z.literal('building'), ...massFields }).superRefine(checkRoof),
    z.object({
      kind: z.literal('mesh'),
      id,
      name,
      mesh: sha256,
      triangles: bounded('The triangle count', 1, 2_000_000),
      /** Metres that the mesh is moved by. */
      move: point3,
      /** Anticlockwise turn about the z axis, seen from above. */
      turnDeg: bounded('The turn', -360, 360, 'degrees'),
    }),
  ],
  { error: 'A neighbour must be of kind “building” or “mesh”.' },
);

const optionSchema = z.object({
  id,
  name,
  /** One or two characters that stand for the option everywhere. */
  letter: z.string().min(1, { error: 'An option needs a letter.' }).max(2, {
    error: 'The letter of an option has one or two characters.',
  }),
  /** Index into the palette of option hues and hatches. */
  hue: bounded('The hue', 0, 7).refine(Number.isInteger, { error: 'The hue must be a whole number.' }),
  note,
  masses: z.array(massSchema, { error: 'The masses must be a list.' }).max(500, {
    error: 'An option may have at most 500 masses.',
  }),
});

const targetSchema = z.object({
  id,
  name,
  kind: z.literal('ground', { error: 'A target must be of kind “ground”.' }),
  outline: ring('The target'),
  spacingM: bounded('The grid spacing', 0.05, 50, 'm'),
  offsetM: bounded('The offset', 0.001, 20, 'm'),
});

const date = z.string({ error: 'A date must be text.' }).refine(isDate, {
  error: (issue) => `“${String(issue.input)}” is not a date; write it as YYYY-MM-DD, for example 2026-03-21.`,
});

const windowSchema = z
  .object({
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

const studySchema = z.object({
  id,
  name,
  kind: z.literal('sun-hours', { error: 'A study must be of kind “sun-hours”.' }),
  targets: z.array(id, { error: 'The targets must be a list of ids.' }).max(50),
  window: windowSchema,
  stepMinutes: bounded('The step', 1, 60, 'minutes').refine(Number.isInteger, {
    error: 'The step must be a whole number of minutes.',
  }),
  criterion: z.object({
    /** Hours a point must have. */
    atLeastH: bounded('The threshold', 0, 9000, 'h'),
    /** Share of the area, 0 to 1, that must have them. */
    share: bounded('The share of the area', 0, 1),
    /** Where the criterion comes from. */
    source: z.string().max(400, { error: 'The source may have at most 400 characters.' }),
  }),
  /** Colour scale in hours, kept the same for every option, or null to fit each result. */
  scale: z.object({ minH: bounded('The scale', 0, 9000), maxH: bounded('The scale', 0, 9000) }).nullable(),
});

const probeSchema = z.object({
  id,
  number: bounded('The probe number', 1, 9999),
  at: point3,
  normal: point3,
});

const viewpointSchema = z.object({
  id,
  name,
  projection: z.enum(['perspective', 'parallel'], { error: 'A projection is “perspective” or “parallel”.' }),
  eye: point3,
  lookAt: point3,
  /** Height of what a parallel view shows, metres. */
  heightM: bounded('The height of the view', 0.1, 200_000, 'm'),
});

/** Version 1 of the project document. */
export const projectSchema = z
  .object({
    format: z.literal('dial-shade-project', { error: 'This is not a Dial Shade project file.' }),
    version: z.literal(1, { error: 'The version of the project file is not known.' }),
    name,
    note,
    units: z.enum(['metric', 'imperial'], { error: 'Units are “metric” or “imperial”.' }),
    site: siteSchema,
    neighbours: z.array(neighbourSchema, { error: 'The neighbours must be a list.' }).max(5000, {
      error: 'A project may have at most 5000 neighbours.',
    }),
    options: z
      .array(optionSchema, { error: 'The options must be a list.' })
      .min(1, { error: 'A project needs at least the option “today”.' })
      .max(20, { error: 'A project may have at most 20 options.' }),
    targets: z.array(targetSchema, { error: 'The targets must be a list.' }).max(200),
    studies: z.array(studySchema, { error: 'The studies must be a list.' }).max(200),
    probes: z.array(probeSchema, { error: 'The probes must be a list.' }).max(500),
    viewpoints: z.array(viewpointSchema, { error: 'The viewpoints must be a list.' }).max(200),
  })
  .superRefine((project, context) => {
    if (!project.options.some((option) => option.id === TODAY))
      context.addIssue({ code: 'custom', path: ['options'], message: 'The option “today” is missing.' });
    for (const key of ['neighbours', 'options', 'targets', 'studies', 'probes', 'viewpoints'] as const) {
      const seen = new Set<string>();
      project[key].forEach((item, i) => {
        if (seen.has(item.id))
          context.addIssue({ code: 'custom', path: [key, i], message: `The id “${item.id}” is used twice.` });
        seen.add(item.id);
      });
    }
    const targets = new Set(project.targets.map((target) => target.id));
    project.studies.forEach((study, i) => {
      for (const wanted of study.targets)
        if (!targets.has(wanted))
          context.addIssue({
            code: 'custom',
            path: ['studies', i],
            message: `The target “${wanted}” does not exist.`,
          });
    });
  });

/** Id of the option that is the site as it stands. */
export const TODAY = 'today';

/** A mesh as it stands in a project file: flat lists, metres, project frame before `move` and `turnDeg`. */
export const fileMeshSchema = z.object({
  positions: z.array(coordinate).max(6_000_000),
  triangles: z.array(z.number().int().min(0)).max(6_000_000),
});

/** A project file: the document and, under their content hash, the meshes that it names. */
export const projectFileSchema = z.intersection(
  projectSchema,
  z.object({ meshes: z.record(sha256, fileMeshSchema).optional() }),
);

export type Project = z.infer<typeof projectSchema>;
export type Site = Project['site'];
export type Place = Site['place'];
export type Ground = Site['ground'];
export type Mass = z.infer<typeof massSchema>;
export type MassShape = Pick<Mass, keyof typeof massFields>;
export type Roof = z.infer<typeof roofSchema>;
export type Neighbour = z.infer<typeof neighbourSchema>;
export type MeshNeighbour = Extract<Neighbour, { kind: 'mesh' }>;
export type Option = z.infer<typeof optionSchema>;
export type Target = z.infer<typeof targetSchema>;
export type Study = z.infer<typeof studySchema>;
export type WindowOfTime = z.infer<typeof windowSchema>;
export type Probe = z.infer<typeof probeSchema>;
export type Viewpoint = z.infer<typeof viewpointSchema>;
export type FileMesh = z.infer<typeof fileMeshSchema>;
