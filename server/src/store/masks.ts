import type { MaskOf } from '@dial-shade/core';
import type { Database } from './database';

/** Bytes that masks may take together; beyond, those that were not used for the longest go first. */
const MASK_BYTES = 1024 ** 3;

/** The bytes that are kept under a key; `let-go` where they had to make room; null where they never were kept. Notes their use. */
export async function keptMask(db: Database, key: string): Promise<Buffer | 'let-go' | null> {
  const { rows } = await db.query<{ bytes: Buffer | null }>(
    'UPDATE masks SET used_at = now() WHERE key = $1 RETURNING bytes',
    [key],
  );
  return rows[0] ? (rows[0].bytes ?? 'let-go') : null;
}

/** Masks of a place that are looked through for directions. */
const MAX_OTHERS = 12;

/** What is kept of the same obstacles and sensors in other directions, the last used first. */
export async function masksOfPlace(
  db: Database,
  place: string,
): Promise<{ key: string; vectors: Float64Array }[]> {
  const { rows } = await db.query<{ key: string; vectors: Buffer }>(
    'SELECT key, vectors FROM masks WHERE place = $1 AND bytes IS NOT NULL ORDER BY used_at DESC, key LIMIT $2',
    [place, MAX_OTHERS],
  );
  return rows.map(({ key, vectors }) => ({
    key,
    vectors: new Float64Array(Uint8Array.from(vectors).buffer),
  }));
}

/** Keeps bytes under a key, and lets go of others where all would take too much room. */
export async function keepMask(
  db: Database,
  { key, place, vectors }: MaskOf,
  bytes: Uint8Array,
): Promise<void> {
  await db.query(
    `INSERT INTO masks (key, bytes, place, vectors) VALUES ($1, $2, $3, $4)
     ON CONFLICT (key) DO UPDATE
     SET bytes = EXCLUDED.bytes, place = EXCLUDED.place, vectors = EXCLUDED.vectors, used_at = now()`,
    [key, bufferOf(bytes), place, bufferOf(vectors)],
  );
  await evictMasks(db, MASK_BYTES);
}

/** A copy: what lies in shared memory cannot be sent. */
function bufferOf({ buffer, byteOffset, byteLength }: Uint8Array | Float64Array): Buffer {
  return Buffer.from(new Uint8Array(buffer, byteOffset, byteLength).slice());
}

/**
 * Lets go of the masks that were not used for the longest, until the rest takes at most so many bytes; gives how many. For
 * thirty days it is known that they had been kept.
 */
export async function evictMasks(db: Database, mostBytes: number): Promise<number> {
  const { rowCount } = await db.query(
    `UPDATE masks SET bytes = NULL, vectors = NULL FROM (
       SELECT key, sum(octet_length(bytes) + octet_length(vectors)) OVER (ORDER BY used_at DESC, key) AS newer
       FROM masks WHERE bytes IS NOT NULL) sized
     WHERE masks.key = sized.key AND sized.newer > $1`,
    [mostBytes],
  );
  await db.query("DELETE FROM masks WHERE bytes IS NULL AND used_at < now() - interval '30 days'");
  return rowCount ?? 0;
}
