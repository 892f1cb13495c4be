import {
  budgetProblem,
  changedProject,
  contentHash,
  documentChanges,
  emptyProject,
  InputError,
  meshesFromBytes,
  meshFromBytes,
  meshFromFile,
  meshHash,
  meshToBytes,
  type OutFormat,
  parseProject,
  parseProjectFile,
  picturesFromFile,
  type Project,
  renameMeshes,
  resultFromBytes,
  sensorsCsv,
  summaryJson,
  underlayFacts,
  writeOption,
} from '@dial-shade/core';
import { z } from 'zod';
import { parsed } from '../parsed';
import { type CheckedDocument, checkedDocument } from '../store/documents';
import type { ReadProject } from '../store/restore';
import { KeptDocuments } from './kept-documents';

/** Bytes that a project file may have, on its way in and out. */
export const MAX_FILE_BYTES = 256 * 1048576;

/** Work that may take long on a large or hostile project, each kind with what it needs. */
export type Errand =
  | { kind: 'read-save'; body: Uint8Array; keepAs: string }
  /** Changes of a document that the thread has kept under a token, or that is given as text. */
  | {
      kind: 'read-changes';
      body: Uint8Array;
      keepAs: string;
      base: { revision: number; token: string } | { revision: number; text: string } | null;
    }
  /** What leads from one document that the thread has kept to another. */
  | { kind: 'between'; from: string; to: string }
  | { kind: 'read-sweep'; body: Uint8Array }
  | { kind: 'read-new'; body: Uint8Array; year: number }
  | { kind: 'read-mesh'; body: Uint8Array }
  | { kind: 'read-underlay'; body: Uint8Array }
  /** A project as it stands in a backup. */
  | { kind: 'read-stored'; body: Uint8Array }
  | { kind: 'out'; project: Project; optionId: string; format: OutFormat; meshes: Map<string, Uint8Array> }
  | { kind: 'csv'; result: Uint8Array }
  | { kind: 'summary'; result: Uint8Array };

type ErrandOf<K extends Errand['kind']> = Extract<Errand, { kind: K }>;

interface HashedBytes {
  hash: string;
  bytes: Uint8Array;
}

/** A mesh or picture that a project names. */
type BlobBytes = HashedBytes & { kind: 'mesh' | 'picture' };

/** What an errand gives. */
export interface Fetched {
  'read-save': { revision: number; document: CheckedDocument };
  /** Without a document where the one that it changes is wanted first. */
  'read-changes': { revision: number; document: CheckedDocument | null };
  /** Changes as JSON; null where one of the documents is not kept any more. */
  between: { text: string | null };
  'read-sweep': { text: string };
  'read-new': { document: CheckedDocument; blobs: BlobBytes[] };
  'read-mesh': HashedBytes & { triangles: number };
  'read-underlay': HashedBytes & { widthPx: number; heightPx: number };
  'read-stored': ReadProject;
  out: Uint8Array;
  csv: Uint8Array;
  summary: Uint8Array;
}

/** The largest number that a revision can have: a 32-bit integer of the database. */
const MAX_REVISION = 2 ** 31 - 1;
const saveSchema = z.object({ revision: z.number().int().min(1).max(MAX_REVISION), project: z.unknown() });
const changesSchema = z.object({ revision: z.number().int().min(1).max(MAX_REVISION), changes: z.unknown() });
const newSchema = z.union([
  z.object({ project: z.unknown() }).refine((body) => body.project !== undefined, 'give a project or a name'),
  z.object({ name: z.string().trim().min(1).max(80) }),
]);

/** Does an errand. Throws InputError; `json` and `request` where what was sent is no request at all. */
export async function doErrand(errand: Errand): Promise<Fetched[Errand['kind']]> {
  switch (errand.kind) {
    case 'read-save':
      return readSave(errand);
    case 'read-changes':
      return readChanges(errand);
    case 'between':
      return readBetween(errand);
    case 'read-sweep':
      return readSweep(errand.body);
    case 'read-new':
      return readNew(errand.body, errand.year);
    case 'read-stored':
      return readStored(errand.body);
    case 'read-mesh': {
      const mesh = meshFromBytes(errand.body);
      return { hash: meshHash(mesh), triangles: mesh.triangles.length / 3, bytes: errand.body };
    }
    case 'read-underlay':
      return readUnderlay(errand.body);
    case 'out': {
      const { project, optionId, format } = errand;
      return writeOption(project, optionId, meshesFromBytes(errand.meshes), format);
    }
    case 'csv': {
      const { summary, grid, values } = resultFromBytes(errand.result);
      return encoded(sensorsCsv(summary.kind, grid, values));
    }
    case 'summary':
      return encoded(JSON.stringify(summaryJson(resultFromBytes(errand.result).summary)));
  }
}

