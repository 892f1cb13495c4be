import { runner } from 'node-pg-migrate';
import { join } from 'node:path';
import { projectRoot } from '../root';

/** Brings the database up to the newest of the numbered SQL files. */
export async function migrateDatabase(url: string): Promise<void> {
  await runner({
    databaseUrl: url,
    dir: join(projectRoot(), 'server/sql'),
    direction: 'up',
    migrationsTable: 'migrations',
    log: () => {},
  });
}
