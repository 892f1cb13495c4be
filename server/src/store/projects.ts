import {
  contentHash,
  InputError,
  meshesNamed,
  parseProject,
  picturesNamed,
  type Project,
  projectJsonSchema,
  type ProjectLine,
  type ProjectOrder,
  type StoredProject,
} from '@dial-shade/core';
import { randomUUID } from 'node:crypto';
import { getBlob, PICTURE_KINDS } from './blobs';
import type { Database } from './database';
import { type CheckedDocument, checkedDocument, wholeText } from './documents';
import { PROJECT_BYTES, PROJECT_LIMITS } from './storage';

/** A part of the list of all projects. */
export interface ProjectsAsked {
  limit: number;
  offset: number;
  /** Words that must all stand in the name or the place, whatever their case; all projects when empty. */
  search: string;
  order: ProjectOrder;
}

const ORDERS: Record<ProjectOrder, string> = {
  changed: 'updated_at DESC, id',
  name: 'lower(name), id',
  place: 'lower(place), lower(name), id',
};

/** Some projects as a list shows them; no document is unpacked for it. */
export async function listProjects(db: Database, asked: ProjectsAsked): Promise<ProjectLine[]> {
  const words = asked.search.split(/\s+/).filter((word) => word !== '');
  const { rows } = await db.query(
    `SELECT id, revision, name, place, options, updated_at AS "updatedAt", ${PROJECT_BYTES} AS bytes FROM
       (SELECT * FROM projects
        WHERE name || ' ' || place ILIKE ALL ($3::text[]) ORDER BY ${ORDERS[asked.order]} LIMIT $1 OFFSET $2) p
     ORDER BY ${ORDERS[asked.order]}`,
    [asked.limit, asked.offset, words.map((word) => `%${word.replaceAll(/[\\%_]/g, String.raw`\$&`)}%`)],
  );
  return rows;
}

/**
 * A project whose document is JSON text, sound and whole by the schema of this program: what only passes through is never
 * parsed, and whoever gets it need not check it.
 */
export interface ProjectText {
  id: string;
  revision: number;
  text: string;
}

/** The columns that hold a document, beside its weather, in the order of `valuesOf`. */
const COLUMNS = 'document, name, place, options, blobs, checked_by';
const valuesOf = ({ text, name, place, options, blobs }: CheckedDocument) => [
  text,
  name,
  place,
  options,
  blobs,
  ownSchema(),
];
/** What an update sets, with `id` and `revision` before it; weather that is the same is not written again. */
const SET = `(${COLUMNS}) = ($3, $4, $5, $6, $7, $8)`;
const setting = (document: CheckedDocument) =>
  document.weather === undefined
    ? { set: SET, values: valuesOf(document) }
    : { set: `${SET}, weather = $9`, values: [...valuesOf(document), document.weather] };

let schema: string | undefined;

/** What documents are checked by, as a hash. */
const ownSchema = () => (schema ??= contentHash(projectJsonSchema()));

/**
 * The project as text, or null when there is none of this id. One that an earlier program stored is brought to this one's
 * version and made whole, once. Throws InputError `project` when it cannot be.
 */
export async function findProjectText(db: Database, id: string): Promise<ProjectText | null> {
  const { rows } = await db.query<ProjectText & { weather: string | null; checkedBy: string | null }>(
    `SELECT id, revision, document AS text, weather, checked_by AS "checkedBy" FROM projects WHERE id = $1`,
    [id],
  );
  if (!rows[0]) return null;
  const { checkedBy, weather, ...stored } = rows[0];
  const found = { ...stored, text: wholeText(stored.text, weather) };
  if (checkedBy === ownSchema()) return found;
  const project = parseProject(JSON.parse(found.text));
  const { set, values } = setting(checkedDocument(project));
  await db.query(`UPDATE projects SET ${set} WHERE id = $1 AND revision = $2`, [
    id,
    found.revision,
    ...values,
  ]);
  return { ...found, text: JSON.stringify(project) };
}

/** The newest revision of a project; null when there is none of this id. */
export async function newestRevision(db: Database, id: string): Promise<number | null> {
  const { rows } = await db.query<{ revision: number }>('SELECT revision FROM projects WHERE id = $1', [id]);
  return rows[0]?.revision ?? null;
}

/** The project, whole, or null when there is none of this id. */
export async function findProject(db: Database, id: string): Promise<StoredProject | null> {
  const found = await findProjectText(db, id);
  return found && { id, revision: found.revision, project: JSON.parse(found.text) as Project };
}

