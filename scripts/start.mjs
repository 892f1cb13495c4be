import { spawn } from 'node:child_process';
import { startDatabase } from './database.mjs';
import { build, install } from './install.mjs';
import { ROOT } from './console.mjs';

install();
await build();
const database = await startDatabase('database');
const server = spawn(process.execPath, ['dist/server/main.js'], {
  cwd: ROOT,
  stdio: ['ignore', 'inherit', 'inherit'],
  env: { ...process.env, DATABASE_URL: database.url, DIAL_SHADE_LOG: process.env.DIAL_SHADE_LOG ?? 'warn' },
});

let ending = false;
async function end(code) {
  if (ending) return;
  ending = true;
  if (server.exitCode === null) {
    const gone = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await gone;
  }
  await database.stop();
  process.exit(code);
}
process.on('SIGINT', () => void end(0));
process.on('SIGTERM', () => void end(0));
process.on('SIGHUP', () => void end(0));
server.on('exit', (code) => void end(code ?? 1));
