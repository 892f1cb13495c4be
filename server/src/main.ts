import { log } from './log';
import { loadSamples, type Running, startServer } from './server';
import { migrateDatabase } from './store/migrate';

/** Time that ending in order may take; then the server ends as it is. */
const END_MS = 10_000;

let running: Running | null = null;
let ending = false;

/** Ends in order: no new requests, runs given up for others to take over, the database let go. */
function end(code: number): void {
  if (ending) return;
  ending = true;
  setTimeout(() => process.exit(code || 1), END_MS).unref();
  void (running?.close() ?? Promise.resolve())
    .catch((error: Error) => log.error({ error: error.message }, 'ending was not in order'))
    .finally(() => process.exit(code));
}

/** What nobody caught: it is written down, and the server ends in order; what watches over it starts it again. */
function last(what: string): (error: unknown) => void {
  return (error) => {
    log.fatal({ error: error instanceof Error ? error.stack : String(error) }, what);
    end(1);
  };
}

process.on('SIGINT', () => end(0));
process.on('SIGTERM', () => end(0));
// Started by a script that watches over it, it ends when that is gone.
process.on('disconnect', () => end(0));
process.on('uncaughtException', last('an error that nothing caught'));
process.on('unhandledRejection', last('a rejection that nothing handled'));

const databaseUrl = process.env.DATABASE_URL;
const port = Number(process.env.DIAL_SHADE_PORT ?? 4173);
if (!databaseUrl) {
  console.error('DATABASE_URL is not set; start with npm start.');
  process.exit(1);
}
try {
  await migrateDatabase(databaseUrl);
  running = await startServer(databaseUrl, port);
  const loaded = await loadSamples(running.db);
  if (ending) await running.close();
  process.send?.({ url: running.url });
  // Journeys and drills begin with samples that nothing has been run of.
  if (process.env.DIAL_SHADE_SAMPLE_RUNS !== 'no')
    running
      .compare(loaded)
      .catch((error: Error) => log.warn({ error: error.message }, 'samples are not compared'));
  console.log(`Dial Shade is open at ${running.url}`);
} catch (error) {
  if ((error as { code?: string }).code === 'EADDRINUSE')
    console.error(`Port ${port} is taken; end what uses it, or start with DIAL_SHADE_PORT set to another.`);
  else log.error({ error: (error as Error).stack }, 'the server could not start');
  process.exit((error as { code?: string }).code === 'EADDRINUSE' ? 2 : 1);
}
