import { contentHash, type PictureLine } from '@dial-shade/core';
import type { Database } from './database';
import { PICTURE_KINDS, putBlob } from './blobs';
import { PROJECT_LIMITS } from './storage';

/** Pictures that a gallery may hold. */
export const MAX_PICTURES = 2000;

/** What a picture shows, as whoever made it says. */
export interface PictureFacts {
  name: string;
  option: string;
  viewpoint: string;
  date: string;
  minutes: number;
  width: number;
  height: number;
}

interface Row {
  id: string;
  project_id: string;
  name: string;
  option_id: string;
  viewpoint: string;
  date: string;
  minutes: number;
  width: number;
  height: number;
  bytes: number;
  has_thumb: boolean;
  created_at: Date;
}

const COLUMNS = `id, project_id, name, option_id, viewpoint, date, minutes, width, height, bytes,
  thumb_hash IS NOT NULL AS has_thumb, created_at`;

const lineOf = (row: Row): PictureLine => ({
  id: row.id,
  projectId: row.project_id,
  name: row.name,
  optionId: row.option_id,
  viewpoint: row.viewpoint,
  date: row.date,
  minutes: row.minutes,
  width: row.width,
  height: row.height,
  bytes: row.bytes,
  hasThumb: row.has_thumb,
  createdAt: row.created_at.toISOString(),
});

/** Keeps a picture in the gallery of a project; null when there is no such project, 'full' when no more go in. */
export async function keepPicture(
  db: Database,
  projectId: string,
  facts: PictureFacts,
  png: Uint8Array,
): Promise<PictureLine | 'full' | null> {
  const { rows: found } = await db.query<{ count: number; bytes: number }>(
    `SELECT count(pictures.id)::int AS count, coalesce(sum(pictures.bytes), 0)::float8 AS bytes
     FROM projects p LEFT JOIN pictures ON pictures.project_id = p.id WHERE p.id = $1 GROUP BY p.id`,
    [projectId],
  );
  if (!found[0]) return null;
  const { count, bytes } = found[0];
  if (count >= MAX_PICTURES || bytes + png.length > PROJECT_LIMITS.pictures) return 'full';
  const hash = contentHash(png);
  await putBlob(db, hash, 'picture', png);
  const { name, option, viewpoint, date, minutes, width, height } = facts;
  // The project may have gone meanwhile: then nothing is inserted.
  const { rows } = await db.query<Row>(
    `INSERT INTO pictures (project_id, name, option_id, viewpoint, date, minutes, width, height, bytes, picture_hash)
     SELECT $1, $2, $3, $4, $5, $6, $7, $8, $9, $10 WHERE EXISTS (SELECT 1 FROM projects WHERE id = $1)
     RETURNING ${COLUMNS}`,
    [projectId, name, option, viewpoint, date, minutes, width, height, png.length, hash],
  );
  return rows[0] ? lineOf(rows[0]) : null;
}

/** The pictures of a project, newest first. */
export async function listPictures(
  db: Database,
  projectId: string,
  limit: number,
  offset: number,
): Promise<PictureLine[]> {
  const { rows } = await db.query<Row>(
    `SELECT ${COLUMNS} FROM pictures WHERE project_id = $1 ORDER BY created_at DESC, id LIMIT $2 OFFSET $3`,
    [projectId, limit, offset],
  );
  return rows.map(lineOf);
}

/** Keeps the small copy of a picture. Gives whether there is such a picture. */
export async function keepThumb(db: Database, id: string, jpeg: Uint8Array): Promise<boolean> {
  const hash = contentHash(jpeg);
  await putBlob(db, hash, 'thumb', jpeg);
  const { rowCount } = await db.query('UPDATE pictures SET thumb_hash = $2 WHERE id = $1', [id, hash]);
  return rowCount === 1;
}

/** Where the bytes of a picture stand, or of its small copy where there is one; null when there is no such picture. */
export async function pictureBlob(
  db: Database,
  id: string,
  small: boolean,
): Promise<{ hash: string; kinds: readonly string[]; type: string; isLasting: boolean } | null> {
  const { rows } = await db.query<{ picture_hash: string; thumb_hash: string | null }>(
    'SELECT picture_hash, thumb_hash FROM pictures WHERE id = $1',
    [id],
  );
  if (!rows[0]) return null;
  const { picture_hash, thumb_hash } = rows[0];
  return small && thumb_hash
    ? { hash: thumb_hash, kinds: PICTURE_KINDS, type: 'image/jpeg', isLasting: true }
    : { hash: picture_hash, kinds: PICTURE_KINDS, type: 'image/png', isLasting: !small };
}

/** Whether there was a picture to remove. Its bytes go with the upkeep. */
export async function removePicture(db: Database, id: string): Promise<boolean> {
  const { rowCount } = await db.query('DELETE FROM pictures WHERE id = $1', [id]);
  return rowCount === 1;
}
