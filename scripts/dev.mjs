import { spawn } from 'node:child_process';
import { existsSync, watch } from 'node:fs';
import { join } from 'node:path';
import { bundle } from './bundle.mjs';
import { ROOT, say } from './console.mjs';
import { startDatabase } from './database.mjs';
import { install } from './install.mjs';

/** Database, a server that restarts when its bundle changes, and pages with hot reload. Ctrl-C ends all. */
install();
await bundle();
await bundle({ watch: true });
const database = await startDatabase('dev-database');
const environment = {
  ...process.env,
  DATABASE_URL: database.appUrl,
  DIAL_SHADE_LOG: process.env.DIAL_SHADE_LOG ?? 'warn',
  // Vite hands requests on under its own name.
  DIAL_SHADE_HOSTS: process.env.DIAL_SHADE_HOSTS ?? '127.0.0.1:5173,localhost:5173',
};
const main = join(ROOT, 'dist/server/main.js');

let server = null;
let isEnding = false;
function serve() {
  const child = spawn(process.execPath, [main], { cwd: ROOT, stdio: 'inherit', env: environment });
  server = child;
  child.on('exit', () => {
    if (server === child && !isEnding) say('The server ended; it starts again with the next change.');
  });
}

function gone(child) {
  if (!child || child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  const over = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  return over;
}

async function serveAgain() {
  const before = server;
  server = null;
  await gone(before);
  if (!isEnding && existsSync(main)) serve();
}

serve();
let timer = null;
watch(join(ROOT, 'dist/server'), () => {
  clearTimeout(timer);
  timer = setTimeout(() => void serveAgain(), 150);
});
const pages = spawn('npx', ['vite', '--clearScreen', 'false'], { cwd: join(ROOT, 'web'), stdio: 'inherit' });

async function end() {
  if (isEnding) return;
  isEnding = true;
  await Promise.all([gone(server), gone(pages)]);
  await database.stop();
  process.exit(0);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end());
pages.on('exit', () => void end());
