import type { Database } from './database';
import { PROJECT_LIMITS } from './storage';

/** Sweeps that a project keeps; beyond them, and beyond the room that they may take, those that were kept first go. */
export const MAX_SWEEPS = 60;

/** Keeps a sweep under its key, in place of the one before. Gives whether there is such a project. */
export async function keepSweep(
  db: Database,
  projectId: string,
  key: string,
  sweep: string,
): Promise<boolean> {
  const { rowCount } = await db.query(
    `INSERT INTO sweeps (project_id, key, sweep) SELECT $1, $2, $3 WHERE EXISTS (SELECT 1 FROM projects WHERE id = $1)
     ON CONFLICT (project_id, key) DO UPDATE SET sweep = EXCLUDED.sweep, kept_at = now()`,
    [projectId, key, sweep],
  );
  await db.query(
    `DELETE FROM sweeps WHERE project_id = $1 AND key NOT IN
       (SELECT key FROM (
          SELECT key, row_number() OVER newest AS place, sum(octet_length(sweep)) OVER newest AS bytes
          FROM sweeps WHERE project_id = $1 WINDOW newest AS (ORDER BY kept_at DESC, key)) s
        WHERE place <= $2 AND (bytes <= $3 OR place = 1))`,
    [projectId, MAX_SWEEPS, PROJECT_LIMITS.sweeps],
  );
  return rowCount === 1;
}

/** The text of a sweep; null without one. */
export async function keptSweep(db: Database, projectId: string, key: string): Promise<string | null> {
  const { rows } = await db.query<{ sweep: string }>(
    'SELECT sweep FROM sweeps WHERE project_id = $1 AND key = $2',
    [projectId, key],
  );
  return rows[0]?.sweep ?? null;
}
