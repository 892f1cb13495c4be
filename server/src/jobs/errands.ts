import {
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
  type Project,
  renameMeshes,
  resultFromBytes,
  sensorsCsv,
  summaryJson,
  writeOption,
} from '@dial-shade/core';
import { z } from 'zod';
import { parsed } from '../parsed';

/** Bytes that a project file may have, on its way in and out. */
export const MAX_FILE_BYTES = 256 * 1048576;

/** Work that may take long on a large or hostile project, each kind with what it needs. */
export type Errand =
  | { kind: 'read-save'; body: Uint8Array }
  | { kind: 'read-new'; body: Uint8Array; year: number }
  | { kind: 'read-mesh'; body: Uint8Array }
  | { kind: 'out'; project: Project; optionId: string; format: OutFormat; meshes: Map<string, Uint8Array> }
  | { kind: 'csv'; result: Uint8Array }
  | { kind: 'summary'; result: Uint8Array };

export interface MeshBytes {
  hash: string;
  bytes: Uint8Array;
}

/** What an errand gives. */
export interface Fetched {
  'read-save': { revision: number; text: string };
  'read-new': { text: string; meshes: MeshBytes[] };
  'read-mesh': MeshBytes & { triangles: number };
  out: Uint8Array;
  csv: Uint8Array;
  summary: Uint8Array;
}

/** The largest number that a revision can have: a 32-bit integer of the database. */
const MAX_REVISION = 2 ** 31 - 1;
const saveSchema = z.object({ revision: z.number().int().min(1).max(MAX_REVISION), project: z.unknown() });
const newSchema = z.union([
  z.object({ project: z.unknown() }).refine((body) => body.project !== undefined, 'give a project or a name'),
  z.object({ name: z.string().trim().min(1).max(80) }),
]);

/** Does an errand. Throws InputError; `json` and `request` where what was sent is no request at all. */
export async function doErrand(errand: Errand): Promise<Fetched[Errand['kind']]> {
  switch (errand.kind) {
    case 'read-save':
      return readSave(errand.body);
    case 'read-new':
      return readNew(errand.body, errand.year);
    case 'read-mesh': {
      const mesh = meshFromBytes(errand.body);
      return { hash: meshHash(mesh), triangles: mesh.triangles.length / 3, bytes: errand.body };
    }
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
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(body));
  } catch {
    throw new InputError('json', 'The request is not valid JSON.');
  }
  return parsed(schema, raw);
}

function readSave(body: Uint8Array): Fetched['read-save'] {
  const { revision, project } = readJson(body, saveSchema);
  return { revision, text: JSON.stringify(parseProject(project)) };
}

function readNew(body: Uint8Array, year: number): Fetched['read-new'] {
  const asked = readJson(body, newSchema);
  if ('name' in asked)
    return { text: JSON.stringify(parseProject(emptyProject(asked.name, year))), meshes: [] };
  const { project, meshes } = parseProjectFile(asked.project);
  const hashes = new Map<string, string>();
  const bytes: MeshBytes[] = [];
  for (const [name, file] of Object.entries(meshes)) {
    const mesh = meshFromFile(file);
    const hash = meshHash(mesh);
    hashes.set(name, hash);
    bytes.push({ hash, bytes: meshToBytes(mesh) });
  }
  return { text: JSON.stringify(renameMeshes(project, hashes)), meshes: bytes };
}
