import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { projectRoot } from '../src/root';

const describeWithDatabase = process.env.TEST_DATABASE_URL ? describe : describe.skip;

/** What the folder has of its own. */
const OWN = ['scripts', 'dist'];

/** A start of the application from a folder of its own. */
interface Start {
  process: ChildProcess;
  port: number;
  said: () => string;
  /** Waits until it has said something. */
  says: (text: string | RegExp) => Promise<void>;
  ended: Promise<number | null>;
}

/** Takes what the server's process knows, and tries to be the superuser with it. */
async function triedAsTheServer(url: string, folder: string, uid: number): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const { rows } = await client.query(
      'SELECT current_user AS name, rolsuper FROM pg_roles WHERE rolname = current_user',
    );
    expect(rows).toEqual([{ name: 'dial_app', rolsuper: false }]);
    for (const sql of [
      'SET ROLE dial',
      'SET SESSION AUTHORIZATION dial',
      "ALTER ROLE dial PASSWORD 'x'",
      'ALTER ROLE dial_app SUPERUSER',
      'CREATE ROLE other SUPERUSER',
      'GRANT pg_execute_server_program TO dial_app',
      "COPY (SELECT 1) TO PROGRAM 'true'",
      "SELECT pg_read_file('pg_hba.conf')",
      'SELECT rolpassword FROM pg_authid',
      "ALTER SYSTEM SET port = '1'",
    ])
      await expect(client.query(sql)).rejects.toMatchObject({ code: '42501' });
  } finally {
    await client.end();
  }
  for (const name of ['dial', 'postgres']) {
    const other = new pg.Client({ connectionString: url.replace('dial_app', name) });
    await expect(other.connect()).rejects.toThrow(/password authentication failed/);
    await other.end().catch(() => {});
  }
  // Neither is a password kept in a file, nor could the server look for one.
  expect(readdirSync(folder).filter((name) => /secret|password/.test(name))).toEqual([]);
  expect(spawnSync('ls', [folder], { uid, encoding: 'utf8' }).stderr).toContain('Permission denied');
}

