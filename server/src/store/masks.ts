import type { Database } from './database';

/** Bytes that masks may take together; beyond, those that were not used for the longest go first. */
const MASK_BYTES = 1024 ** 3;

/** The bytes that are kept under a key, or null; notes that they were used. */
export async function keptMask(db: Database, key: string): Promise<Buffer | null> {
  const { rows } = await db.query<{ bytes: Buffer }>(
    'UPDATE masks SET used_at = now() WHERE key = $1 RETURNING bytes',
    [key],
  );
  return rows[0]?.bytes ?? null;
}

/** Keeps bytes under a key, and lets go of others where all would take too much room. */
export async function keepMask(db: Database, key: string, bytes: Uint8Array): Promise<void> {
  await db.query(
    'INSERT INTO masks (key, bytes) VALUES ($1, $2) ON CONFLICT (key) DO UPDATE SET used_at = now()',
    [key, Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)],
  );
  await evictMasks(db, MASK_BYTES);
}

/** Lets go of the masks that were not used for the longest, until the rest takes at most so many bytes. */
export async function evictMasks(db: Database, mostBytes: number): Promise<number> {
  const { rowCount } = await db.query(
    `DELETE FROM masks USING (
       SELECT key, sum(octet_length(bytes)) OVER (ORDER BY used_at DESC, key) AS newer FROM masks) sized
     WHERE masks.key = sized.key AND sized.newer > $1`,
    [mostBytes],
  );
  return rowCount ?? 0;
}
