import { errorSchema, pictureSchema } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import request from 'supertest';
import { deflateSync } from 'node:zlib';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { type Running, startServer } from '../src/server';
import { keepUp } from '../src/store/upkeep';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

/** A grey PNG as the format has it: signature, header, one data chunk, end. Check sums are left at zero. */
function png(width: number, height: number, tone = 128): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const length = Buffer.alloc(4);
    length.writeUInt32BE(data.length);
    return Buffer.concat([length, Buffer.from(type, 'latin1'), data, Buffer.alloc(4)]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head[8] = 8;
  const rows = deflateSync(Buffer.alloc((Math.min(width, 64) + 1) * Math.min(height, 64), tone));
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  return Buffer.concat([signature, chunk('IHDR', head), chunk('IDAT', rows), chunk('IEND', Buffer.alloc(0))]);
}
const JPEG = Buffer.from([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3]);
const FACTS = 'name=a_b_c&option=a&viewpoint=South%20room&date=2026-12-21&minutes=540';

describeWithDatabase('the gallery', () => {
  let running: Running;
  let project: string;
  const http = () => request(running.url);
  const send = (body: Buffer, facts = FACTS, id = project) =>
    http().post(`/api/projects/${id}/pictures?${facts}`).set('Content-Type', 'image/png').send(body);

  beforeAll(async () => {
    running = await startServer(await freshDatabase(admin!, 'pictures_test'), 0);
    const { body } = await http().post('/api/projects').send({ project: kelpLane() }).expect(201);
    project = body.id;
  });
  afterAll(() => running?.close());

  test('a picture is kept, listed newest first, taken out byte for byte, and removed', async () => {
    const first = await send(png(40, 30)).expect(201);
    const second = await send(png(64, 64, 90)).expect(201);
    expect(pictureSchema.parse(first.body)).toMatchObject({
      projectId: project,
      name: 'a_b_c',
      optionId: 'a',
      viewpoint: 'South room',
      date: '2026-12-21',
      minutes: 540,
      width: 40,
      height: 30,
      bytes: png(40, 30).length,
      hasThumb: false,
    });
    const { body: list } = await http().get(`/api/projects/${project}/pictures`).expect(200);
    expect(list.map(({ id }: { id: string }) => id)).toEqual([second.body.id, first.body.id]);
    const page = await http().get(`/api/projects/${project}/pictures?limit=1&offset=1`).expect(200);
    expect(page.body.map(({ id }: { id: string }) => id)).toEqual([first.body.id]);
    const out = await http()
      .get(`/api/pictures/${first.body.id}`)
      .expect(200)
      .expect('Content-Type', 'image/png');
    expect(Buffer.compare(out.body, png(40, 30))).toBe(0);
    await http().delete(`/api/pictures/${second.body.id}`).expect(204);
    await http().get(`/api/pictures/${second.body.id}`).expect(404);
    await http().delete(`/api/pictures/${second.body.id}`).expect(404);
  });

  test('its small copy stands in lists; without one the picture does', async () => {
    const { body } = await send(png(10, 10, 7)).expect(201);
    const thumb = `/api/pictures/${body.id}/thumb`;
    await http().get(thumb).expect(200).expect('Content-Type', 'image/png');
    await http().put(thumb).set('Content-Type', 'image/jpeg').send(JPEG).expect(204);
    const small = await http().get(thumb).expect(200).expect('Content-Type', 'image/jpeg');
    expect(Buffer.compare(small.body, JPEG)).toBe(0);
    const { body: list } = await http().get(`/api/projects/${project}/pictures`);
    expect(list.find(({ id }: { id: string }) => id === body.id).hasThumb).toBe(true);
  });

  test('what is no picture, too large or said wrongly is refused with a sentence', async () => {
    const missing = '00000000-0000-4000-8000-000000000000';
    const asked: [number, request.Test][] = [
      [422, send(Buffer.from('hello'))],
      [422, send(png(40, 30).subarray(0, 60))],
      [422, send(png(9000, 10))],
      [422, send(png(0, 10))],
      [400, send(png(4, 4), FACTS.replace('2026-12-21', '2026-02-30'))],
      [400, send(png(4, 4), FACTS.replace('540', 'noon'))],
      [400, send(png(4, 4), FACTS.replace('a_b_c', '%00'))],
      [404, send(png(4, 4), FACTS, 'nowhere')],
      [415, http().post(`/api/projects/${project}/pictures?${FACTS}`).send({ a: 1 })],
      [404, http().get(`/api/pictures/${missing}`)],
      [400, http().get('/api/pictures/one')],
      [404, http().put(`/api/pictures/${missing}/thumb`).set('Content-Type', 'image/jpeg').send(JPEG)],
      [422, http().put(`/api/pictures/${missing}/thumb`).set('Content-Type', 'image/jpeg').send(png(4, 4))],
      [
        413,
        http()
          .put(`/api/pictures/${missing}/thumb`)
          .set('Content-Type', 'image/jpeg')
          .send(Buffer.alloc(300_000)),
      ],
    ];
    for (const [status, asking] of asked) {
      const answer = await asking;
      expect(answer.status).toBe(status);
      errorSchema.parse(answer.body);
    }
  });

  test('a gallery that is full says so', async () => {
    await running.db.query(
      `INSERT INTO pictures (project_id, name, option_id, viewpoint, date, minutes, width, height, bytes, picture_hash)
       SELECT $1, 'n', 'a', 'v', '2026-01-01', 0, 1, 1, 1, 'none' FROM generate_series(1, 2000)`,
      [project],
    );
    const { body } = await send(png(4, 4)).expect(422);
    expect(body).toMatchObject({ code: 'gallery-full', message: expect.stringContaining('2,000') });
    await running.db.query("DELETE FROM pictures WHERE picture_hash = 'none'");
  });

  test('the bytes stay as long as a gallery names them, and go with the project', async () => {
    const { body } = await send(png(21, 21)).expect(201);
    await running.db.query("UPDATE blobs SET unnamed_since = now() - interval '30 days'");
    await keepUp(running.db);
    await http().get(`/api/pictures/${body.id}`).expect(200);
    await http().delete(`/api/projects/${project}`).expect(204);
    await http().get(`/api/pictures/${body.id}`).expect(404);
    await keepUp(running.db);
    await running.db.query("UPDATE blobs SET unnamed_since = unnamed_since - interval '30 days'");
    await keepUp(running.db);
    const { rows } = await running.db.query("SELECT 1 FROM blobs WHERE kind IN ('picture', 'thumb')");
    expect(rows).toEqual([]);
  });
});
