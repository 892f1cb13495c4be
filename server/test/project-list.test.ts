import { projectLineSchema } from '@dial-shade/core';
import request from 'supertest';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { loadSamples, type Running, startServer } from '../src/server';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

describeWithDatabase('the list of projects', () => {
  let running: Running;
  const COPIES = 40;
  const list = async (query: Record<string, string>) => {
    const { body } = await request(running.url).get('/api/projects').query(query).expect(200);
    return projectLineSchema.array().parse(body);
  };
  const names = async (query: Record<string, string>) => (await list(query)).map(({ name }) => name);

  beforeAll(async () => {
    running = await startServer(await freshDatabase(admin!, 'project_list_test'), 0);
    await loadSamples(running.db);
    await running.db.query(
      `INSERT INTO projects (id, document, weather, name, place, options, updated_at)
       SELECT 'copy-' || i, document, weather, 'Copy ' || lpad(i::text, 2, '0'),
              CASE WHEN i % 2 = 0 THEN 'Even Bay' ELSE 'odd hill' END, options,
              timestamptz '2020-01-01' + i * interval '1 hour'
       FROM projects, generate_series(1, ${COPIES}) AS i WHERE id = 'kelp-lane'`,
    );
  });
  afterAll(() => running?.close());

  test('goes by what was touched last, by name, or by place, in parts', async () => {
    const all = await list({});
    expect(all).toHaveLength(COPIES + 2);
    const copies = all.filter(({ name }) => name.startsWith('Copy'));
    expect(copies.map(({ name }) => name)).toEqual(
      Array.from({ length: COPIES }, (_, i) => `Copy ${String(COPIES - i).padStart(2, '0')}`),
    );
    expect(copies[0]).toMatchObject({ place: 'Even Bay', options: 4, revision: 1 });
    const byName = await names({ order: 'name' });
    expect(byName).toEqual([...byName].sort());
    const places = (await list({ order: 'place' })).map(({ place }) => place.toLowerCase());
    expect(places).toEqual([...places].sort());
    expect(await names({ order: 'name', limit: '3', offset: '2' })).toEqual(byName.slice(2, 5));
    await request(running.url).get('/api/projects?order=size').expect(400);
  });

  test('is searched by words of name and place; signs of a pattern stand for themselves', async () => {
    expect(await names({ search: 'kelp' })).toEqual(['Kelp Lane']);
    expect(await names({ search: 'ODD  copy', order: 'name', limit: '2' })).toEqual(['Copy 01', 'Copy 03']);
    expect(await names({ search: 'bay 10' })).toEqual(['Copy 10']);
    for (const search of ['%', '_', '\\', 'copy%', "'; DROP TABLE projects; --"])
      expect(await names({ search })).toEqual([]);
    expect(await names({ search: '  ' })).toHaveLength(COPIES + 2);
  });

  test('follows what is saved', async () => {
    const { body } = await request(running.url).get('/api/projects/copy-7').expect(200);
    const project = { ...body.project, name: 'Renamed' };
    await request(running.url).put('/api/projects/copy-7').send({ revision: 1, project }).expect(200);
    expect(await names({ limit: '1' })).toEqual(['Renamed']);
  });

  test('unpacks no document', async () => {
    const blocks = async (sql: string) => {
      const { rows } = await running.db.query(`EXPLAIN (ANALYZE, BUFFERS, FORMAT JSON) ${sql}`);
      const [{ Plan: plan }] = rows[0]['QUERY PLAN'] as [{ Plan: Record<string, number> }];
      return plan['Shared Hit Blocks']! + plan['Shared Read Blocks']!;
    };
    const listed = await blocks('SELECT id, name, place, options FROM projects ORDER BY updated_at DESC');
    const unpacked = await blocks('SELECT length(document) FROM projects');
    expect(listed * 10).toBeLessThan(unpacked);
  });
});
