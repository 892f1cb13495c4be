import { errorSchema } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import request from 'supertest';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { type Running, startServer } from '../src/server';
import { MAX_SWEEPS } from '../src/store/sweeps';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

describeWithDatabase('sweeps that are kept', () => {
  let running: Running;
  let project: string;
  const http = () => request(running.url);
  const at = (key: string, id = project) => `/api/projects/${id}/sweeps/${key}`;

  beforeAll(async () => {
    running = await startServer(await freshDatabase(admin!, 'sweeps_test'), 0);
    const { body } = await http().post('/api/projects').send({ project: kelpLane() }).expect(201);
    project = body.id;
  });
  afterAll(() => running?.close());

  test('the last one under a key comes back as it was, also a large one; it goes with its project', async () => {
    await http().get(at('massing:a')).expect(204);
    const sweep = { signature: 'x', found: [1, null, { deep: ['“é”'] }] };
    await http().put(at('massing:a')).send(sweep).expect(204);
    await http().put(at('devices:a:d_1-2')).send({ signature: 'y' }).expect(204);
    expect((await http().get(at('massing:a')).expect(200)).body).toEqual(sweep);
    const large = { found: 'x'.repeat(1_000_000) };
    await http().put(at('massing:a')).send(large).expect(204);
    expect((await http().get(at('massing:a')).expect(200)).body).toEqual(large);
    const { body } = await http().post('/api/projects').send({ name: 'Short' }).expect(201);
    await http().put(at('massing:a', body.id)).send(sweep).expect(204);
    await http().delete(`/api/projects/${body.id}`).expect(204);
    await http().get(at('massing:a', body.id)).expect(204);
  });

  test('those that were kept first go where there are too many', async () => {
    const { body } = await http().post('/api/projects').send({ name: 'Many' }).expect(201);
    for (let i = 0; i <= MAX_SWEEPS; i++)
      await http()
        .put(at(`massing:o${i}`, body.id))
        .send({ i })
        .expect(204);
    await http().get(at('massing:o0', body.id)).expect(204);
    expect((await http().get(at('massing:o1', body.id)).expect(200)).body).toEqual({ i: 1 });
  });

  test('what is no sweep is refused with a sentence', async () => {
    const put = (key: string, body: string | object, id = project) =>
      http().put(at(key, id)).set('Content-Type', 'application/json').send(body);
    for (const [status, asked] of [
      [400, put('massing:a', '{"half":')],
      [400, put('massing:a', '[1, 2]')],
      [400, put('Massing', { a: 1 })],
      [400, put('massing:a%20b', { a: 1 })],
      [422, put('massing:a', '{"a": "\\u0000"}')],
      [404, put('massing:a', { a: 1 }, 'nowhere')],
      [413, put('massing:a', { a: 'x'.repeat(5_000_000) })],
    ] as const) {
      const answer = await asked;
      expect([answer.status, errorSchema.parse(answer.body).message]).toEqual([status, expect.any(String)]);
    }
    await http().get(at('Massing')).expect(400);
  });
});
