import type { Database } from './database';
import { PROJECT_LIMITS } from './storage';

/** Days that a blob which nothing names is kept: a step back in a page may name it again. */
const UNNAMED_DAYS = 7;
/** Days that an ended run is kept; the newest with a result of each study and option stays longer. */
const RUN_DAYS = 90;
/** Bytes that the results of all projects may take together; beyond, the oldest go first. */
const RESULT_BYTES = 4 * 1024 ** 3;

/** What was removed. */
export interface Removed {
  runs: number;
  blobs: number;
}

/** Ended runs that are not the newest with a result of their study and option. */
const OLD_RUNS = `SELECT r.id, r.project_id, r.finished_at, coalesce(octet_length(b.bytes), 0)::bigint AS size
  FROM runs r LEFT JOIN blobs b ON b.hash = r.result_hash
  WHERE r.status IN ('done', 'stopped', 'failed') AND r.id NOT IN (
    SELECT DISTINCT ON (project_id, study_id, option_id) id FROM runs
    WHERE result_hash IS NOT NULL AND status IN ('done', 'stopped')
    ORDER BY project_id, study_id, option_id, created_at DESC)`;

/**
 * Removes runs by age and by the room that results take, and blobs that nothing has named for some days. Safe at any time
 * and on several servers at once.
 */
export async function keepUp(db: Database): Promise<Removed> {
  const old = await db.query(
    `DELETE FROM runs WHERE id IN (SELECT id FROM (${OLD_RUNS}) o WHERE finished_at < now() - make_interval(days => $1))`,
    [RUN_DAYS],
  );
  const over = await db.query(
    `WITH total AS (SELECT coalesce(sum(octet_length(bytes)), 0) AS bytes FROM blobs WHERE kind = 'result'),
          old AS (SELECT id, sum(size) OVER (ORDER BY finished_at, id) - size AS before FROM (${OLD_RUNS}) o)
     DELETE FROM runs USING old, total WHERE runs.id = old.id AND old.before < total.bytes - $1`,
    [RESULT_BYTES],
  );
  const ofProject = await db.query(
    `WITH total AS (SELECT r.project_id, count(*) AS runs, coalesce(sum(octet_length(b.bytes)), 0) AS bytes
            FROM runs r LEFT JOIN blobs b ON b.hash = r.result_hash GROUP BY r.project_id),
          old AS (SELECT id, project_id, sum(size) OVER oldest - size AS before, row_number() OVER oldest AS place
            FROM (${OLD_RUNS}) o WINDOW oldest AS (PARTITION BY project_id ORDER BY finished_at, id))
     DELETE FROM runs USING old, total WHERE runs.id = old.id AND old.project_id = total.project_id
       AND (old.before < total.bytes - $1 OR old.place <= total.runs - $2)`,
    [PROJECT_LIMITS.results, PROJECT_LIMITS.runs],
  );
  // Projects name meshes and pictures on the ground, and meshes runs that have not ended.
  await db.query(
    `WITH named AS (
       SELECT unnest(blobs) AS hash FROM projects
       UNION SELECT unnest(meshes) FROM runs WHERE status IN ('queued', 'running')
       UNION SELECT result_hash FROM runs WHERE result_hash IS NOT NULL
       UNION SELECT picture_hash FROM pictures
       UNION SELECT thumb_hash FROM pictures WHERE thumb_hash IS NOT NULL)
     UPDATE blobs SET unnamed_since = CASE WHEN hash IN (SELECT hash FROM named) THEN NULL ELSE now() END
     WHERE (unnamed_since IS NULL) <> (hash IN (SELECT hash FROM named))`,
  );
  const blobs = await db.query(
    `DELETE FROM blobs WHERE unnamed_since < now() - make_interval(days => $1)
       AND NOT EXISTS (SELECT 1 FROM runs WHERE result_hash = blobs.hash)
       AND NOT EXISTS (SELECT 1 FROM pictures WHERE picture_hash = blobs.hash OR thumb_hash = blobs.hash)`,
    [UNNAMED_DAYS],
  );
  const runs = [old, over, ofProject].reduce((sum, { rowCount }) => sum + (rowCount ?? 0), 0);
  return { runs, blobs: blobs.rowCount ?? 0 };
}
