import {
  InputError,
  meshesNamed,
  migrate,
  meshToBytes,
  meshToFile,
  meshFromBytes,
  meshHash,
  type Mesh,
  type Project,
  type ProjectLine,
  type StoredProject,
} from '@dial-shade/core';
import { randomUUID } from 'node:crypto';
import type { Database } from './database';

/** All projects, the one touched last first. */
export async function listProjects(db: Database): Promise<ProjectLine[]> {
  const { rows } = await db.query(`
    SELECT id, revision, document ->> 'name' AS name, document #>> '{site,place,name}' AS place,
           jsonb_array_length(document -> 'options') AS options, updated_at AS "updatedAt"
    FROM projects ORDER BY updated_at DESC`);
  return rows;
}

/** The project in the current version, or null when there is none of this id. */
export async function findProject(db: Database, id: string): Promise<StoredProject | null> {
  const { rows } = await db.query('SELECT id, revision, document AS project FROM projects WHERE id = $1', [
    id,
  ]);
  return rows[0] ? { ...rows[0], project: migrate(rows[0].project) as Project } : null;
}

/** Stores a new project under a given or a new id; nothing happens when the id is taken. */
export async function createProject(
  db: Database,
  project: Project,
  id: string = randomUUID(),
): Promise<StoredProject> {
  await db.query('INSERT INTO projects (id, document) VALUES ($1, $2) ON CONFLICT (id) DO NOTHING', [
    id,
    project,
  ]);
  return (await findProject(db, id))!;
}

/** Saves over the named revision; null when that is no longer the newest one, or the project is gone. */
export async function saveProject(
  db: Database,
  id: string,
  revision: number,
  project: Project,
): Promise<StoredProject | null> {
  const { rows } = await db.query(
    `UPDATE projects SET document = $3, revision = revision + 1, updated_at = now()
     WHERE id = $1 AND revision = $2 RETURNING id, revision, document AS project`,
    [id, revision, project],
  );
  return rows[0] ?? null;
}

/** Whether there was a project to delete. Its runs go with it. */
export async function deleteProject(db: Database, id: string): Promise<boolean> {
  const { rowCount } = await db.query('DELETE FROM projects WHERE id = $1', [id]);
  return rowCount === 1;
}

/** Stores bytes under their hash, once. */
export async function putBlob(db: Database, hash: string, kind: string, bytes: Uint8Array): Promise<void> {
  await db.query('INSERT INTO blobs (hash, kind, bytes) VALUES ($1, $2, $3) ON CONFLICT (hash) DO NOTHING', [
    hash,
    kind,
    Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength),
  ]);
}

/** The bytes of this hash and kind, or null. */
export async function getBlob(db: Database, hash: string, kind: string): Promise<Buffer | null> {
  const { rows } = await db.query('SELECT bytes FROM blobs WHERE hash = $1 AND kind = $2', [hash, kind]);
  return rows[0]?.bytes ?? null;
}

/** Stores a mesh and gives its hash. */
export async function putMesh(db: Database, mesh: Mesh): Promise<string> {
  const hash = meshHash(mesh);
  await putBlob(db, hash, 'mesh', meshToBytes(mesh));
  return hash;
}

/** The meshes that a project names, by hash. Throws InputError `mesh` when one is missing. */
export async function projectMeshes(db: Database, project: Project): Promise<Map<string, Mesh>> {
  const meshes = new Map<string, Mesh>();
  for (const [hash, name] of meshesNamed(project)) {
    const bytes = await getBlob(db, hash, 'mesh');
    if (!bytes) throw new InputError('mesh', `The mesh of “${name}” is missing; bring its file in again.`);
    meshes.set(hash, meshFromBytes(bytes));
  }
  return meshes;
}

/** The project as a file: the document with its meshes. */
export async function projectFile(db: Database, project: Project) {
  const meshes = await projectMeshes(db, project);
  return meshes.size
    ? { ...project, meshes: Object.fromEntries([...meshes].map(([hash, mesh]) => [hash, meshToFile(mesh)])) }
    : project;
}
