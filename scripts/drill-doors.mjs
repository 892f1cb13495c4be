import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './console.mjs';
import { startDatabase } from './database.mjs';

/** Spellings of one address that a route must not answer where the check of origin does not see it. */
const SPELLINGS = [
  '/api/projects',
  '/API/projects',
  '/Api/Projects',
  '//api/projects',
  '/api//projects',
  '/./api/projects',
  '/api/./projects',
  '/x/../api/projects',
  '/api%2fprojects',
  '/%61pi/projects',
  '/api/projects/',
  '/api/projects//',
  '/api/projects?x=1',
];

const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** A foreign page in odd spellings of an address. */
const foreignPages = ({ ask, url }) => ({
  name: `${SPELLINGS.length} spellings from a foreign page, read and written`,
  wanted: 'none is answered',
  async put() {
    const answered = [];
    for (const path of SPELLINGS)
      for (const method of ['GET', 'POST']) {
        const headers = { Origin: 'http://elsewhere.example', 'Content-Type': 'application/json' };
        const body = method === 'POST' ? '{"name":"Foreign"}' : undefined;
        const { status } = await fetch(`${url}${path}`, { method, headers, body, redirect: 'manual' });
        if (status < 400) answered.push(`${method} ${path} ${status}`);
      }
    // The page itself stands at every address that is none of the API's.
    const wrong = answered.filter((one) => !/^GET .* 200$/.test(one) || /^GET \/api\/projects/.test(one));
    const { body } = await ask('/projects?search=Foreign');
    return {
      found: wrong.join(', ') || `none, and ${body.length} projects made`,
      isMet: wrong.length === 0 && body.length === 0,
    };
  },
});

