import pg from 'pg';
import { log } from '../log';

/** Errors that mean the database is away for the moment, not that the question was wrong. */
const OFFLINE = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  '57P01',
  '57P02',
  '57P03',
  '08006',
  '08001',
  '08003',
]);

/** Whether an error means that the database cannot be reached now. */
export function isOffline(error: unknown): boolean {
  const { code, message } = (error ?? {}) as { code?: string; message?: string };
  return (
    (code !== undefined && OFFLINE.has(code)) ||
    /Connection terminated|Client has encountered a connection error/.test(message ?? '')
  );
}

/** A database that cannot do what it is asked for the moment: status, stable code and sentence of the answer, by SQLSTATE. */
const TROUBLE: Record<string, [status: 503 | 507, code: string, sentence: string]> = {
  '53100': [
    507,
    'disk-full',
    'The disk of the database is full, so nothing can be saved; make room, then try again.',
  ],
  '53200': [
    503,
    'no-memory',
    'The database has no memory left for this at the moment; try again in a little while.',
  ],
  '53300': [
    503,
    'too-busy',
    'The database has no connection left at the moment; try again in a little while.',
  ],
  '53400': [
    503,
    'too-busy',
    'The database is at one of its limits at the moment; try again in a little while.',
  ],
  '57014': [
    503,
    'cancelled',
    'The database took too long over this and it was ended; try again in a little while.',
  ],
  '40001': [503, 'too-busy', 'Something else was changed at the same moment; try again.'],
  '40P01': [503, 'too-busy', 'Something else was changed at the same moment; try again.'],
  '55P03': [503, 'too-busy', 'Something else is being changed at the moment; try again.'],
};

/** What an error of the database is answered with, when it is not the question that was wrong; null for other errors. */
export function databaseTrouble(error: unknown): { status: number; code: string; sentence: string } | null {
  const found = TROUBLE[(error as { code?: string } | null)?.code ?? ''];
  if (found) return { status: found[0], code: found[1], sentence: found[2] };
  // The pool says this where all connections are in use and none came free in time.
  if (/timeout exceeded when trying to connect/.test((error as Error | null)?.message ?? ''))
    return {
      status: 503,
      code: 'too-busy',
      sentence: 'The server has its hands full at the moment; try again in a little while.',
    };
  return isOffline(error)
    ? {
        status: 503,
        code: 'database-away',
        sentence:
          'The database cannot be reached at the moment; your work is kept here and saved when it is back.',
      }
    : null;
}

export type Database = pg.Pool;

/** Works on one connection, all of it or nothing. */
export async function inTransaction<T>(
  db: Database,
  work: (client: pg.PoolClient) => Promise<T>,
): Promise<T> {
  const client = await db.connect();
  // A connection that breaks while it is ours tells so as an event too; the query that was under way throws.
  const broken = (error: Error) => log.warn({ error: error.message }, 'a database connection broke');
  client.on('error', broken);
  try {
    await client.query('BEGIN');
    const value = await work(client);
    await client.query('COMMIT');
    client.release();
    return value;
  } catch (error) {
    // A connection that was lost in the middle is not used again.
    await client.query('ROLLBACK').then(
      () => client.release(),
      (lost: Error) => client.release(lost),
    );
    throw error;
  } finally {
    client.off('error', broken);
  }
}

/** Time that the database may take over one statement. */
const STATEMENT_MS = 120_000;

/** A pool of connections that outlives the loss of any of them. */
export function openDatabase(url: string): Database {
  const pool = new pg.Pool({
    connectionString: url,
    max: 12,
    connectionTimeoutMillis: 4000,
    statement_timeout: STATEMENT_MS,
  });
  pool.on('error', (error) => log.warn({ error: error.message }, 'an idle database connection was lost'));
  return pool;
}

/** Tries again every half second while the database is away or too busy, up to `seconds`. */
export async function whileOffline<T>(work: () => Promise<T>, seconds = 60): Promise<T> {
  for (const until = Date.now() + seconds * 1000; ;) {
    try {
      return await work();
    } catch (error) {
      if (databaseTrouble(error)?.status !== 503 || Date.now() > until) throw error;
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
  }
}
