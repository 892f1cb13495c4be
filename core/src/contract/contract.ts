import { z } from 'zod';
import type { Project } from '../project';

/** What server and page say to each other. The server answers by it, the page reads by it, the tests check by it. */

const timestamp = z.iso.datetime();
const count = z.number().int().min(0);

/** A project as it stands in the list of all. */
export const projectLineSchema = z.strictObject({
  id: z.string(),
  name: z.string(),
  place: z.string(),
  options: count,
  revision: count,
  updatedAt: timestamp,
  /** What it takes with its pictures, sweeps, results and meshes. */
  bytes: count,
});

/** What everything that is kept takes, and may take, bytes. */
export const storageSchema = z.strictObject({
  bytes: count,
  limitBytes: count,
  /** Free on the disk. */
  freeBytes: count,
  isNearlyFull: z.boolean(),
  kinds: z.strictObject({
    documents: count,
    meshes: count,
    pictures: count,
    /** Runs with their results. */
    runs: count,
    sweeps: count,
    /** What was traced, kept to be weighed again; the oldest go by themselves. */
    masks: count,
  }),
});
export type Storage = z.infer<typeof storageSchema>;

/** How the list of all is ordered: touched last first, or by name or place. */
export const PROJECT_ORDERS = ['changed', 'name', 'place'] as const;
export type ProjectOrder = (typeof PROJECT_ORDERS)[number];

/** A project with the revision that a save names. The document is checked by its own schema. */
export const storedProjectSchema = z.strictObject({
  id: z.string(),
  revision: count,
  project: z.custom<Project>((value) => typeof value === 'object' && value !== null),
});

/** What a save is answered with. */
export const savedSchema = z.strictObject({ id: z.string(), revision: count });

const signatureSchema = z.record(z.string(), z.strictObject({ name: z.string(), hash: z.string() }));

/** A run of a study as it is shown. */
export const runSchema = z.strictObject({
  id: z.string(),
  projectId: z.string(),
  studyId: z.string(),
  optionId: z.string(),
  /** Of the project, when it was asked for. */
  revision: count,
  status: z.enum(['queued', 'running', 'done', 'stopped', 'failed']),
  signature: signatureSchema,
  sensors: count,
  sensorsDone: count,
  rays: z.number().min(0),
  seconds: z.number().nullable(),
  message: z.string().nullable(),
  hasResult: z.boolean(),
  createdAt: timestamp,
  finishedAt: timestamp.nullable(),
});

/** What is told of a run as it goes on: without its signature, which is too long to be told. */
export const runNewsSchema = z.strictObject({
  projectId: z.string(),
  kind: z.literal('run'),
  run: runSchema.omit({ signature: true }),
});

/** A picture of the gallery of a project. */
export const pictureSchema = z.strictObject({
  id: z.string(),
  projectId: z.string(),
  /** Of its file, without the ending. */
  name: z.string(),
  optionId: z.string(),
  viewpoint: z.string(),
  /** The moment on the clock of the site. */
  date: z.string(),
  minutes: z.number(),
  width: count,
  height: count,
  bytes: count,
  hasThumb: z.boolean(),
  createdAt: timestamp,
});

/** An answer that is not a success: a stable code and a sentence; faults of a document, or what stands now instead. */
export const errorSchema = z.strictObject({
  code: z.string().regex(/^[a-z-]+$/),
  message: z.string().min(1),
  problems: z.array(z.string()).optional(),
  revision: count.optional(),
  project: storedProjectSchema.shape.project.optional(),
});

export type ProjectLine = z.infer<typeof projectLineSchema>;
export type StoredProject = z.infer<typeof storedProjectSchema>;
export type RunLine = z.infer<typeof runSchema>;
export type PictureLine = z.infer<typeof pictureSchema>;
