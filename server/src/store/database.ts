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
    /Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error/.test(
      message ?? '',
    )
  );
}

export type Database = pg.Pool;

/** A pool of connections that outlives the loss of any of them. */
export function openDatabase(url: string): Database {
  const pool = new pg.Pool({ connectionString: url, max: 12, connectionTimeoutMillis: 4000 });
  pool.on('error', (error) => log.warn({ error: error.message }, 'an idle database connection was lost'));
  return pool;
}

/** Tries again every half second while the database is away, up to `seconds`. */
export async function whileOffline<T>(work: () => Promise<T>, seconds = 60): Promise<T> {
  for (const until = Date.now() + seconds * 1000; ;) {
    try {
      return await work();
    } catch (error) {
      if (!isOffline(error) || Date.now() > until) throw error;
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
  }
}