/** Whether there is a project of this id. */
export async function hasProject(db: Database, id: string): Promise<boolean> {
  return (await db.query('SELECT 1 FROM projects WHERE id = $1', [id])).rowCount === 1;
}

/** Enters a new project; nothing happens when the id is taken. */
export async function insertProject(
  db: Pick<Database, 'query'>,
  document: CheckedDocument,
  id: string,
): Promise<void> {
  await db.query(
    `INSERT INTO projects (id, ${COLUMNS}, weather) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
     ON CONFLICT (id) DO NOTHING`,
    [id, ...valuesOf(document), document.weather ?? null],
  );
}

/** Stores a new project under a given or a new id; nothing happens when the id is taken. */
export async function createProject(
  db: Database,
  document: CheckedDocument,
  id: string = randomUUID(),
): Promise<ProjectText> {
  await insertProject(db, document, id);
  return (await findProjectText(db, id))!;
}

/** Saves a document over the named revision and gives the new one; null when that is no longer the newest, or the project is gone. */
export async function saveProject(
  db: Database,
  id: string,
  revision: number,
  document: CheckedDocument,
): Promise<number | null> {
  const { set, values } = setting(document);
  const { rows } = await db.query<{ revision: number }>(
    `UPDATE projects SET ${set}, revision = revision + 1, updated_at = now()
     WHERE id = $1 AND revision = $2 RETURNING revision`,
    [id, revision, ...values],
  );
  return rows[0]?.revision ?? null;
}

/** Whether there was a project to delete. Its runs go with it. */
export async function deleteProject(db: Database, id: string): Promise<boolean> {
  const { rowCount } = await db.query('DELETE FROM projects WHERE id = $1', [id]);
  return rowCount === 1;
}

/** The bytes of the meshes that a project names, by hash. Throws InputError `mesh` when one is missing. */
export async function projectMeshBytes(db: Database, project: Project): Promise<Map<string, Buffer>> {
  const meshes = new Map<string, Buffer>();
  for (const [hash, name] of meshesNamed(project)) {
    const bytes = await getBlob(db, hash, 'mesh');
    if (!bytes) throw new InputError('mesh', `The mesh of “${name}” is missing; bring its file in again.`);
    meshes.set(hash, bytes);
  }
  return meshes;
}

/** Refuses more meshes and pictures than a project may have. Throws InputError `too-large`. */
export async function refuseTooManyBlobs(db: Database, hashes: readonly string[]): Promise<void> {
  if (hashes.length === 0) return;
  const { rows } = await db.query<{ bytes: number }>(
    'SELECT coalesce(sum(octet_length(bytes)), 0)::float8 AS bytes FROM blobs WHERE hash = ANY($1)',
    [hashes],
  );
  const megabytes = (bytes: number) => Math.ceil(bytes / 1_048_576).toLocaleString('en');
  const { bytes } = rows[0]!;
  if (bytes > PROJECT_LIMITS.blobs)
    throw new InputError(
      'too-large',
      `The meshes and the pictures on the ground of the project take ${megabytes(bytes)} MB together, and ${megabytes(PROJECT_LIMITS.blobs)} MB is the most; take out the largest.`,
    );
}

/** Bytes that a project names by their hash, and how many. */
export interface NamedBlob {
  hash: string;
  kind: 'mesh' | 'picture';
  bytes: number;
}

/** How large the meshes and pictures are that a project names. Throws InputError `mesh` or `picture` when one is missing. */
export async function namedBlobs(db: Database, project: Project): Promise<NamedBlob[]> {
  const named = [
    ...[...meshesNamed(project)].map(([hash, name]) => ({ hash, name, kind: 'mesh' as const })),
    ...[...picturesNamed(project)].map(([hash, name]) => ({ hash, name, kind: 'picture' as const })),
  ];
  const { rows } = await db.query<{ hash: string; bytes: number }>(
    'SELECT hash, octet_length(bytes) AS bytes FROM blobs WHERE hash = ANY($1) AND kind = ANY($2)',
    [named.map(({ hash }) => hash), ['mesh', ...PICTURE_KINDS]],
  );
  const found = new Map(rows.map(({ hash, bytes }) => [hash, bytes]));
  return named.map(({ hash, name, kind }) => {
    const bytes = found.get(hash);
    if (bytes === undefined)
      throw new InputError(kind, `The ${kind} of “${name}” is missing; bring its file in again.`);
    return { hash, kind, bytes };
  });
}