describeWithDatabase('npm start', () => {
  let folder: string;
  const starts: Start[] = [];

  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'dial-start-'));
    chmodSync(folder, 0o755);
    const root = projectRoot();
    // The scripts find their folder by where they lie; with the times kept, what is bundled counts as up to date.
    for (const name of readdirSync(root))
      if (![...OWN, 'var', '.git'].includes(name)) symlinkSync(join(root, name), join(folder, name));
    for (const name of OWN)
      cpSync(join(root, name), join(folder, name), { recursive: true, preserveTimestamps: true });
  });
  afterEach(async () => {
    for (const { process: child, ended } of starts.splice(0)) {
      if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM');
      await ended;
    }
  });
  afterAll(() => {
    for (const name of readdirSync(folder))
      if (![...OWN, 'var'].includes(name)) unlinkSync(join(folder, name));
    rmSync(folder, { recursive: true, force: true });
  });

  async function freePort(): Promise<number> {
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as { port: number };
    await new Promise((resolve) => server.close(resolve));
    return port;
  }

  async function start(env: Record<string, string> = {}): Promise<Start> {
    const port = await freePort();
    const child = spawn(process.execPath, ['scripts/start.mjs'], {
      cwd: folder,
      env: {
        ...process.env,
        DIAL_SHADE_PORT: String(port),
        DIAL_SHADE_LOG: 'fatal',
        DIAL_SHADE_SAMPLE_RUNS: 'no',
        NODE_ENV: '',
        ...env,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let text = '';
    let heard = () => {};
    const add = (chunk: Buffer) => {
      text += String(chunk);
      heard();
    };
    child.stdout.on('data', add);
    child.stderr.on('data', add);
    const ended = new Promise<number | null>((resolve) => child.once('exit', (code) => resolve(code)));
    const begun: Start = {
      process: child,
      port,
      said: () => text,
      ended,
      says: (wanted) =>
        new Promise((resolve, reject) => {
          heard = () => {
            if (typeof wanted === 'string' ? text.includes(wanted) : wanted.test(text)) resolve();
          };
          void ended.then(() => reject(new Error(`It ended without saying ${String(wanted)}: ${text}`)));
          heard();
        }),
    };
    starts.push(begun);
    return begun;
  }

  const health = ({ port }: Start) =>
    fetch(`http://127.0.0.1:${port}/api/health`)
      .then((answer) => answer.status)
      .catch(() => 0);
  const until = async (isSo: () => Promise<boolean>) => {
    while (!(await isSo())) await new Promise((resolve) => setTimeout(resolve, 100));
  };
  const lockOf = () =>
    JSON.parse(readFileSync(join(folder, 'var/start.lock'), 'utf8')) as { pid: number; server: number };
  /** Where the data lies, as the lock of the database in the folder tells it. */
  const data = () => join(folder, 'var/database');
  const databasePid = () => Number(readFileSync(join(data(), 'postmaster.pid'), 'utf8').split('\n')[0]);

  test('what ended is started again, a second start says where the first one is, and Ctrl-C ends all', async () => {
    const first = await start();
    await first.says(/open at http/);
    expect(await health(first)).toBe(200);
    expect(statSync(join(folder, 'var')).mode & 0o777).toBe(0o700);
    const isRoot = process.getuid?.() === 0;
    const uids = /Uid:\s+(\d+)/.exec(readFileSync(`/proc/${lockOf().server}/status`, 'utf8'))!;
    expect(Number(uids[1]) === 0).toBe(false);
    expect(isRoot || Number(uids[1]) === process.getuid?.()).toBe(true);
    const environment = isRoot ? readFileSync(`/proc/${lockOf().server}/environ`, 'utf8') : '';
    const url = /(?:^|\0)DATABASE_URL=([^\0]+)/.exec(environment)?.[1];
    if (url) await triedAsTheServer(url, join(folder, 'var'), Number(uids[1]));
    const own = await fetch(`http://127.0.0.1:${first.port}/api/projects`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name: 'Kept' }),
    });
    expect(own.status).toBe(201);

    const second = await start();
    expect(await second.ended).toBe(0);
    expect(second.said()).toContain(`it is open at http://127.0.0.1:${first.port}`);
    expect(await health(first)).toBe(200);

    const server = lockOf().server;
    process.kill(server, 'SIGKILL');
    await until(async () => (await health(first)) === 200 && lockOf().server !== server);

    const database = databasePid();
    process.kill(database, 'SIGQUIT');
    await until(async () => (await health(first)) === 503);
    await until(async () => (await health(first)) === 200);
    expect(databasePid()).not.toBe(database);
    const list = (await (await fetch(`http://127.0.0.1:${first.port}/api/projects`)).json()) as {
      name: string;
    }[];
    expect(list.map(({ name }) => name)).toContain('Kept');

    first.process.kill('SIGINT');
    expect(await first.ended).toBe(0);
    expect(existsSync(join(data(), 'postmaster.pid'))).toBe(false);
    expect(existsSync(join(folder, 'var/start.lock'))).toBe(false);
  });

  test('a lock of a dead start, and of a number that is somebody else’s now, keeps nobody out', async () => {
    writeFileSync(join(folder, 'var/start.lock'), JSON.stringify({ pid: process.pid, began: '1', url: 'x' }));
    writeFileSync(join(data(), 'postmaster.pid'), `${process.pid}\n`);
    const again = await start();
    await again.says(/open at http/);
    again.process.kill('SIGINT');
    expect(await again.ended).toBe(0);
  });

  test('a start that was cut off while the database was made heals', async () => {
    const making = join(folder, 'var/database.making');
    mkdirSync(making);
    writeFileSync(join(making, 'half'), '');
    const keep = `${data()}-kept`;
    cpSync(data(), keep, { recursive: true });
    rmSync(data(), { recursive: true });
    const again = await start();
    await again.says(/open at http/);
    again.process.kill('SIGINT');
    expect(await again.ended).toBe(0);
    expect(existsSync(making)).toBe(false);
    rmSync(keep, { recursive: true });
  });

  test('data without PG_VERSION is left alone and said', async () => {
    const version = join(data(), 'PG_VERSION');
    const kept = readFileSync(version);
    unlinkSync(version);
    const refused = await start();
    expect(await refused.ended).toBe(1);
    expect(refused.said()).toContain('PG_VERSION is missing. Nothing was touched.');
    expect(existsSync(join(data(), 'base'))).toBe(true);
    writeFileSync(version, '9\n');
    const other = await start();
    expect(await other.ended).toBe(1);
    expect(other.said()).toContain('is of PostgreSQL 9, which is not installed. Install postgresql-9,');
    writeFileSync(version, kept);
  });

  test('wrong and taken ports are said before anything is touched', async () => {
    for (const DIAL_SHADE_PORT of ['0', '70000', 'x', '']) {
      const wrong = await start({ DIAL_SHADE_PORT });
      expect(await wrong.ended).toBe(1);
      expect(wrong.said()).toContain('which is no port');
    }
    const other = createServer();
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve));
    const { port } = other.address() as { port: number };
    const taken = await start({ DIAL_SHADE_PORT: String(port) });
    expect(await taken.ended).toBe(1);
    expect(taken.said()).toContain(`Port ${port} is taken`);
    await new Promise((resolve) => other.close(resolve));
  });

  test('Ctrl-C while it starts ends what was started, twice ends it at once', async () => {
    const early = await start();
    await until(async () => existsSync(join(data(), 'postmaster.pid')));
    early.process.kill('SIGINT');
    expect(await early.ended).toBe(0);
    expect(existsSync(join(data(), 'postmaster.pid'))).toBe(false);
    const twice = await start();
    await twice.says(/open at http/);
    twice.process.kill('SIGINT');
    twice.process.kill('SIGINT');
    // Signals that come together may be taken as one; either way it ends, and soon.
    expect([0, 130]).toContain(await twice.ended);
    expect(await health(twice)).toBe(0);
  });
});
