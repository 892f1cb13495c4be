import { meshesNamed, parseProject, type Project, type RunLine, type Signature } from '@dial-shade/core';
import { getBlob } from './blobs';
import { type Database, inTransaction } from './database';

const NEWS = `id, project_id AS "projectId", study_id AS "studyId", option_id AS "optionId", revision, status, sensors,
  sensors_done AS "sensorsDone", rays::float8 AS rays, seconds, message,
  (result_hash IS NOT NULL OR partial IS NOT NULL) AS "hasResult",
  created_at AS "createdAt", finished_at AS "finishedAt"`;
const LINE = `${NEWS}, signature`;

/** A run that waits ends when it is asked to stop; one at work ends itself. */
const STOPPED_IF_QUEUED = `status = CASE WHEN status = 'queued' THEN 'stopped' ELSE status END,
  document = CASE WHEN status = 'queued' THEN NULL ELSE document END,
  finished_at = CASE WHEN status = 'queued' THEN now() ELSE finished_at END`;

/** The channel on which every change of a run or a project is told to all servers. */
export const CHANNEL = 'dial_shade';

export interface NewRun {
  id: string;
  projectId: string;
  studyId: string;
  optionId: string;
  /** Of the project that it is computed from. */
  revision: number;
  document: Project;
  signature: Signature;
  sensors: number;
  rays: number;
}

/** What came of asking for a run: the run to follow, and those that it replaced. */
export interface CreatedRun {
  run: RunLine;
  /** False when the very same run was asked for already and has not ended. */
  isNew: boolean;
  replaced: RunLine[];
}

/**
 * Enters a run in the book, queued. The very same one, where it has not ended, is given again; another of the same study
 * and option is replaced: ended at once when it still waits, asked to stop when it is at work. Null when the project is gone.
 */
export async function createRun(db: Database, run: NewRun): Promise<CreatedRun | null> {
  return inTransaction(db, async (client) => {
    const of = [run.projectId, run.studyId, run.optionId];
    // One at a time for a study of an option, so that four that ask at once get one run.
    await client.query('SELECT pg_advisory_xact_lock(hashtextextended($1, 0))', [of.join('/')]);
    const { rowCount } = await client.query('SELECT 1 FROM projects WHERE id = $1 FOR KEY SHARE', [
      run.projectId,
    ]);
    if (rowCount === 0) return null;
    const { rows: same } = await client.query<RunLine>(
      `SELECT ${LINE} FROM runs WHERE project_id = $1 AND study_id = $2 AND option_id = $3
         AND status IN ('queued', 'running') AND NOT stop_requested AND signature = $4::jsonb LIMIT 1`,
      [...of, run.signature],
    );
    if (same[0]) return { run: same[0], isNew: false, replaced: [] };
    const { rows: replaced } = await client.query<RunLine>(
      `UPDATE runs SET stop_requested = true, ${STOPPED_IF_QUEUED}
       WHERE project_id = $1 AND study_id = $2 AND option_id = $3 AND status IN ('queued', 'running')
       RETURNING ${LINE}`,
      of,
    );
    const { rows } = await client.query<RunLine>(
      `INSERT INTO runs (id, project_id, study_id, option_id, status, document, meshes, signature, sensors, rays, revision)
       VALUES ($1, $2, $3, $4, 'queued', $5, $6, $7, $8, $9, $10) RETURNING ${LINE}`,
      [
        run.id,
        ...of,
        JSON.stringify(run.document),
        [...meshesNamed(run.document).keys()],
        run.signature,
        run.sensors,
        run.rays,
        run.revision,
      ],
    );
    return { run: rows[0]!, isNew: true, replaced };
  });
}

/** Some runs of a project, newest first, without their signatures: these grow with the model. */
export async function listRuns(
  db: Database,
  projectId: string,
  limit: number,
  offset: number,
): Promise<Omit<RunLine, 'signature'>[]> {
  const { rows } = await db.query(
    `SELECT ${NEWS} FROM runs WHERE project_id = $1 ORDER BY created_at DESC, id LIMIT $2 OFFSET $3`,
    [projectId, limit, offset],
  );
  return rows;
}