/** Names that begin as formulas do. */
const formulas = () => ({
  name: 'names that would open as formulas, in a table',
  wanted: 'all as text',
  async put() {
    const file = JSON.parse(readFileSync(join(ROOT, 'samples/projects/kelp-lane.json'), 'utf8'));
    const names = ['=1+2', '+1', '-1', '@SUM(A1)'];
    for (const [i, one] of file.neighbours.entries()) one.name = `${names[i % names.length]} ${i}`;
    const [input, out] = ['drill-names.json', 'drill-names.csv'].map((name) => join(ROOT, 'var', name));
    writeFileSync(input, JSON.stringify(file));
    // Behind the terrace, whose houses shade it in turn.
    const asked = ['--set', file.momentSets[0].id, '--point', '20,34,14'];
    const dial = ['dist/cli/dial.js', 'moments', input, ...asked, '--csv', out];
    const child = spawn(process.execPath, dial, { cwd: ROOT, stdio: ['ignore', 'ignore', 'inherit'] });
    const [code] = await once(child, 'exit');
    const cells = code === 0 ? readFileSync(out, 'utf8').split(/[\n,]/) : [];
    const isFormula = (cell) => /^"?[=+@\t\r-]/.test(cell) && !/^-?[\d.]+(e-?\d+)?$/.test(cell);
    const open = cells.filter(isFormula);
    const guarded = cells.filter((cell) => /^"?'[=+@-]/.test(cell)).length;
    rmSync(input, { force: true });
    rmSync(out, { force: true });
    return {
      found: `${open.length} of ${cells.length} cells open as formulas, ${guarded} are guarded`,
      isMet: open.length === 0 && guarded > 0,
    };
  },
});

/** A run through orderly ends of the server. */
const orderlyRestarts = ({ asSuperuser, ask, isShort, restart }) => ({
  name: 'a run through three orderly restarts',
  wanted: 'done, with what it had, in one attempt',
  async put() {
    const { project } = (await ask('/projects/kelp-lane')).body;
    const [study] = project.studies;
    project.targets.find(({ id }) => id === study.targets[0]).spacingM = isShort ? 0.5 : 0.25;
    study.window = { from: '2026-01-01', to: '2026-12-31', startMinutes: 0, endMinutes: 1440 };
    study.stepMinutes = 20;
    const made = await ask('/projects', { method: 'POST', body: { project } });
    const body = { study: study.id, option: 'b' };
    const run = await ask(`/projects/${made.body.id}/runs`, { method: 'POST', body });
    const standing = async () => (await ask(`/runs/${run.body.id}`)).body;
    const isOver = ({ status }) => ['done', 'stopped', 'failed'].includes(status);
    let restarts = 0;
    for (; restarts < 3; restarts++) {
      const { sensorsDone: before } = await standing();
      let now = await standing();
      while (!isOver(now) && !(now.status === 'running' && now.sensorsDone > before)) {
        await pause(30);
        now = await standing();
      }
      if (isOver(now)) break;
      await restart();
    }
    let last = await standing();
    while (!isOver(last)) {
      await pause(200);
      last = await standing();
    }
    const { rows } = await asSuperuser((client) =>
      client.query('SELECT attempts FROM runs WHERE id = $1', [run.body.id]),
    );
    return {
      found: `${last.status} after ${restarts} restarts, attempts ${rows[0].attempts}${last.message ? `: ${last.message}` : ''}`,
      isMet: last.status === 'done' && restarts === 3 && rows[0].attempts <= 1,
    };
  },
});

/** A database whose start was killed. */
const leftDatabase = () => ({
  name: 'a database whose start was killed',
  wanted: 'the next start ends it and has its data',
  async put() {
    const made = `import('./scripts/database.mjs').then(async ({ startDatabase }) => {
      const { url } = await startDatabase('drill-left', { fresh: true });
      const { default: pg } = await import('pg');
      const client = new pg.Client({ connectionString: url });
      await client.connect();
      await client.query('CREATE TABLE kept AS SELECT 42 AS answer');
      await client.end();
      console.log('ready');
    })`;
    const child = spawn(process.execPath, ['--input-type=module', '-e', made], {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let told = '';
    for await (const chunk of child.stdout) if ((told += chunk).includes('ready')) break;
    child.kill('SIGKILL');
    const next = await startDatabase('drill-left');
    const { default: pg } = await import('pg');
    const client = new pg.Client({ connectionString: next.url });
    await client.connect();
    const { rows } = await client.query('SELECT answer FROM kept');
    await client.end();
    await next.stop();
    return { found: `started, ${rows.length} row of before`, isMet: rows[0]?.answer === 42 };
  },
});

/** More runs than a project may have. */
const runsAtTheStart = ({ asSuperuser, ask, isShort, restart }) => ({
  name: '3,000 runs of one project at the start',
  wanted: 'at most 2,000 after it',
  async put() {
    const made = await ask('/projects', { method: 'POST', body: { name: 'Runs' } });
    const count = (client) =>
      client
        .query('SELECT count(*)::int AS n FROM runs WHERE project_id = $1', [made.body.id])
        .then(({ rows }) => rows[0].n);
    await asSuperuser((client) =>
      client.query(
        `INSERT INTO runs (id, project_id, study_id, option_id, status, signature, created_at, finished_at)
         SELECT gen_random_uuid(), $1, 's', 'a', 'done', '{}', now() - i * interval '1 minute', now() - i * interval '1 minute'
         FROM generate_series(1, 3000) i`,
        [made.body.id],
      ),
    );
    await restart();
    let left = await asSuperuser(count);
    for (let tries = 0; left > 2000 && (isShort || tries < 100); tries++) {
      await pause(100);
      left = await asSuperuser(count);
    }
    return { found: `${left} left`, isMet: left === 2000 };
  },
});

/**
 * What stands at the doors: origins, what tables open as, orderly restarts, a database that was left behind, room.
 * Each gives what was found, what is wanted, and whether it is so.
 * @param by what a door is tried with: `restart` ends the server as a system does and starts it again
 */
export const doors = (by) => [
  foreignPages(by),
  formulas(),
  orderlyRestarts(by),
  leftDatabase(),
  runsAtTheStart(by),
];
