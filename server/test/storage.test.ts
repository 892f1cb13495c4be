import { storageSchema } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { loadSamples, type Running, startServer } from '../src/server';
import { putBlob } from '../src/store/blobs';
import { type Database, openDatabase } from '../src/store/database';
import { checkedDocument } from '../src/store/documents';
import { createProject, listProjects, refuseTooManyBlobs } from '../src/store/projects';
import { PROJECT_LIMITS } from '../src/store/storage';
import { keepSweep } from '../src/store/sweeps';
import { keepUp } from '../src/store/upkeep';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

describeWithDatabase('room for what is kept', () => {
  let db: Database;
  beforeAll(async () => {
    db = openDatabase(await freshDatabase(admin!, 'storage_test'));
    await createProject(db, checkedDocument(kelpLane()), 'p');
  });
  afterAll(() => db?.end());

  const used = async () =>
    (await listProjects(db, { limit: 1, offset: 0, search: '', order: 'changed' }))[0]!.bytes;

  test('what a project takes is told with it: document, pictures, sweeps, results', async () => {
    const before = await used();
    const stored = checkedDocument(kelpLane());
    expect(before).toBe(Buffer.byteLength(stored.text) + Buffer.byteLength(stored.weather!));
    await keepSweep(db, 'p', 'massing:a', 'x'.repeat(1000));
    await db.query(
      `INSERT INTO pictures (project_id, name, option_id, viewpoint, date, minutes, width, height, bytes, picture_hash)
       VALUES ('p', 'n', 'a', 'v', '2026-01-01', 0, 1, 1, 500, 'h')`,
    );
    await putBlob(db, 'r'.repeat(64), 'result', Buffer.alloc(300));
    await run('r'.repeat(64), 0);
    expect(await used()).toBe(before + 1800);
  });

  const run = (hash: string, age: number) =>
    db.query(
      `INSERT INTO runs (id, project_id, study_id, option_id, status, signature, result_hash, created_at, finished_at)
       VALUES ($1, 'p', 's', 'a', 'done', '{}', $2, now() - $3 * interval '1 day', now() - $3 * interval '1 day')`,
      [randomUUID(), hash, age],
    );

  test('sweeps of a project that take too much go, the oldest first; the newest always stays', async () => {
    const third = PROJECT_LIMITS.sweeps / 3;
    for (const key of ['massing:a', 'massing:b', 'massing:c'])
      await keepSweep(db, 'p', key, key[8]!.repeat(third - 10));
    await keepSweep(db, 'p', 'massing:d', 'x'.repeat(third - 10));
    const { rows } = await db.query<{ key: string }>('SELECT key FROM sweeps ORDER BY kept_at');
    expect(rows.map(({ key }) => key)).toEqual(['massing:b', 'massing:c', 'massing:d']);
  });

  test('runs of a project that are too many go, the oldest first', async () => {
    await db.query(
      `INSERT INTO runs (id, project_id, study_id, option_id, status, signature, finished_at)
       SELECT gen_random_uuid(), 'p', 's', 'b', 'stopped', '{}', now() - i * interval '1 minute'
       FROM generate_series(1, $1) i`,
      [PROJECT_LIMITS.runs + 9],
    );
    // One of them has the only result, and stays.
    expect((await keepUp(db)).runs).toBe(10);
    const { rows } = await db.query<{ count: number }>('SELECT count(*)::int AS count FROM runs');
    expect(rows[0]!.count).toBe(PROJECT_LIMITS.runs);
    expect((await keepUp(db)).runs).toBe(0);
  });

  test('meshes of a project have a limit together', async () => {
    const hashes = ['m', 'n', 'o'].map((letter) => letter.repeat(64));
    for (const hash of hashes) await putBlob(db, hash, 'mesh', Buffer.alloc(1000));
    await refuseTooManyBlobs(db, hashes);
    const sized = { query: async () => ({ rows: [{ bytes: PROJECT_LIMITS.blobs + 1 }] }) };
    await expect(refuseTooManyBlobs(sized as unknown as Database, hashes)).rejects.toThrow(
      'take 1,025 MB together, and 1,024 MB is the most',
    );
  });
});

describeWithDatabase('a store that is full', () => {
  let running: Running;
  const http = () => request(running.url);
  beforeAll(async () => {
    running = await startServer(await freshDatabase(admin!, 'full_test'), 0);
    await loadSamples(running.db);
  });
  afterEach(() => {
    delete process.env.DIAL_SHADE_STORAGE_GB;
  });
  afterAll(() => running?.close());

  test('is looked through when a server starts: what is not kept any longer goes', async () => {
    await putBlob(running.db, 'u'.repeat(64), 'mesh', Buffer.alloc(9));
    await running.db.query("UPDATE blobs SET unnamed_since = now() - interval '8 days'");
    const other = await startServer(running.databaseUrl, 0);
    try {
      while ((await running.db.query('SELECT 1 FROM blobs')).rowCount)
        await new Promise((resolve) => setTimeout(resolve, 20));
    } finally {
      await other.close();
    }
  });

  test('says what it holds; refuses what is new, and goes on saving what is there', async () => {
    const storage = storageSchema.parse((await http().get('/api/storage').expect(200)).body);
    expect(storage).toMatchObject({ limitBytes: 32 * 2 ** 30, isNearlyFull: false });
    expect(storage.kinds.documents).toBeGreaterThan(100_000);
    expect(storage.bytes).toBeGreaterThan(storage.kinds.documents);
    // A server of its own, so that it measures anew.
    process.env.DIAL_SHADE_STORAGE_GB = '0.0001';
    const other = await startServer(running.databaseUrl, 0);
    const full = () => request(other.url);
    try {
      expect((await full().get('/api/storage').expect(200)).body.isNearlyFull).toBe(true);
      for (const asked of [
        full().post('/api/projects').send({ name: 'No room' }),
        full().post('/api/projects/kelp-lane/runs').send({ study: 'courtyards-march', option: 'a' }),
        full().put('/api/projects/kelp-lane/sweeps/massing:a').send({ a: 1 }),
        full().post('/api/meshes').set('Content-Type', 'application/octet-stream').send(Buffer.alloc(16)),
      ]) {
        const { body } = await asked.expect(507);
        expect(body).toMatchObject({ code: 'storage-full' });
        expect(body.message).toContain('What is there can still be changed.');
      }
      const changes = { fields: { note: { value: 'saved' } }, gone: [] };
      await full().patch('/api/projects/kelp-lane').send({ revision: 1, changes }).expect(200);
      await full().delete('/api/projects/mesa-baja').expect(204);
    } finally {
      await other.close();
    }
  });
});