export async function findRun(db: Database, id: string): Promise<RunLine | null> {
  const { rows } = await db.query(`SELECT ${LINE} FROM runs WHERE id = $1`, [id]);
  return rows[0] ?? null;
}

/** The document that a run is to work on, whole, though an earlier program may have entered it. Throws InputError `project` when it cannot be made so. */
export async function runDocument(db: Database, id: string): Promise<Project> {
  const { rows } = await db.query('SELECT document FROM runs WHERE id = $1', [id]);
  return parseProject(JSON.parse(rows[0].document as string));
}

/** A worker that has not been heard of for so long is taken for dead. */
const SILENT_SECONDS = 8;
/** A run that has waited for so long is queued again, should its job have been lost. */
const LOST_SECONDS = 60;
/** How often a run is begun before it is given up. */
export const MAX_ATTEMPTS = 3;

/** Marks a run as being worked; false when it has ended, is to stop, or another worker is at it. */
export async function beginRun(db: Database, id: string, worker: string): Promise<boolean> {
  const { rowCount } = await db.query(
    `UPDATE runs SET status = 'running', heartbeat_at = now(), sensors_done = 0, worker = $2, attempts = attempts + 1
     WHERE id = $1 AND status = 'queued' AND NOT stop_requested`,
    [id, worker],
  );
  return rowCount === 1;
}

/** Notes progress. Gives `stop` when the run was asked to, `lost` when it is gone or another worker took it over. */
export async function noteProgress(
  db: Database,
  id: string,
  worker: string,
  sensorsDone: number,
  partial: Uint8Array | null,
): Promise<'go' | 'stop' | 'lost'> {
  const { rows } = await db.query(
    `UPDATE runs SET heartbeat_at = now(), sensors_done = $2, partial = coalesce($3, partial)
     WHERE id = $1 AND status = 'running' AND worker = $4 RETURNING stop_requested`,
    [id, sensorsDone, partial ? Buffer.from(partial) : null, worker],
  );
  return rows.length === 0 ? 'lost' : rows[0].stop_requested ? 'stop' : 'go';
}

/** Gives a run back to be worked by another, since its server ends in order: that is no attempt. Nothing where another has it. */
export async function giveBack(
  db: Database,
  id: string,
  worker: string,
  sensorsDone: number,
  partial: Uint8Array | null,
): Promise<void> {
  await db.query(
    `UPDATE runs SET status = CASE WHEN stop_requested THEN 'stopped' ELSE 'queued' END,
            finished_at = CASE WHEN stop_requested THEN now() END,
            document = CASE WHEN stop_requested THEN NULL ELSE document END, attempts = attempts - 1, worker = NULL,
            heartbeat_at = now(), sensors_done = $3, partial = coalesce($4, partial)
     WHERE id = $1 AND status = 'running' AND worker = $2`,
    [id, worker, sensorsDone, partial ? Buffer.from(partial) : null],
  );
}

/** Ends a run, unless another worker took it over; its partial result is dropped when there is a whole one. */
export async function finishRun(
  db: Database,
  id: string,
  worker: string,
  end: {
    status: 'done' | 'stopped' | 'failed';
    message?: string;
    resultHash?: string;
    seconds?: number;
    sensorsDone?: number;
    /** Rays that were traced for it: none where all was known from before. */
    rays?: number;
  },
): Promise<void> {
  await db.query(
    `UPDATE runs SET status = $2, message = $3, result_hash = $4, seconds = $5,
            sensors_done = coalesce($6, sensors_done), rays = coalesce($8, rays), finished_at = now(), document = NULL,
            partial = CASE WHEN $4::text IS NULL THEN partial END
     WHERE id = $1 AND status = 'running' AND worker = $7`,
    [
      id,
      end.status,
      end.message ?? null,
      end.resultHash ?? null,
      end.seconds ?? null,
      end.sensorsDone ?? null,
      worker,
      end.rays ?? null,
    ],
  );
}

/** Asks a run to stop; one that has not begun ends at once. */
export async function requestStop(db: Database, id: string): Promise<RunLine | null> {
  await db.query(
    `UPDATE runs SET stop_requested = true, ${STOPPED_IF_QUEUED}
     WHERE id = $1 AND status IN ('queued', 'running')`,
    [id],
  );
  return findRun(db, id);
}

