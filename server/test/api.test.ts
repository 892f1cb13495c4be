import {
  emptyProject,
  errorSchema,
  projectLineSchema,
  runNewsSchema,
  runSchema,
  savedSchema,
  storedProjectSchema,
  type Project,
  resultFromBytes,
  OUT_FORMATS,
  writeOption,
  CURRENT_VERSION,
  summaryJson,
} from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import request from 'supertest';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { projectRoot } from '../src/root';
import { loadSamples, type Running, startServer } from '../src/server';

/** The real database server that scripts/test.mjs starts; each suite has a database of its own there. */
const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

interface RunState {
  status: string;
  sensors: number;
  sensorsDone: number;
}

describeWithDatabase('the HTTP interface', () => {
  let running: Running;
  let url: string;
  const http = () => request(running.url);

  beforeAll(async () => {
    url = await freshDatabase(admin!, 'api_test');
    running = await startServer(url, 0);
    await loadSamples(running.db);
  });
  afterAll(() => running?.close());

  /** Asks for a run again and again until it is as wanted, however long that takes. */
  const runWhen = async (id: string, isSo: (run: RunState) => boolean): Promise<RunState> => {
    for (;;) {
      const { body } = await http().get(`/api/runs/${id}`);
      if (isSo(body)) return body;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  };
  const ended = (id: string) => runWhen(id, ({ status }) => !['queued', 'running'].includes(status));

  const create = async (project: Project) => {
    const { body } = await http().post('/api/projects').send({ project }).expect(201);
    return body as { id: string; revision: number };
  };

  test('every answer is as the contract says', async () => {
    const { body: lines } = await http().get('/api/projects').expect(200);
    for (const line of lines) projectLineSchema.parse(line);
    const { body: begun } = await http().post('/api/projects').send({ name: 'By contract' }).expect(201);
    const stored = storedProjectSchema.parse(begun);
    storedProjectSchema.parse((await http().get(`/api/projects/${stored.id}`)).body);
    const { body: saved } = await http()
      .put(`/api/projects/${stored.id}`)
      .send({ revision: 1, project: stored.project })
      .expect(200);
    savedSchema.parse(saved);
    const ask = { study: 'Courtyards on 21 March', option: 'b' };
    const { body: asked } = await http().post('/api/projects/kelp-lane/runs').send(ask).expect(201);
    runSchema.parse(asked);
    await ended(asked.id);
    runSchema.parse((await http().get(`/api/runs/${asked.id}`)).body);
    for (const run of (await http().get('/api/projects/kelp-lane/runs')).body)
      runNewsSchema.shape.run.parse(run);
    const refused = [
      await http().put(`/api/projects/${stored.id}`).send({ revision: 1, project: stored.project }),
      await http()
        .put(`/api/projects/${stored.id}`)
        .send({ revision: 2, project: { format: 'x' } }),
      await http().post('/api/projects/kelp-lane/runs').send({ study: 'none', option: 'a' }),
      await http().post('/api/projects').send({}),
      await http().get('/api/nowhere'),
    ];
    expect(refused.map(({ status }) => status)).toEqual([409, 422, 422, 400, 404]);
    for (const { body } of refused) errorSchema.parse(body);
  });

  test('says how it is, with security headers', async () => {
    const { body, headers } = await http().get('/api/health').expect(200);
    expect(body).toEqual({ status: 'ok', database: 'up' });
    expect(headers['content-security-policy']).toContain("default-src 'self'");
    expect(headers['x-powered-by']).toBeUndefined();
  });

  test('the sample is there once, also after loading again', async () => {
    await loadSamples(running.db);
    const { body } = await http().get('/api/projects').expect(200);
    expect(body.filter((p: { name: string }) => p.name === 'Kelp Lane')).toHaveLength(1);
    const stored = await http().get('/api/projects/kelp-lane').expect(200);
    expect(stored.body.project).toEqual(kelpLane());
  });

  test('a project is begun, saved over its revision, taken out, brought in and deleted', async () => {
    const { body } = await http().post('/api/projects').send({ name: 'Quay' }).expect(201);
    const project = { ...body.project, name: 'Quay House' };
    const saved = await http().put(`/api/projects/${body.id}`).send({ revision: 1, project }).expect(200);
    expect(saved.body.revision).toBe(2);
    const file = await http().get(`/api/projects/${body.id}/file`).expect(200);
    expect(file.headers['content-disposition']).toContain('Quay-House.json');
    const copy = await create(file.body);
    expect((await http().get(`/api/projects/${copy.id}`)).body.project).toEqual(project);
    await http().delete(`/api/projects/${copy.id}`).expect(204);
    await http().get(`/api/projects/${copy.id}`).expect(404);
  });

  test('a stale save is answered with both versions and loses nothing', async () => {
    const { id } = await create(kelpLane());
    const first = { ...kelpLane(), name: 'First' };
    const second = { ...kelpLane(), name: 'Second' };
    await http().put(`/api/projects/${id}`).send({ revision: 1, project: first }).expect(200);
    const { body } = await http()
      .put(`/api/projects/${id}`)
      .send({ revision: 1, project: second })
      .expect(409);
    expect(body).toMatchObject({ code: 'stale', revision: 2, project: { name: 'First' } });
    expect((await http().get(`/api/projects/${id}`)).body.project.name).toBe('First');
  });

  test('two saves at the same time: one wins, the other is told', async () => {
    const { id } = await create(kelpLane());
    const answers = await Promise.all(
      ['One', 'Two', 'Three'].map((name) =>
        http()
          .put(`/api/projects/${id}`)
          .send({ revision: 1, project: { ...kelpLane(), name } }),
      ),
    );
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409, 409]);
  });

  test('unsound documents and requests are answered in sentences and change nothing', async () => {
    const bad = kelpLane();
    bad.site.place.latitudeDeg = 95;
    const { body } = await http()
      .put('/api/projects/kelp-lane')
      .send({ revision: 1, project: bad })
      .expect(422);
    expect(body).toMatchObject({
      code: 'project',
      message: 'Latitude 95 degrees is outside −90 to 90 degrees.',
    });
    await http().put('/api/projects/kelp-lane').send({ revision: 'x' }).expect(400);
    const broken = await http()
      .post('/api/projects')
      .set('Content-Type', 'application/json')
      .send('{"a":')
      .expect(400);
    expect(broken.body.message).toBe('The request is not valid JSON.');
    await http().post('/api/projects').send({}).expect(400);
    await http().get('/api/nowhere').expect(404);
    await http().get('/api/runs/not-a-run').expect(400);
    expect((await http().get('/api/projects/kelp-lane')).body.revision).toBe(1);
  });

  test('a run is planned, queued, worked and kept, and agrees with the command line', async () => {
    const { body: run } = await http()
      .post('/api/projects/kelp-lane/runs')
      .send({ study: 'Courtyards on 21 March', option: 'a' })
      .expect(201);
    expect(run).toMatchObject({ status: 'queued', sensors: 550, rays: 550 * 73 });
    expect(await ended(run.id)).toMatchObject({ status: 'done', sensorsDone: 550, hasResult: true });
    const summary = (await http().get(`/api/runs/${run.id}/summary`).expect(200)).body;
    const csv = (await http().get(`/api/runs/${run.id}/sensors.csv`).expect(200)).text;
    const bytes = await http().get(`/api/runs/${run.id}/result`).buffer(true).expect(200);
    expect(summaryJson(resultFromBytes(bytes.body).summary)).toEqual(summary);
    const out = join(projectRoot(), 'var/cli-test');
    const cli = spawnSync(
      process.execPath,
      [
        'dist/cli/dial.js',
        'run',
        'samples/projects/kelp-lane.json',
        '--study',
        'courtyards-march',
        '--option',
        'A',
        '--out',
        out,
      ],
      { cwd: projectRoot(), encoding: 'utf8' },
    );
    expect(cli.stderr).toBe('');
    const { readFileSync } = await import('node:fs');
    expect(readFileSync(join(out, 'sensors.csv'), 'utf8')).toBe(csv);
    expect(JSON.parse(readFileSync(join(out, 'summary.json'), 'utf8'))).toEqual(summary);
  });

  test('what cannot be run is refused before it is queued', async () => {
    const ask = (study: string, option: string) =>
      http().post('/api/projects/kelp-lane/runs').send({ study, option });
    expect((await ask('nothing', 'a').expect(422)).body.message).toContain(
      'The study “nothing” does not exist',
    );
    expect((await ask('courtyards-march', 'z').expect(422)).body.message).toContain(
      'The option “z” does not exist',
    );
    const project = kelpLane();
    Object.assign(project.targets[1]!, {
      spacingM: 0.05,
      outline: [
        [-200, -200],
        [200, -200],
        [200, 200],
        [-200, 200],
      ],
    });
    const { id } = await create(project);
    const { body } = await http()
      .post(`/api/projects/${id}/runs`)
      .send({ study: 'courtyards-march', option: 'a' })
      .expect(422);
    expect(body).toMatchObject({ code: 'too-many-rays' });
    expect(body.message).toMatch(/A spacing of [\d.]+ m fits/);
  });

  /** A run of some seconds: a fine grid through a whole year. */
  const longRun = async (spacingM: number) => {
    const project = kelpLane();
    project.targets[0]!.spacingM = spacingM;
    project.studies[1]!.window = { from: '2026-01-01', to: '2026-12-31', startMinutes: 0, endMinutes: 1440 };
    project.studies[1]!.stepMinutes = 10;
    const { id } = await create(project);
    const { body } = await http()
      .post(`/api/projects/${id}/runs`)
      .send({ study: 'garden-season', option: 'b' })
      .expect(201);
    return { id, run: body as { id: string; sensors: number } };
  };

  test('a run can be stopped with what it has', async () => {
    const { run } = await longRun(0.5);
    await runWhen(run.id, ({ sensorsDone }) => sensorsDone > 0);
    await http().post(`/api/runs/${run.id}/stop`).expect(200);
    const end = await ended(run.id);
    expect(end.status).toBe('stopped');
    expect(end.sensorsDone).toBeLessThan(run.sensors);
    const bytes = await http().get(`/api/runs/${run.id}/result`).buffer(true).expect(200);
    const { summary, values } = resultFromBytes(bytes.body);
    expect(summary.sensorsDone).toBe(end.sensorsDone);
    expect(Array.from(values.hours!).filter(Number.isNaN)).toHaveLength(run.sensors - end.sensorsDone);
  });

  test('a run whose server is gone is taken over by another server and finished', async () => {
    const { run } = await longRun(1);
    const other = await startServer(url, 0);
    try {
      await runWhen(run.id, ({ status }) => status === 'running');
      // As after a kill, or when a worker stood still: nobody has been heard of it for long. The one that was at it, should
      // it still live, has lost the run and must not end it.
      await running.db.query(
        "UPDATE runs SET heartbeat_at = now() - interval '1 hour', worker = gen_random_uuid() WHERE id = $1",
        [run.id],
      );
      const end = await ended(run.id);
      expect(end).toMatchObject({ status: 'done', sensorsDone: run.sensors });
    } finally {
      await other.close();
    }
  });

  test('pages are told about runs and revisions as they happen', async () => {
    const { id } = await create(kelpLane());
    const controller = new AbortController();
    const stream = await fetch(`${running.url}/api/projects/${id}/events`, { signal: controller.signal });
    const reader = stream.body!.getReader();
    const decoder = new TextDecoder();
    let text = '';
    const until = async (wanted: string) => {
      while (!text.includes(wanted)) text += decoder.decode((await reader.read()).value);
    };
    await until('event: hello');
    await http()
      .post(`/api/projects/${id}/runs`)
      .send({ study: 'courtyards-march', option: 'a' })
      .expect(201);
    await until('"status":"done"');
    const news = [...text.matchAll(/^event: run\ndata: (.+)$/gm)].map(([, data]) => JSON.parse(data!));
    expect(news.length).toBeGreaterThan(0);
    for (const one of news) expect(runNewsSchema.parse(one).run.studyId).toBe('courtyards-march');
    await http()
      .put(`/api/projects/${id}`)
      .send({ revision: 1, project: emptyProject('Told again', 2026) })
      .expect(200);
    await until('"revision":2');
    expect(text).toContain('event: revision');
    controller.abort();
  });

  test('an option goes out in every format, the same bytes as the computation gives', async () => {
    const { id } = await create(kelpLane());
    for (const format of OUT_FORMATS) {
      const { body, headers } = await http()
        .get(`/api/projects/${id}/out?option=b&format=${format}`)
        .buffer(true)
        .parse((response, done) => {
          const parts: Buffer[] = [];
          response.on('data', (part: Buffer) => parts.push(part));
          response.on('end', () => done(null, Buffer.concat(parts)));
        })
        .expect(200);
      expect(headers['content-disposition']).toContain('Kelp-Lane-B-Court');
      const bytes = await writeOption(kelpLane(), 'b', new Map(), format);
      expect(Buffer.compare(body as Buffer, Buffer.from(bytes))).toBe(0);
    }
    const wrong = await http().get(`/api/projects/${id}/out?option=b&format=pdf`).expect(422);
    expect(wrong.body.message).toContain('“pdf” is no format that can be written');
    await http().get(`/api/projects/${id}/out?option=z&format=obj`).expect(422);
    await http().get(`/api/projects/${id}/out?format=obj`).expect(400);
  });

  test('a document of version 1 is brought to the current one on the way in', async () => {
    const { glazings: _g, areas: _a, neighbourRules: _r, ...old } = emptyProject('Old', 2026);
    const { body } = await http()
      .post('/api/projects')
      .send({ project: { ...old, version: 1 } })
      .expect(201);
    expect(body.project).toMatchObject({ version: CURRENT_VERSION, areas: [], neighbourRules: [] });
    expect(body.project.glazings.length).toBeGreaterThan(0);
  });

  test('a document that an earlier program stored is made whole when it is asked for, once', async () => {
    const { body } = await http().post('/api/projects').send({ name: 'Old' }).expect(201);
    const stored = async (change: string) => {
      await running.db.query(
        `UPDATE projects SET document = (${change})::text, checked_by = NULL WHERE id = $1`,
        [body.id],
      );
      const { body: found } = await http().get(`/api/projects/${body.id}`).expect(200);
      const { rows } = await running.db.query('SELECT document, checked_by FROM projects WHERE id = $1', [
        body.id,
      ]);
      expect(JSON.parse(rows[0].document)).toEqual(found.project);
      expect(rows[0].checked_by).toMatch(/^[0-9a-f]{64}$/);
      return found;
    };
    expect(await stored(`document::jsonb || '{"version": 2}'`)).toEqual(body);
    expect(await stored("document::jsonb - 'envelopes' - 'comparison' #- '{options,1,schemes}'")).toEqual(
      body,
    );
    await running.db.query(
      `UPDATE projects SET document = jsonb_set(document::jsonb, '{site,year}', '"soon"')::text, checked_by = NULL WHERE id = $1`,
      [body.id],
    );
    const { body: refused } = await http().get(`/api/projects/${body.id}`).expect(422);
    expect(refused.message).toContain('year');
  });
});
