import { z } from 'zod';
import { neighbourSchema, optionSchema } from './schema/form-schema';
import { glazingSchema, openingRuleSchema } from './schema/opening-schema';
import { coordinate, listOf, name, note, sha256 } from './schema/parts';
import { areaSchema, siteSchema } from './schema/site-schema';
import { probeSchema, studySchema, targetSchema, viewpointSchema } from './schema/study-schema';

export { MAX_COORDINATE_M } from './schema/parts';
export * from './schema/form-schema';
export * from './schema/opening-schema';
export * from './schema/site-schema';
export * from './schema/study-schema';

/** Id of the option that is the site as it stands. */
export const TODAY = 'today';

type Check = z.RefinementCtx;
type Identified = { id: string };

function refuseTwins(items: readonly Identified[], path: (string | number)[], context: Check): void {
  const seen = new Set<string>();
  items.forEach((item, i) => {
    if (seen.has(item.id))
      context.addIssue({
        code: 'custom',
        path: [...path, i],
        message: `The id “${item.id}” is used twice.`,
      });
    seen.add(item.id);
  });
}

/** Version 2 of the project document. */
export const projectSchema = z
  .object({
    format: z.literal('dial-shade-project', { error: 'This is not a Dial Shade project file.' }),
    version: z.literal(2, { error: 'The version of the project file is not known.' }),
    name,
    note,
    units: z.enum(['metric', 'imperial'], { error: 'Units are “metric” or “imperial”.' }),
    site: siteSchema,
    neighbours: z.array(neighbourSchema, { error: 'The neighbours must be a list.' }).max(5000, {
      error: 'A project may have at most 5000 neighbours.',
    }),
    /** Openings made by rule in the neighbours' buildings. */
    neighbourRules: listOf(openingRuleSchema, 'rules for neighbours', 100),
    glazings: listOf(glazingSchema, 'glazing types', 50),
    areas: listOf(areaSchema, 'areas', 200),
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
    const say = (path: (string | number)[], message: string) =>
      context.addIssue({ code: 'custom', path, message });
    if (!project.options.some((option) => option.id === TODAY))
      say(['options'], 'The option “today” is missing.');
    const lists = ['neighbours', 'glazings', 'areas', 'options', 'targets', 'studies'] as const;
    for (const key of [...lists, 'probes', 'viewpoints', 'neighbourRules'] as const)
      refuseTwins(project[key], [key], context);
    project.options.forEach((option, i) => {
      refuseTwins(option.masses, ['options', i, 'masses'], context);
      refuseTwins(option.rules, ['options', i, 'rules'], context);
    });
    const targets = new Set(project.targets.map((target) => target.id));
    project.studies.forEach((study, i) => {
      for (const wanted of study.targets)
        if (!targets.has(wanted)) say(['studies', i], `The target “${wanted}” does not exist.`);
    });
    const glazings = new Set(project.glazings.map((glazing) => glazing.id));
    const needGlazing = (wanted: string | null, path: (string | number)[]) => {
      if (wanted !== null && !glazings.has(wanted)) say(path, `The glazing “${wanted}” does not exist.`);
    };
    const checkOpenings = (
      shape: { openings: { id: string; glazing: string | null }[] },
      at: (string | number)[],
    ) => {
      refuseTwins(shape.openings, [...at, 'openings'], context);
      shape.openings.forEach((opening, k) => needGlazing(opening.glazing, [...at, 'openings', k]));
    };
    project.neighbourRules.forEach((rule, i) => needGlazing(rule.glazing, ['neighbourRules', i]));
    project.neighbours.forEach((neighbour, i) => {
      if ('openings' in neighbour) checkOpenings(neighbour, ['neighbours', i]);
    });
    project.options.forEach((option, i) => {
      option.rules.forEach((rule, k) => needGlazing(rule.glazing, ['options', i, 'rules', k]));
      option.masses.forEach((mass, k) => checkOpenings(mass, ['options', i, 'masses', k]));
      option.models.forEach((model, k) => checkOpenings(model, ['options', i, 'models', k]));
    });
  });

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
export type FileMesh = z.infer<typeof fileMeshSchema>;
