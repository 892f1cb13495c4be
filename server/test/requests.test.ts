import {
  emptyProject,
  errorSchema,
  meshFromFile,
  meshToBytes,
  MAX_OBJECTS,
  runNewsSchema,
} from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import type { Express } from 'express';
import { once } from 'node:events';
import { request as httpRequest } from 'node:http';
import { gzipSync } from 'node:zlib';
import request from 'supertest';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { createApp } from '../src/api/app';
import type { Services } from '../src/api/services';
import { loadSamples, type Running, startServer } from '../src/server';

const admin = process.env.TEST_DATABASE_URL;
/** What a router holds: a route, or something that is asked, as another router. */
interface Layer {
  route?: { path: string; stack: { method: string }[] };
  handle: unknown;
}

const describeWithDatabase = admin ? describe : describe.skip;

/** Every route of an application, under /api. */
function routesOf(app: Express): { method: string; path: string }[] {
  const walk = (stack: readonly Layer[]): { method: string; path: string }[] =>
    stack.flatMap(({ route, handle }) =>
      route
        ? route.stack.map(({ method }) => ({ method: method.toUpperCase(), path: route.path }))
        : walk((handle as { stack?: Layer[] }).stack ?? []),
    );
  return walk(app.router.stack as Layer[]).filter(({ path }) => !path.startsWith('/{'));
}

