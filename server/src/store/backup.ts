import { once } from 'node:events';
import type { PoolClient } from 'pg';
import { pack, type Pack } from 'tar-stream';
import { blobPieces } from './blobs';
import type { Database } from './database';
import { wholeText } from './documents';

/** What the first file of a backup says. */
export interface BackupHead {
  format: 'dial-shade-backup';
  version: 1;
  createdAt: string;
  projects: { id: string; name: string }[];
  /** Samples that have been loaded, and need not be again. */
  samples: string[];
}

/** What stands of a project in a backup, beside its document. */
export interface BackupProject {
  id: string;
  revision: number;
  createdAt: string;
  updatedAt: string;
  project: unknown;
  sweeps: Record<string, unknown>[];
  pictures: Record<string, unknown>[];
  runs: Record<string, unknown>[];
}

const SWEEPS = `SELECT key, sweep, kept_at FROM sweeps WHERE project_id = $1 ORDER BY key`;
const PICTURES = `SELECT id, name, option_id, viewpoint, date, minutes, width, height, bytes, picture_hash, thumb_hash, created_at
  FROM pictures WHERE project_id = $1 ORDER BY created_at, id`;
/** Runs that have ended; one that has not is asked for again. */
const RUNS = `SELECT id, study_id, option_id, status, signature, sensors, sensors_done, rays::float8 AS rays, seconds, message,
  result_hash, created_at, finished_at, revision
  FROM runs WHERE project_id = $1 AND status IN ('done', 'stopped', 'failed') ORDER BY created_at, id`;

/**
 * Everything that is kept, at one moment, as a TAR: `backup.json` (see BackupHead), `blobs/KIND/HASH`, then
 * `projects/NUMBER.json` (see BackupProject). What can be made again, masks and runs that have not ended, is left out. Ends
 * with an error where the database does.
 */
export function backupOf(db: Database): Pack {
  const tar = pack();
  write(db, tar).then(
    () => tar.finalize(),
    (error: Error) => tar.destroy(error),
  );
  return tar;
}

async function write(db: Database, tar: Pack): Promise<void> {
  const client = await db.connect();
  try {
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    await writeAll(client, tar);
  } finally {
    await client.query('ROLLBACK').then(
      () => client.release(),
      (lost: Error) => client.release(lost),
    );
  }
}

async function writeAll(client: PoolClient, tar: Pack): Promise<void> {
  const { rows: projects } = await client.query<{ id: string; name: string }>(
    'SELECT id, name FROM projects ORDER BY id',
  );
  const { rows: samples } = await client.query<{ id: string }>('SELECT id FROM samples_loaded ORDER BY id');
  const head: BackupHead = {
    format: 'dial-shade-backup',
    version: 1,
    createdAt: new Date().toISOString(),
    projects,
    samples: samples.map(({ id }) => id),
  };
  await writeFile(tar, 'backup.json', JSON.stringify(head));
  const { rows: blobs } = await client.query<{ hash: string; kind: string; length: number }>(
    'SELECT hash, kind, octet_length(bytes) AS length FROM blobs ORDER BY hash',
  );
  for (const { hash, kind, length } of blobs) {
    const entry = tar.entry({ name: `blobs/${kind}/${hash}`, size: length });
    for await (const piece of blobPieces(client, hash, length))
      if (!entry.write(piece)) await once(entry, 'drain');
    entry.end(undefined);
  }
  for (const [i, { id }] of projects.entries())
    await writeFile(tar, `projects/${i + 1}.json`, await projectText(client, id));
}

async function projectText(client: PoolClient, id: string): Promise<string> {
  const { rows } = await client.query<{ document: string; weather: string | null; facts: object }>(
    `SELECT document, weather, json_build_object('id', id, 'revision', revision, 'createdAt', created_at,
       'updatedAt', updated_at) AS facts FROM projects WHERE id = $1`,
    [id],
  );
  const { document, weather, facts } = rows[0]!;
  const of = async (query: string) => (await client.query(query, [id])).rows;
  const parts = { ...facts, sweeps: await of(SWEEPS), pictures: await of(PICTURES), runs: await of(RUNS) };
  return `${JSON.stringify(parts).slice(0, -1)},"project":${wholeText(document, weather)}}`;
}

function writeFile(tar: Pack, name: string, text: string): Promise<void> {
  return new Promise((resolve, reject) => {
    tar.entry({ name }, text, (error) => (error ? reject(error) : resolve()));
  });
}