/** The result of a run as bytes: whole, or what there is so far; null when there is none. */
export async function resultBytes(db: Database, id: string): Promise<Buffer | null> {
  const hash = await resultHash(db, id);
  if (hash) return getBlob(db, hash, 'result');
  return partialResult(db, id);
}

/** What there is so far of a run that has not ended; null when there is nothing. */
export async function partialResult(db: Database, id: string): Promise<Buffer | null> {
  const { rows } = await db.query<{ partial: Buffer | null }>('SELECT partial FROM runs WHERE id = $1', [id]);
  return rows[0]?.partial ?? null;
}

/** The hash under which the result of a run is kept; null before it has ended, or when there is none. */
export async function resultHash(db: Database, id: string): Promise<string | null> {
  const { rows } = await db.query<{ result_hash: string | null }>(
    'SELECT result_hash FROM runs WHERE id = $1',
    [id],
  );
  return rows[0]?.result_hash ?? null;
}

/** Abandoned runs: those to be queued again, and those that ended. */
export interface Orphans {
  again: string[];
  ended: RunLine[];
}

/**
 * Looks for runs whose worker has not been heard of, or whose job was lost. Those that were to stop are ended, those that
 * were begun too often are failed with the reason; the rest the caller is to queue again.
 * @param own runs that the caller itself has in hand
 * @param lastEnd how the server before this one ended, in words; none where that is not known
 */
export async function claimOrphans(db: Database, own: readonly string[], lastEnd?: string): Promise<Orphans> {
  const isSilent = `status = 'running' AND heartbeat_at < now() - make_interval(secs => ${SILENT_SECONDS})`;
  const { rows: ended } = await db.query<RunLine>(
    `UPDATE runs SET finished_at = now(), worker = NULL, document = NULL,
            status = CASE WHEN stop_requested THEN 'stopped' ELSE 'failed' END,
            message = CASE WHEN stop_requested THEN NULL ELSE replace($2, 'N of M', sensors_done || ' of ' || sensors) END
     WHERE ${isSilent} AND NOT id = ANY($1::uuid[]) AND (stop_requested OR attempts >= ${MAX_ATTEMPTS})
     RETURNING ${LINE}`,
    [
      own,
      `The run was begun ${MAX_ATTEMPTS} times, and each time its server ended without a word before it was done, the last time with N of M points${lastEnd ? ` (it ${lastEnd})` : ''}. If nobody ended it, there may not be enough memory: leave out what is far from the site, widen the grid, or give the machine more.`,
    ],
  );
  const { rows: again } = await db.query<{ id: string }>(
    `UPDATE runs SET status = 'queued', heartbeat_at = now(), worker = NULL
     WHERE NOT id = ANY($1::uuid[]) AND NOT stop_requested AND (${isSilent} OR
       (status = 'queued' AND coalesce(heartbeat_at, created_at) < now() - make_interval(secs => ${LOST_SECONDS})))
     RETURNING id`,
    [own],
  );
  return { again: again.map(({ id }) => id), ended };
}

/** Rays a second over the last finished runs, or null when nothing has been measured yet. */
export async function measuredSpeed(db: Database): Promise<number | null> {
  const { rows } = await db.query(
    `SELECT sum(rays)::float8 / nullif(sum(seconds), 0) AS speed FROM
       (SELECT rays, seconds FROM runs WHERE status = 'done' AND rays > 100000 AND seconds > 0
        ORDER BY finished_at DESC LIMIT 8) AS recent`,
  );
  return rows[0].speed;
}

/** Tells every server that something of a project changed. */
export async function notify(
  db: Database,
  event: { projectId: string; kind: string; [key: string]: unknown },
): Promise<void> {
  await db.query('SELECT pg_notify($1, $2)', [CHANNEL, JSON.stringify(event)]);
}

/** Tells every server how a run stands; without its signature, which can be longer than a notification may be. */
export async function notifyRun(db: Database, { signature: _, ...run }: RunLine): Promise<void> {
  await notify(db, { projectId: run.projectId, kind: 'run', run });
}
