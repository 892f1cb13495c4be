import { log } from './log';
import { loadSamples, startServer } from './server';
import { migrateDatabase } from './store/migrate';

const databaseUrl = process.env.DATABASE_URL;
const port = Number(process.env.DIAL_SHADE_PORT ?? 4173);
if (!databaseUrl) throw new Error('DATABASE_URL is not set; start with npm start.');

await migrateDatabase(databaseUrl);
try {
  const running = await startServer(databaseUrl, port);
  await loadSamples(running.db);
  let ending = false;
  const end = () => {
    if (ending) return;
    ending = true;
    void running.close().finally(() => process.exit(0));
  };
  process.on('SIGINT', end);
  process.on('SIGTERM', end);
  console.log(`Dial Shade is open at ${running.url}`);
} catch (error) {
  if ((error as { code?: string }).code === 'EADDRINUSE')
    console.error(`Port ${port} is taken; end what uses it, or start with DIAL_SHADE_PORT set to another.`);
  else log.error({ error: (error as Error).stack }, 'the server could not start');
  process.exit(1);
}
