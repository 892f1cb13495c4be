import { NO_COMPARISON } from './comparison';
import { MAX_NEIGHBOURS, MAX_UNDERLAY_BYTES, MAX_UNDERLAYS } from './constants';
import { comparisonSchema } from './schema/comparison-schema';
import { criteriaSetSchema } from './schema/criteria-schema';
import { neighbourSchema, optionSchema } from './schema/form-schema';
import { glazingSchema, openingRuleSchema } from './schema/opening-schema';
import { coordinate, listOf, name, note, sha256 } from './schema/parts';
import { envelopeSchema } from './schema/envelope-schema';
import { hourSetSchema } from './schema/hour-set-schema';
import { sourceSchema } from './schema/source-schema';
import { areaSchema, siteSchema } from './schema/site-schema';
import { underlaySchema } from './schema/underlay-schema';
import { probeSchema, studySchema, targetSchema } from './schema/study-schema';
import { momentSetSchema, viewpointSchema } from './schema/view-schema';
import { CURRENT_VERSION } from './versions';
import { z } from 'zod';
export * from './schema/criteria-schema';
export * from './schema/device-schema';
export * from './schema/form-schema';
export * from './schema/opening-schema';
export * from './schema/site-schema';
export * from './schema/study-schema';
export * from './schema/underlay-schema';
export * from './schema/view-schema';

/** The project document: its structure. Whether what it says can be built is for `problems` to tell. */
export const projectSchema = z.strictObject({
  format: z.literal('dial-shade-project', { error: 'This is not a Dial Shade project file.' }),
  version: z.literal(CURRENT_VERSION, { error: 'The version of the project file is not known.' }),
  name,
  note,
  units: z.enum(['metric', 'imperial'], { error: 'Units are “metric” or “imperial”.' }),
  site: siteSchema,
  neighbours: z.array(neighbourSchema, { error: 'The neighbours must be a list.' }).max(MAX_NEIGHBOURS, {
    error: `A project may have at most ${MAX_NEIGHBOURS} neighbours.`,
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
  criteria: listOf(criteriaSetSchema, 'sets of criteria', 20),
  studies: z.array(studySchema, { error: 'The studies must be a list.' }).max(200),
  probes: z.array(probeSchema, { error: 'The probes must be a list.' }).max(500),
  viewpoints: z.array(viewpointSchema, { error: 'The viewpoints must be a list.' }).max(200),
  momentSets: listOf(momentSetSchema, 'moment sets', 200),
  /** Hours in which sun is wanted, or not. */
  hourSets: listOf(hourSetSchema, 'sets of hours', 50),
  /** How tall may be built without taking sun that is to be kept. */
  envelopes: listOf(envelopeSchema, 'envelopes', 50).default([]),
  /** Files that were brought in. */
  sources: listOf(sourceSchema, 'files brought in', 50).default([]),
  /** Pictures on the ground. */
  underlays: listOf(underlaySchema, 'pictures on the ground', MAX_UNDERLAYS).default([]),
  /** What the options are compared by. */
  comparison: comparisonSchema.default(NO_COMPARISON),
});

/** Letters that the bytes of a picture may have as base64. */
const MAX_PICTURE_TEXT = (Math.ceil(MAX_UNDERLAY_BYTES / 3) + 1) * 4;

/**
 * A mesh as it stands in a project file, metres, project frame before `move` and `turnDeg`: flat lists, or, of a large one,
 * its bytes (see meshToBytes) as base64.
 */
export const fileMeshSchema = z.union([
  z.strictObject({
    positions: z.array(coordinate).max(6_000_000),
    triangles: z.array(z.number().int().min(0)).max(6_000_000),
  }),
  z.strictObject({ bytes: z.string().max(230_000_000) }),
]);

/**
 * A project file: the document and, under their content hash, the meshes that it names and the pictures of its underlays, their
 * bytes as base64.
 */
export const projectFileSchema = projectSchema.extend({
  meshes: z.record(sha256, fileMeshSchema).optional(),
  pictures: z.record(sha256, z.string().max(MAX_PICTURE_TEXT)).optional(),
});

export type Project = z.infer<typeof projectSchema>;
export type FileMesh = z.infer<typeof fileMeshSchema>;
