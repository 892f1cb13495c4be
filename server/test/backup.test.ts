import { contentHash } from '@dial-shade/core';
import { execFile } from 'node:child_process';
import { randomBytes, randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import request from 'supertest';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { loadSamples, type Running, startServer } from '../src/server';
import { projectRoot } from '../src/root';
import { putBlob } from '../src/store/blobs';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

describeWithDatabase('everything taken out of a server and put into another', () => {
  let from: Running;
  let to: Running;
  const folder = mkdtempSync(join(tmpdir(), 'dial-backup-'));
  const file = join(folder, 'all.tar.gz');
  /** Runs the bundled command line; gives its code and what it said. */
  const dial = (...args: string[]) =>
    new Promise<[code: number, said: string]>((resolve) => {
      execFile(process.execPath, [join(projectRoot(), 'dist/cli/dial.js'), ...args], (error, out, trouble) =>
        resolve([error ? Number(error.code) : 0, (out + trouble).trim()]),
      );
    });

  beforeAll(async () => {
    from = await startServer(await freshDatabase(admin!, 'backup_from'), 0);
    to = await startServer(await freshDatabase(admin!, 'backup_to'), 0);
    await loadSamples(from.db);
    const http = request(from.url);
    await http
      .put('/api/projects/kelp-lane/sweeps/massing:a')
      .send({ found: [1.5] })
      .expect(204);
    const changes = { fields: { note: { value: 'kept' } }, gone: [] };
    await http.patch('/api/projects/kelp-lane').send({ revision: 1, changes }).expect(200);
    // Bytes that gzip cannot make smaller, of several pieces.
    for (const [kind, size] of [
      ['result', 3_000_000],
      ['picture', 5000],
    ] as const) {
      const bytes = randomBytes(size);
      await putBlob(from.db, contentHash(bytes), kind, bytes);
      const hash = contentHash(bytes);
      if (kind === 'picture')
        await from.db.query(
          `INSERT INTO pictures (project_id, name, option_id, viewpoint, date, minutes, width, height, bytes, picture_hash)
           VALUES ('kelp-lane', 'Noon, “court”', 'a', 'v', '2026-06-21', 720.5, 10, 20, $1, $2)`,
          [size, hash],
        );
      else
        for (const status of ['done', 'queued'])
          await from.db.query(
            `INSERT INTO runs (id, project_id, study_id, option_id, status, signature, sensors, rays, seconds, result_hash, document, revision)
             VALUES ($1, 'kelp-lane', 'courtyards-march', 'a', $2, '{"a": {"name": "x", "hash": "y"}}', 7, 12345678901, 1.25, $3, '{}', 2)`,
            [randomUUID(), status, status === 'done' ? hash : null],
          );
    }
  });
  afterAll(async () => {
    await from?.close();
    await to?.close();
    rmSync(folder, { recursive: true });
  });

  const ROWS = {
    projects:
      'SELECT id, revision, document, weather, name, place, options, blobs, created_at, updated_at FROM projects ORDER BY id',
    sweeps: 'SELECT * FROM sweeps ORDER BY key',
    pictures: 'SELECT * FROM pictures ORDER BY id',
    runs: "SELECT * FROM runs WHERE status = 'done' ORDER BY id",
    blobs: 'SELECT hash, kind, bytes FROM blobs ORDER BY hash',
    samples: 'SELECT * FROM samples_loaded ORDER BY id',
  };
  const rowsOf = async ({ db }: Running) =>
    Object.fromEntries(
      await Promise.all(
        Object.entries(ROWS).map(async ([name, query]) => [name, (await db.query(query)).rows] as const),
      ),
    );
  /** Rows as they stand but for what is not taken along, and the order of the keys of documents. */
  const lasting = ({ runs, projects, ...rest }: Record<string, object[]>) => ({
    ...rest,
    runs: runs!.map((run) => ({ ...run, document: null })),
    projects: projects!.map((row) => ({
      ...row,
      document: JSON.parse((row as { document: string }).document) as object,
    })),
  });

  test('all of it is there again: projects with their revisions, sweeps, pictures, results', async () => {
    expect(await dial('backup', file, '--server', from.url)).toEqual([
      0,
      expect.stringContaining('bytes written'),
    ]);
    const [code, words] = await dial('restore', file, '--server', to.url);
    expect([code, words]).toEqual([0, '2 projects restored, 0 replaced, 0 kept as they were.']);
    const [before, after] = [await rowsOf(from), await rowsOf(to)];
    expect(after.blobs).toHaveLength(2);
    expect(after.runs).toHaveLength(1);
    expect(lasting(after)).toEqual(lasting(before));
    // The other server goes on from it: nothing is loaded anew, and it can be changed.
    expect(await loadSamples(to.db)).toEqual([]);
    const changes = { fields: { note: { value: 'there' } }, gone: [] };
    await request(to.url).patch('/api/projects/kelp-lane').send({ revision: 2, changes }).expect(200);
  });

  test('what is there already is not touched unless it is said', async () => {
    const note = async () => (await request(to.url).get('/api/projects/kelp-lane')).body.project.note;
    const [code, words] = await dial('restore', file, '--server', to.url);
    expect(code).toBe(1);
    expect(words).toContain('“Kelp Lane”, “Mesa Baja” are there already');
    await request(to.url).delete('/api/projects/mesa-baja').expect(204);
    expect(await dial('restore', file, '--keep', '--server', to.url)).toEqual([
      0,
      '1 projects restored, 0 replaced, 1 kept as they were.',
    ]);
    expect(await note()).toBe('there');
    expect(await dial('restore', file, '--replace', '--server', to.url)).toEqual([
      0,
      '0 projects restored, 2 replaced, 0 kept as they were.',
    ]);
    expect(await note()).toBe('kept');
    expect(lasting(await rowsOf(to))).toEqual(lasting(await rowsOf(from)));
  });

  test('a backup that is cut off, spoilt or none at all changes nothing', async () => {
    const whole = readFileSync(file);
    const tar = gunzipSync(whole);
    const spoilt = Buffer.from(tar);
    const blob = tar.indexOf('blobs/result/');
    spoilt[blob + 600]! ^= 1;
    const later = Buffer.from(tar);
    later.write('2', tar.indexOf('"version":1') + 10);
    const before = await rowsOf(to);
    for (const [bytes, words] of [
      [whole.subarray(0, whole.length / 2), 'cannot be read'],
      [gzipSync(tar.subarray(0, tar.indexOf('projects/2.json'))), 'ended before it was whole'],
      [gzipSync(spoilt), 'are not what they were'],
      [gzipSync(later), 'of version 2, which a newer program made'],
      [gzipSync(Buffer.from('no backup')), 'cannot be read'],
      [Buffer.from('{}'), 'cannot be read'],
    ] as const) {
      writeFileSync(join(folder, 'bad.tar.gz'), bytes);
      const [code, said] = await dial('restore', join(folder, 'bad.tar.gz'), '--replace', '--server', to.url);
      expect([code, said]).toEqual([1, expect.stringContaining(words)]);
    }
    expect(await rowsOf(to)).toEqual(before);
  });

  test('projects go out as project files, all or some', async () => {
    const out = join(folder, 'files');
    expect(await dial('export', '--all', '--out', out, '--server', from.url)).toEqual([
      0,
      expect.stringContaining('2 projects written'),
    ]);
    expect(readdirSync(out).sort()).toEqual(['kelp-lane.json', 'mesa-baja.json']);
    for (const name of readdirSync(out)) expect((await dial('check', join(out, name)))[0]).toBe(0);
    expect((await dial('export', 'mesa-baja', '--out', join(folder, 'one'), '--server', from.url))[0]).toBe(
      0,
    );
    expect(readFileSync(join(folder, 'one/mesa-baja.json'))).toEqual(
      readFileSync(join(out, 'mesa-baja.json')),
    );
    for (const [args, words] of [
      [['export', '--out', out, '--server', from.url], 'say --all'],
      [['export', 'nowhere', '--out', out, '--server', from.url], 'does not exist'],
      [['backup', join(folder, 'x'), '--server', 'http://127.0.0.1:1'], 'No server answers'],
      [['backup', join(folder, 'no/x'), '--server', from.url], 'could not be written whole'],
      [['restore', join(folder, 'none'), '--server', to.url], 'There is no file'],
      [['restore', file, '--keep', '--replace', '--server', to.url], 'Choose one'],
    ] as const)
      expect(await dial(...args)).toEqual([1, expect.stringContaining(words)]);
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([]);
  });
});
