import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, say } from './console.mjs';
import { accountOf, closedFolder, isFree, startDatabase } from './database.mjs';
import { build, install } from './install.mjs';
import { takeLock } from './lock.mjs';
import { patience } from './watched.mjs';

/** Time that the server may take to end in order. */
const END_MS = 12_000;
/** The server's exit code when starting it again would not help. */
const HOPELESS = 2;

let lock = null;
let database = null;
/** The database while it is being started. */
let starting = null;
let server = null;
/** How far ending has come: 0 not begun, 1 in order, 2 at once. */
let ending = 0;

const isAlive = (child) => child && child.exitCode === null && child.signalCode === null;
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Ends everything that was started, in order, then this. */
async function end(code, sentence) {
  if (sentence) console.error(sentence);
  if (ending) return;
  ending = 1;
  if (isAlive(server)) {
    const gone = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    const late = setTimeout(() => server.kill('SIGKILL'), END_MS);
    await gone;
    clearTimeout(late);
  }
  database ??= await starting;
  await database?.stop();
  lock?.release?.();
  process.exit(code);
}

/** Ends everything at once. */
async function endNow() {
  ending = 2;
  if (isAlive(server)) server.kill('SIGKILL');
  database ??= await starting;
  await database?.kill();
  lock?.release?.();
  process.exit(130);
}

function asked() {
  if (ending === 0) void end(0);
  else if (ending === 1) void endNow();
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, asked);
process.on('uncaughtException', (error) => void end(1, `Something went wrong: ${error.stack}`));
process.on('unhandledRejection', (error) => void end(1, `Something went wrong: ${error?.stack ?? error}`));

function wantedPort() {
  const text = process.env.DIAL_SHADE_PORT ?? '4173';
  const port = Number(text);
  if (/^\d+$/.test(text) && port >= 1 && port <= 65535) return port;
  console.error(`DIAL_SHADE_PORT is “${text}”, which is no port; give a number from 1 to 65535.`);
  process.exit(1);
}

/** Takes the lock of this folder; where a living start has it, says so and ends, touching nothing. */
function lockFolder() {
  const folder = join(ROOT, 'var');
  try {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const taken = takeLock(join(folder, 'start.lock'));
    if (!taken.owner) return taken;
    const { pid, url } = taken.owner;
    say(
      url
        ? `Dial Shade runs already from this folder (process ${pid}): it is open at ${url}`
        : `Dial Shade is being started from this folder already (process ${pid}).`,
    );
    process.exit(0);
  } catch (error) {
    if (!error.code) throw error;
    console.error(
      `The folder ${folder} cannot be written to (${error.code}); give it to the user who starts this.`,
    );
    process.exit(1);
  }
}

/** The user that the server runs as: never root, where another can read the project. */
function serverAccount() {
  if (process.getuid?.() !== 0) return {};
  const closed = closedFolder();
  const nobody = accountOf('nobody');
  if (!closed && nobody) return nobody;
  say(
    `The server keeps root's rights: ${closed ? `no other user can enter ${closed}` : 'there is no user “nobody”'}.`,
  );
  return {};
}

const databasePatience = patience();
const serverPatience = patience();

/** Starts the database again on the same port; the server answers 503 meanwhile. */
async function databaseGone(trouble) {
  if (trouble) say(trouble.trim());
  while (!ending) {
    const ms = databasePatience.next();
    if (ms === null)
      return end(1, 'The database ended again and again and is given up; its last words stand above.');
    say(`The database ended; it is started again in ${ms / 1000} s.`);
    await pause(ms);
    if (ending) return;
    try {
      databasePatience.started();
      await database.resume();
      return;
    } catch (error) {
      say(error.message);
    }
  }
}

/** How the server before ended: the signal or the code. */
let lastEnd = null;

function serve(port, account) {
  serverPatience.started();
  // Of a process group of its own, so that Ctrl-C reaches only this; it ends by itself when this is gone.
  server = spawn(process.execPath, ['dist/server/main.js'], {
    ...account,
    cwd: ROOT,
    detached: true,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: {
      ...process.env,
      DATABASE_URL: database.appUrl,
      DIAL_SHADE_PORT: String(port),
      DIAL_SHADE_LOG: process.env.DIAL_SHADE_LOG ?? 'warn',
      ...(lastEnd && { DIAL_SHADE_LAST_END: lastEnd }),
    },
  });
  const child = server;
  child.on('message', ({ url }) => lock.note({ url, server: child.pid }));
  child.on('exit', (code, signal) => {
    lastEnd = String(signal ?? code);
    if (!ending && server === child) void serverGone(code, port, account);
  });
}

async function serverGone(code, port, account) {
  if (code === HOPELESS) return end(1);
  const ms = serverPatience.next();
  if (ms === null)
    return end(1, 'The server ended again and again and is given up; its last words stand above.');
  say(`The server ended; it is started again in ${ms / 1000} s.`);
  await pause(ms);
  if (!ending) serve(port, account);
}

const port = wantedPort();
lock = lockFolder();
if (!(await isFree(port)))
  await end(1, `Port ${port} is taken; end what uses it, or start with DIAL_SHADE_PORT set to another.`);
install();
await build();
if (!ending) {
  starting = startDatabase('database', { onGone: (trouble) => void databaseGone(trouble) });
  database = await starting;
  if (!ending) serve(port, serverAccount());
}
