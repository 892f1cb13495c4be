import { setImmediate } from 'node:timers/promises';
import { Gate } from '../gate';
import type { Database } from './database';

/** Bytes that are read at once. */
const PIECE_BYTES = 262_144;
/** Pieces that are read at the same time: far fewer than there are connections, so that nothing else waits for one. */
const READS = 3;
/** Bytes of pieces that are kept for whoever asks for the same next. */
const KEPT_BYTES = 64 * 1_048_576;

/** What pictures are stored as; the same bytes may be one for the ground, one of the gallery, and a small copy. */
export const PICTURE_KINDS = ['picture', 'thumb'] as const;

/** What is asked: the pool, or one connection of it. */
type Asked = Pick<Database, 'query'>;

const reads = new Gate(READS);
/** The pieces read last, those that were asked for last at the end. */
const kept = new Map<string, Promise<Buffer | null>>();

/** Stores bytes under their hash, once. */
export async function putBlob(db: Asked, hash: string, kind: string, bytes: Uint8Array): Promise<void> {
  await db.query(
    'INSERT INTO blobs (hash, kind, bytes) VALUES ($1, $2, $3) ON CONFLICT (hash) DO UPDATE SET unnamed_since = NULL',
    [hash, kind, Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)],
  );
}

/** How many bytes there are of this hash and one of these kinds; null without them. */
export async function blobLength(
  db: Database,
  hash: string,
  kinds: readonly string[],
): Promise<number | null> {
  const { rows } = await db.query<{ length: number }>(
    'SELECT octet_length(bytes) AS length FROM blobs WHERE hash = $1 AND kind = ANY($2)',
    [hash, kinds],
  );
  return rows[0]?.length ?? null;
}

/** Bytes as they are taken, piece by piece; no connection is held while nobody takes any. Throws where they are gone. */
export async function* blobPieces(db: Asked, hash: string, length: number): AsyncGenerator<Buffer> {
  for (let at = 0; at < length; at += PIECE_BYTES) {
    // Pieces at hand would otherwise follow one another without anything else having its turn.
    await setImmediate();
    const piece = await pieceAt(db, hash, at);
    if (!piece?.length) throw new Error(`the bytes of ${hash} are gone`);
    yield piece;
  }
}

/** The bytes of this hash and one of these kinds, or null. */
export async function getBlob(
  db: Database,
  hash: string,
  ...kinds: readonly string[]
): Promise<Buffer | null> {
  const length = await blobLength(db, hash, kinds);
  if (length === null) return null;
  const pieces: Buffer[] = [];
  for await (const piece of blobPieces(db, hash, length)) pieces.push(piece);
  return Buffer.concat(pieces);
}

/** Several who ask for the same piece at once get it by one reading. */
function pieceAt(db: Asked, hash: string, at: number): Promise<Buffer | null> {
  const key = `${hash}/${at}`;
  const piece =
    kept.get(key) ??
    reads.run(async () => {
      const { rows } = await db.query<{ piece: Buffer }>(
        'SELECT substring(bytes FROM $2 FOR $3) AS piece FROM blobs WHERE hash = $1',
        [hash, at + 1, PIECE_BYTES],
      );
      return rows[0]?.piece ?? null;
    });
  kept.delete(key);
  kept.set(key, piece);
  for (const old of kept.keys()) {
    if (kept.size * PIECE_BYTES <= KEPT_BYTES) break;
    kept.delete(old);
  }
  // What could not be read is asked for again.
  piece.then(
    (found) => found || kept.delete(key),
    () => kept.delete(key),
  );
  return piece;
}