describeWithDatabase('requests that are hostile, or merely odd', () => {
  let running: Running;
  const http = () => request(running.url);
  beforeAll(async () => {
    running = await startServer(await freshDatabase(admin!, 'requests_test'), 0);
    await loadSamples(running.db);
  });
  afterAll(() => running?.close());

  /** A request with headers as they are given; gives status and body. */
  const raw = async (path: string, headers: Record<string, string>, method = 'GET') => {
    const { port } = new URL(running.url);
    const asked = httpRequest({ host: '127.0.0.1', port, path, method, headers });
    asked.end();
    const [answer] = (await once(asked, 'response')) as [import('node:http').IncomingMessage];
    let text = '';
    for await (const chunk of answer) text += String(chunk);
    return {
      status: answer.statusCode,
      body: text.startsWith('{') ? (JSON.parse(text) as { code: string }) : null,
      isPage: (answer.headers['content-type'] ?? '').startsWith('text/html'),
    };
  };

  test('a host that is not its own is told so; pages of others are refused, for GET too', async () => {
    const { port } = new URL(running.url);
    const own = { Host: `127.0.0.1:${port}` };
    for (const Host of [`127.0.0.1:${port}`, `localhost:${port}`, `LOCALHOST:${port}`, `[::1]:${port}`])
      expect((await raw('/api/projects', { Host })).status).toBe(200);
    for (const Host of [
      'evil.example',
      `evil.example:${port}`,
      '127.0.0.1',
      '127.0.0.1:1',
      `localhost.evil:${port}`,
      'a b',
    ])
      expect(await raw('/api/projects', { Host })).toMatchObject({ status: 421, body: { code: 'host' } });
    expect((await raw('/', { Host: 'evil.example' })).status).toBe(421);
    for (const Origin of [running.url, `http://localhost:${port}`])
      expect((await raw('/api/projects', { ...own, Origin })).status).toBe(200);
    for (const Origin of [
      'http://evil.example',
      'null',
      `http://127.0.0.1:1`,
      `https://evil.example:${port}`,
    ])
      expect(await raw('/api/projects', { ...own, Origin })).toMatchObject({
        status: 403,
        body: { code: 'origin' },
      });
    expect((await raw('/api/projects', { ...own, 'Sec-Fetch-Site': 'cross-site' })).status).toBe(403);
    expect((await raw('/api/projects', { ...own, 'Sec-Fetch-Site': 'same-origin' })).status).toBe(200);
    expect(
      (await raw('/api/projects/kelp-lane', { ...own, Origin: 'http://evil.example' }, 'DELETE')).status,
    ).toBe(403);
    await http().get('/api/projects/kelp-lane').expect(200);
  });

  test('no spelling of any address lets a page of another site in', async () => {
    const { port } = new URL(running.url);
    const Host = `127.0.0.1:${port}`;
    const routes = routesOf(createApp({} as Services));
    expect(routes.length).toBeGreaterThan(20);
    for (const { method, path } of routes) {
      const address = `/api${path.replace(/:\w+/g, 'kelp-lane')}`;
      const foreign = { Host, Origin: 'http://evil.example' };
      for (const headers of [
        foreign,
        { Host, 'Sec-Fetch-Site': 'cross-site' },
        { Host, 'Sec-Fetch-Site': 'same-site' },
      ])
        expect(await raw(address, headers, method)).toMatchObject({ status: 403, body: { code: 'origin' } });
      for (const odd of [
        address.replace('/api', '/API'),
        address.replace('/api', '/Api'),
        address.toUpperCase(),
        `/${address}`,
        address.replace('/api/', '/api//'),
        `/.${address}`,
        address.replace('/api/', '/api/./'),
        `/x/..${address}`,
        address.replace('/api/', '/api%2f'),
        address.replace('/api', '/%61pi'),
        `${address}/`,
        `${address}%2f`,
        `http://evil.example${address}`,
      ]) {
        const { status, isPage } = await raw(odd, foreign, method);
        // Refused, unknown, or a page of the application: never the API.
        expect([odd, status === 403 || status === 404 || (status === 200 && isPage)]).toEqual([odd, true]);
      }
    }
    await http().get('/api/projects/kelp-lane').expect(200);
  });

  test('addresses count as they are written', async () => {
    for (const address of ['/api/Projects', '/api/projects/', '/api/projects/kelp-lane/runs/'])
      await http().get(address).expect(404);
    const { body } = await http().post('/API/projects').send({ name: 'x' }).expect(404);
    expect(errorSchema.parse(body).code).toBe('not-found');
  });

  test('names that DIAL_SHADE_HOSTS lists are its own too', async () => {
    process.env.DIAL_SHADE_HOSTS = 'studio.example, other.example:8443';
    const other = await startServer(await freshDatabase(admin!, 'hosts_test'), 0);
    delete process.env.DIAL_SHADE_HOSTS;
    const ask = (host: string) => request(other.url).get('/api/health').set('Host', host);
    await ask('studio.example').expect(200);
    await ask('studio.example:1').expect(200);
    await ask('other.example:8443').expect(200);
    await ask('other.example').expect(421);
    await other.close();
  });

  test('answers are not stored; what was refused, and health, is not counted against the user', async () => {
    const answer = await http().get('/api/projects').expect(200);
    expect(answer.headers['cache-control']).toBe('no-store');
    const left = Number(answer.headers['ratelimit-remaining']);
    for (let i = 0; i < 5; i++) {
      await http().get('/api/health').expect(200);
      await http().get('/api/projects').set('Origin', 'http://evil.example').expect(403);
    }
    const { headers } = await http().get('/api/projects').expect(200);
    expect(Number(headers['ratelimit-remaining'])).toBe(left - 1);
  });

  test('what is compressed is not unpacked', async () => {
    const packed = gzipSync(JSON.stringify({ name: 'x'.repeat(1_000_000) }));
    for (const path of ['/api/projects', '/api/projects/kelp-lane/runs']) {
      const { body } = await http()
        .post(path)
        .set('Content-Type', 'application/json')
        .set('Content-Encoding', 'gzip')
        .send(packed)
        .expect(415);
      expect(errorSchema.parse(body).code).toBe('type');
    }
  });

  test('a small route takes a small body', async () => {
    const study = 'x'.repeat(200_000);
    const { body } = await http()
      .post('/api/projects/kelp-lane/runs')
      .send({ study, option: 'a' })
      .expect(413);
    expect(errorSchema.parse(body).code).toBe('too-large');
  });

  test('NUL, half characters and huge numbers are answered, never with 500', async () => {
    for (const id of ['%00', 'a%00b', '%ED%A0%80', '%FF']) {
      for (const path of [
        `/api/projects/${id}`,
        `/api/meshes/${id}`,
        `/api/underlays/${id}`,
        `/api/projects/${id}/out?option=a&format=obj`,
      ])
        expect((await http().get(path)).status).toBeLessThan(500);
      expect((await http().delete(`/api/projects/${id}`)).status).toBeLessThan(500);
    }
    for (const project of [
      { ...kelpLane(), name: 'a\0b' },
      { ...kelpLane(), name: 'half \ud83d' },
    ]) {
      const { body } = await http().post('/api/projects').send({ project }).expect(422);
      expect(body.message).toContain('cannot be kept');
    }
    const { body } = await http().post('/api/projects').send({ name: 'a\0b' }).expect(422);
    expect(errorSchema.parse(body).code).toBe('project');
    for (const revision of [2 ** 31, 2 ** 53, 1e300, -1, 1.5])
      await http().put('/api/projects/kelp-lane').send({ revision, project: kelpLane() }).expect(400);
    await http().get('/api/projects?limit=1e9').expect(400);
    await http().post('/api/projects').set('Content-Type', 'application/json').send('{"name":').expect(400);
    await http().post('/api/projects').set('Content-Type', 'text/plain').send('x').expect(415);
  });

  test('faults without number are answered with the first of them, and other requests meanwhile', async () => {
    const project = kelpLane();
    const spoilt = (openings: unknown[]) => {
      (project.options[1]!.masses[0] as { openings: unknown }).openings = openings;
      return http().post('/api/projects').send({ project });
    };
    const many = await spoilt(Array.from({ length: 20_000 }, () => ({}))).expect(422);
    expect(errorSchema.parse(many.body).problems!.length).toBeLessThanOrEqual(100);
    const over = spoilt(Array.from({ length: MAX_OBJECTS + 1 }, () => ({}))).expect(422);
    const [{ body }] = await Promise.all([over, http().get('/api/health').expect(200)]);
    expect(body.message).toContain('more than 400,000 objects');
  });

  test('lists come in parts, runs without what they depended on; streams of nothing are 404', async () => {
    for (let i = 0; i < 3; i++)
      await http()
        .post('/api/projects')
        .send({ name: `P ${i}` })
        .expect(201);
    const { body: all } = await http().get('/api/projects').expect(200);
    const { body: second } = await http().get('/api/projects?limit=2&offset=1').expect(200);
    expect(second).toEqual(all.slice(1, 3));
    await http()
      .post('/api/projects/kelp-lane/runs')
      .send({ study: 'Courtyards on 21 March', option: 'a' })
      .expect(201);
    const { body: runs } = await http().get('/api/projects/kelp-lane/runs').expect(200);
    for (const run of runs) runNewsSchema.shape.run.parse(run);
    await http().get('/api/projects/nothing/events').expect(404);
  });

  test('a project with a large mesh goes out compact, and the file comes in again', async () => {
    const side = 80;
    const positions: number[] = [];
    const triangles: number[] = [];
    for (let i = 0; i <= side; i++)
      for (let j = 0; j <= side; j++) positions.push(60 + i / 3, 60 + j / 7, Math.sin(i) + Math.cos(j));
    for (let i = 0; i < side; i++)
      for (let j = 0; j < side; j++) {
        const a = i * (side + 1) + j;
        triangles.push(a, a + 1, a + side + 1, a + 1, a + side + 2, a + side + 1);
      }
    const name = 'a'.repeat(64);
    const project = {
      ...emptyProject('Mesh', 2026),
      neighbours: [
        {
          kind: 'mesh',
          id: 'm',
          name: 'Hill',
          mesh: name,
          triangles: triangles.length / 3,
          move: [0, 0, 0],
          turnDeg: 0,
        },
      ],
      meshes: { [name]: { positions, triangles } },
    };
    const { body: stored } = await http().post('/api/projects').send({ project }).expect(201);
    const hash = stored.project.neighbours[0].mesh as string;
    const { body: file } = await http().get(`/api/projects/${stored.id}/file`).expect(200);
    expect(Object.keys(file.meshes[hash])).toEqual(['bytes']);
    expect(meshFromFile(file.meshes[hash]).positions).toEqual(Float64Array.from(positions));
    const { body: again } = await http().post('/api/projects').send({ project: file }).expect(201);
    expect(again.project).toEqual(stored.project);
    const { body: bytes } = await http().get(`/api/meshes/${hash}`).buffer(true).expect(200);
    expect(Buffer.compare(bytes, Buffer.from(meshToBytes(meshFromFile(file.meshes[hash]))))).toBe(0);
    const spoilt = { ...file, meshes: { [hash]: { bytes: 'AAAA' } } };
    await http().post('/api/projects').send({ project: spoilt }).expect(422);
  });
});
