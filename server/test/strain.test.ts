import { errorSchema } from '@dial-shade/core';
import express from 'express';
import { once } from 'node:events';
import { createServer, request as httpRequest } from 'node:http';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { answerError, handle } from '../src/api/answers';
import { BodyRoom, type BodyWanted, readBody } from '../src/api/bodies';
import { loadSamples, type Running, startServer } from '../src/server';
import { putBlob } from '../src/store/blobs';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;
const MB = 1_048_576;

describe('bodies that come in', () => {
  const wanted: BodyWanted = {
    type: 'application/json',
    limit: 300 * MB,
    room: new BodyRoom(96 * MB),
  };
  const saves = new BodyRoom(MB);
  const SHORT = { idleMs: 150, totalMs: 600 };
  const app = express();
  app.post(
    '/:lane',
    handle(async (asked, response) => {
      const { lane } = asked.params;
      const own = lane === 'short' ? { times: SHORT } : lane === 'save' ? { room: saves } : {};
      const body = await readBody(asked, response, { ...wanted, ...own });
      response.json({ bytes: body.length });
    }),
  );
  app.use(answerError);
  const server = createServer(app);
  beforeAll(async () => once(server.listen(0, '127.0.0.1'), 'listening'));
  afterAll(() => server.close());

  const begin = (lane = 'upload') => {
    const { port } = server.address() as AddressInfo;
    const headers = { 'Content-Type': 'application/json', 'Transfer-Encoding': 'chunked' };
    const sent = httpRequest({ host: '127.0.0.1', port, path: `/${lane}`, method: 'POST', headers });
    const answer = new Promise<{ status: number; code?: string; bytes?: number }>((resolve) => {
      // It may be cut off while it is still being sent.
      sent.on('error', () => resolve({ status: 0 }));
      let isAnswered = false;
      sent.on('close', () => isAnswered || resolve({ status: 0 }));
      sent.on('response', (response) => {
        isAnswered = true;
        let text = '';
        response.on('data', (chunk) => (text += String(chunk)));
        response.on('end', () => resolve({ status: response.statusCode, ...JSON.parse(text) }));
      });
    });
    return { sent, answer };
  };

  test('one that keeps still, and one that never ends, are let go of in their time', async () => {
    const still = begin('short');
    still.sent.write('[');
    const endless = begin('short');
    const drip = setInterval(() => endless.sent.write(' '), 40);
    expect(await still.answer).toMatchObject({ status: 408, code: 'slow' });
    expect(await endless.answer).toMatchObject({ status: 408, code: 'slow' });
    clearInterval(drip);
  });

  test('one that stands still keeps nobody else from sending', async () => {
    const endless = begin();
    endless.sent.write('[');
    const large = begin();
    large.sent.end(`["${'x'.repeat(20 * MB)}"]`);
    expect(await large.answer).toEqual({ status: 200, bytes: 20 * MB + 4 });
    endless.sent.end(']');
    expect(await endless.answer).toEqual({ status: 200, bytes: 2 });
  });

  test('what is over the budget of a document is refused while it comes in', async () => {
    for (const [text, status, code] of [
      ['[['.repeat(100_000), 422, 'project'],
      [`[${'[],'.repeat(1_100_000)}`, 422, 'project'],
      [`[${'1,'.repeat(30_100_000)}`, 413, 'too-large'],
    ] as const) {
      const { sent, answer } = begin();
      // It is answered although it never ends.
      sent.write(text);
      expect(await answer).toMatchObject({ status, code });
      sent.destroy();
    }
  });

  test('uploads that fill their room are told so, and leave that of saves free', async () => {
    const filler = 'x'.repeat(16 * MB);
    const uploads = Array.from({ length: 8 }, () => begin());
    for (const { sent } of uploads) sent.write(`"${filler}`);
    const refused = await Promise.race(
      uploads.map(async ({ answer }) => {
        const told = await answer;
        return told.status === 503 ? told : new Promise<typeof told>(() => {});
      }),
    );
    expect(refused).toMatchObject({ status: 503, code: 'too-busy' });
    const save = begin('save');
    save.sent.end('"a"');
    expect(await save.answer).toEqual({ status: 200, bytes: 3 });
    // Once those are gone their room is free again.
    uploads.forEach(({ sent }) => sent.destroy());
    await Promise.all(uploads.map(({ answer }) => answer));
    for (;;) {
      const after = begin();
      after.sent.end(`"${filler}"`);
      const { status } = await after.answer;
      if (status === 200) break;
      expect(status).toBe(503);
    }
  });
});