const encoded = (text: string): Uint8Array => new TextEncoder().encode(text);

function readJson<T>(body: Uint8Array, schema: z.ZodType<T>): T {
  return parsed(schema, parsedJson(decoded(body)));
}

function decoded(body: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(body);
  } catch {
    throw new InputError('json', 'The request is not text in UTF-8.');
  }
}

function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new InputError('json', 'The request is not valid JSON.');
  }
}

/** What this thread has checked last. */
const documents = new KeptDocuments();

function kept(project: Project, keepAs: string, before?: Project): CheckedDocument {
  const document = checkedDocument(project, before);
  documents.keep(keepAs, project, document.text.length + (document.weather?.length ?? 0));
  return document;
}

function readSave({ body, keepAs }: ErrandOf<'read-save'>): Fetched['read-save'] {
  const { revision, project } = readJson(body, saveSchema);
  return { revision, document: kept(parseProject(project), keepAs) };
}

function readChanges({ body, keepAs, base }: ErrandOf<'read-changes'>): Fetched['read-changes'] {
  const { revision, changes } = readJson(body, changesSchema);
  if (base?.revision !== revision) return { revision, document: null };
  const before = 'text' in base ? (JSON.parse(base.text) as Project) : documents.get(base.token);
  return { revision, document: before && kept(changedProject(before, changes), keepAs, before) };
}

function readBetween({ from, to }: ErrandOf<'between'>): Fetched['between'] {
  const [before, after] = [documents.get(from), documents.get(to)];
  return { text: before && after && JSON.stringify(documentChanges(before, after)) };
}

const sweepSchema = z.record(z.string(), z.unknown(), { error: 'a sweep is an object' });

function readSweep(body: Uint8Array): Fetched['read-sweep'] {
  const text = decoded(body);
  const sweep = parsedJson(text);
  const problem = budgetProblem(sweep);
  if (problem) throw new InputError('sweep', problem);
  parsed(sweepSchema, sweep);
  return { text };
}

const rows = z.array(z.record(z.string(), z.unknown()));
const storedSchema = z.strictObject({
  id: z.string().min(1).max(200),
  revision: z.number().int().min(1).max(MAX_REVISION),
  createdAt: z.string().max(40),
  updatedAt: z.string().max(40),
  sweeps: rows,
  pictures: rows,
  runs: rows,
  project: z.unknown(),
});

function readStored(body: Uint8Array): Fetched['read-stored'] {
  const { project, ...rest } = readJson(body, storedSchema);
  return { ...rest, document: checkedDocument(parseProject(project)) };
}

function readUnderlay(bytes: Uint8Array): Fetched['read-underlay'] {
  const { widthPx, heightPx } = underlayFacts(bytes);
  return { hash: contentHash(bytes), widthPx, heightPx, bytes };
}

function readNew(body: Uint8Array, year: number): Fetched['read-new'] {
  const asked = readJson(body, newSchema);
  if ('name' in asked)
    return { document: checkedDocument(parseProject(emptyProject(asked.name, year))), blobs: [] };
  const { project, meshes, pictures } = parseProjectFile(asked.project);
  const hashes = new Map<string, string>();
  const blobs: BlobBytes[] = [];
  for (const [name, file] of Object.entries(meshes)) {
    const mesh = meshFromFile(file);
    const hash = meshHash(mesh);
    hashes.set(name, hash);
    blobs.push({ kind: 'mesh', hash, bytes: meshToBytes(mesh) });
  }
  for (const [hash, bytes] of picturesFromFile(project, pictures))
    blobs.push({ kind: 'picture', hash, bytes });
  return { document: checkedDocument(renameMeshes(project, hashes)), blobs };
}
