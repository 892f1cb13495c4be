import type { Storage } from '@dial-shade/core';
import { statfs } from 'node:fs/promises';
import { projectRoot } from '../root';
import type { Database } from './database';

const MB = 1_048_576;
const GB = 1024 * MB;

/** What the things of one project may take together. */
export const PROJECT_LIMITS = {
  pictures: 2 * GB,
  sweeps: 64 * MB,
  /** Meshes and pictures on the ground. */
  blobs: GB,
  results: GB,
  runs: 2000,
} as const;
/** What everything may take when nothing else is said (`DIAL_SHADE_STORAGE_GB`). */
const DEFAULT_GB = 32;
/** Share of the room from which it is said that it is nearly full, and what is to stay free of the disk. */
const NEARLY = 0.9;
export const FREE_BYTES = GB;
/** How long what was measured counts. */
const MEASURED_MS = 10_000;

/** What everything may take, bytes. */
function limitBytes(): number {
  const said = Number(process.env.DIAL_SHADE_STORAGE_GB);
  return (said > 0 ? said : DEFAULT_GB) * GB;
}

let measured: { at: number; db: Database; storage: Promise<Storage> } | null = null;

/** What everything takes, by kind, and how much it may; measured every ten seconds at most. */
export function storageOf(db: Database): Promise<Storage> {
  if (measured?.db === db && Date.now() - measured.at < MEASURED_MS) return measured.storage;
  const storage = measure(db);
  measured = { at: Date.now(), db, storage };
  storage.catch(() => (measured = null));
  return storage;
}

async function measure(db: Database): Promise<Storage> {
  const { rows } = await db.query<{ bytes: string; kinds: Record<string, number> }>(
    `SELECT pg_database_size(current_database())::text AS bytes, json_build_object(
       'documents', pg_total_relation_size('projects'), 'runs', pg_total_relation_size('runs'),
       'sweeps', pg_total_relation_size('sweeps'), 'masks', pg_total_relation_size('masks'),
       'blobs', (SELECT coalesce(json_object_agg(kind, bytes), '{}') FROM
         (SELECT kind, sum(octet_length(bytes)) AS bytes FROM blobs GROUP BY kind) b)) AS kinds`,
  );
  const { blobs, ...tables } = rows[0]!.kinds as unknown as Record<string, number> & {
    blobs: Partial<Record<'mesh' | 'picture' | 'thumb' | 'result', number>>;
  };
  const { bavail, bsize } = await statfs(projectRoot());
  const bytes = Number(rows[0]!.bytes);
  const [limit, freeBytes] = [limitBytes(), bavail * bsize];
  return {
    bytes,
    limitBytes: limit,
    freeBytes,
    isNearlyFull: bytes > NEARLY * limit || freeBytes < 2 * FREE_BYTES,
    kinds: {
      documents: tables.documents!,
      meshes: blobs.mesh ?? 0,
      pictures: (blobs.picture ?? 0) + (blobs.thumb ?? 0),
      runs: tables.runs! + (blobs.result ?? 0),
      sweeps: tables.sweeps!,
      masks: tables.masks!,
    },
  };
}

/** What each of these projects takes: its document, pictures, sweeps, results, and the meshes and pictures that it names. */
export const PROJECT_BYTES = `(octet_length(p.document) + coalesce(octet_length(p.weather), 0)
  + coalesce((SELECT sum(bytes) FROM pictures WHERE project_id = p.id), 0)
  + coalesce((SELECT sum(octet_length(sweep)) FROM sweeps WHERE project_id = p.id), 0)
  + coalesce((SELECT sum(coalesce(octet_length(b.bytes), 0) + coalesce(octet_length(r.partial), 0))
      FROM runs r LEFT JOIN blobs b ON b.hash = r.result_hash WHERE r.project_id = p.id), 0)
  + coalesce((SELECT sum(octet_length(bytes)) FROM blobs WHERE hash = ANY(p.blobs)), 0))::float8`;