describeWithDatabase('a server under strain', () => {
  let running: Running;
  const http = () => request(running.url);
  beforeAll(async () => {
    running = await startServer(await freshDatabase(admin!, 'strain_test'), 0);
    await loadSamples(running.db);
  });
  afterAll(() => running?.close());

  const hash = 'a'.repeat(64);
  const bytes = Buffer.alloc(12 * MB + 345);
  for (let i = 0; i < bytes.length; i += 7) bytes[i] = (i * 31) & 255;

  test('many who take the same mesh get it whole, health answers meanwhile, nobody is told that the database is away', async () => {
    await putBlob(running.db, hash, 'mesh', bytes);
    let isOver = false;
    const healths: number[] = [];
    const watching = (async () => {
      while (!isOver) {
        const answer = await fetch(`${running.url}/api/health`);
        healths.push(answer.status);
        await answer.text();
      }
    })();
    const taken = await Promise.all(
      Array.from({ length: 30 }, async () => {
        const answer = await fetch(`${running.url}/api/meshes/${hash}`);
        return { status: answer.status, same: bytes.equals(Buffer.from(await answer.arrayBuffer())) };
      }),
    );
    isOver = true;
    await watching;
    expect(new Set(taken.map(({ status, same }) => `${status} ${same}`))).toEqual(new Set(['200 true']));
    expect(new Set(healths)).toEqual(new Set([200]));
  });

  test('what is kept under its hash may be kept by the browser for good, and is not sent twice', async () => {
    await putBlob(running.db, hash, 'mesh', bytes);
    const first = await http().head(`/api/meshes/${hash}`).expect(200);
    expect(first.headers).toMatchObject({ etag: `"${hash}"`, 'content-length': String(bytes.length) });
    expect(first.headers['cache-control']).toContain('immutable');
    const again = await http().get(`/api/meshes/${hash}`).set('If-None-Match', `"${hash}"`).expect(304);
    expect(Buffer.from(again.body as Buffer)).toHaveLength(0);
    await http()
      .get(`/api/meshes/${'b'.repeat(64)}`)
      .set('If-None-Match', '*')
      .expect(404);
  });

  test('a pool that is busy is said to be busy, with when to ask again; health answers from memory', async () => {
    const clients = await Promise.all(Array.from({ length: 12 }, () => running.db.connect()));
    try {
      const waits = http().get('/api/projects');
      const health = await http().get('/api/health').expect(200);
      expect(health.body).toEqual({ status: 'ok', database: 'up' });
      const { status, headers, body } = await waits;
      expect([status, errorSchema.parse(body).code]).toEqual([503, 'too-busy']);
      expect(Number(headers['retry-after'])).toBeGreaterThan(0);
    } finally {
      clients.forEach((client) => client.release());
    }
    await http().get('/api/projects').expect(200);
  });

  test('a sweep is read aside; what would come back as something else is refused with its place', async () => {
    const put = (text: string) =>
      http()
        .put('/api/projects/kelp-lane/sweeps/massing:a')
        .set('Content-Type', 'application/json')
        .send(text);
    const text = '{"found":[1.50,1e3,{"a":"é"}]}';
    await put(text).expect(204);
    expect((await http().get('/api/projects/kelp-lane/sweeps/massing:a').expect(200)).text).toBe(text);
    for (const [sent, place] of [
      ['{"found":[0,{"x":1e400}]}', 'found.1.x'],
      ['{"found":[-1e999]}', 'found.0'],
      ['{"a":{"__proto__":{"b":1}}}', 'a.__proto__'],
    ] as const) {
      const { body } = await put(sent).expect(422);
      expect(errorSchema.parse(body).message).toContain(`“${place}”`);
    }
    // What was kept before is still there.
    expect((await http().get('/api/projects/kelp-lane/sweeps/massing:a').expect(200)).text).toBe(text);
  });
});
