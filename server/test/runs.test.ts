import { emptyProject, errorSchema, InputError, meshToBytes, runSchema, signature } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { Heartbeat } from '../src/jobs/heartbeat';
import { loadSamples, type Running, startServer } from '../src/server';
import { type Database, databaseTrouble, openDatabase } from '../src/store/database';
import { checkedDocument } from '../src/store/documents';
import { createProject } from '../src/store/projects';
import {
  beginRun,
  claimOrphans,
  createRun,
  findRun,
  MAX_ATTEMPTS,
  type NewRun,
  resultHash,
  runDocument,
} from '../src/store/runs';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

/** An error as the database gives it. */
const sqlError = (code: string) => Object.assign(new Error(`SQLSTATE ${code}`), { code });

/** A database that answers each question with the next of these, the last one again and again. */
function answering(...answers: (Error | { stop_requested: boolean }[])[]): Database {
  let next = 0;
  const query = () => {
    const answer = answers[Math.min(next++, answers.length - 1)]!;
    return answer instanceof Error ? Promise.reject(answer) : Promise.resolve({ rows: answer });
  };
  return { query } as unknown as Database;
}

const ended = (heart: Heartbeat) =>
  new Promise<void>((resolve) => {
    if (heart.signal.aborted) resolve();
    heart.signal.addEventListener('abort', () => resolve());
  });

describe('the heartbeat of a run', () => {
  test('while the database is away it goes on; then it hears that the run is to stop', async () => {
    const heart = new Heartbeat(
      answering(
        sqlError('ECONNREFUSED'),
        sqlError('53300'),
        [{ stop_requested: false }],
        [{ stop_requested: true }],
      ),
      'r',
      'w',
      async () => {},
    );
    await ended(heart);
    expect(heart.word).toBe('stop');
    await heart.end();
  });

  test('a full disk ends the run with its reason, and nothing is left unhandled', async () => {
    const heart = new Heartbeat(answering(sqlError('53100')), 'r', 'w', async () => {});
    await ended(heart);
    expect(heart.word).toBe('trouble');
    expect(databaseTrouble(heart.trouble)).toMatchObject({ status: 507, code: 'disk-full' });
    await heart.end();
  });

  test('a run that another worker has is let go of', async () => {
    const heart = new Heartbeat(answering([]), 'r', 'w', async () => {});
    await ended(heart);
    expect(heart.word).toBe('lost');
    await heart.end();
  });

  test('it beats from the begin on, before there is anything to show', async () => {
    let beats = 0;
    const heart = new Heartbeat(answering([{ stop_requested: false }]), 'r', 'w', async () => {
      if (++beats === 3) await Promise.reject(sqlError('57014'));
    });
    await new Promise<void>((resolve) => {
      const look = setInterval(() => {
        if (beats < 4) return;
        clearInterval(look);
        resolve();
      }, 20);
    });
    expect(heart.word).toBe('go');
    await heart.end();
  });
});

describeWithDatabase('the book of runs', () => {
  let db: Database;
  const project = kelpLane();
  const study = project.studies[0]!;
  const newRun = (): NewRun => ({
    id: randomUUID(),
    projectId: 'book',
    studyId: study.id,
    revision: 1,
    optionId: 'a',
    document: project,
    signature: signature(project, 'a', study),
    sensors: 1,
    rays: 1,
  });
  const made = async () => (await createRun(db, newRun()))!.run.id;
  /** Makes the worker of a run one that has not been heard of for a minute. */
  const silence = (id: string) =>
    db.query("UPDATE runs SET heartbeat_at = now() - interval '60 s' WHERE id = $1", [id]);

  beforeAll(async () => {
    db = openDatabase(await freshDatabase(admin!, 'book_test'));
    await createProject(db, checkedDocument(project), 'book');
  });
  afterAll(() => db?.end());
  afterEach(() => db.query('DELETE FROM runs'));

  test('a server does not take over its own living run, however long it is silent; another one does', async () => {
    const id = await made();
    expect(await beginRun(db, id, randomUUID())).toBe(true);
    await silence(id);
    expect(await claimOrphans(db, [id])).toEqual({ again: [], ended: [] });
    expect(await claimOrphans(db, [])).toEqual({ again: [id], ended: [] });
  });

  test('an abandoned run that was asked to stop is ended, not queued again', async () => {
    const id = await made();
    await beginRun(db, id, randomUUID());
    await db.query('UPDATE runs SET stop_requested = true WHERE id = $1', [id]);
    await silence(id);
    const { again, ended } = await claimOrphans(db, []);
    expect(again).toEqual([]);
    expect(ended.map((run) => [run.id, run.status])).toEqual([[id, 'stopped']]);
  });

  test('a run whose server ends every time is given up with the reason', async () => {
    const id = await made();
    for (let attempt = 1; attempt <= MAX_ATTEMPTS; attempt++) {
      expect(await beginRun(db, id, randomUUID())).toBe(true);
      await silence(id);
      const { again, ended } = await claimOrphans(db, []);
      expect(again).toEqual(attempt < MAX_ATTEMPTS ? [id] : []);
      expect(ended.map((run) => run.status)).toEqual(attempt < MAX_ATTEMPTS ? [] : ['failed']);
    }
    const { message } = (await findRun(db, id))!;
    expect(message).toContain('was begun 3 times');
    expect(message).toContain('the last time with 0 of 1 points.');
    expect(await beginRun(db, id, randomUUID())).toBe(false);
  });

  test('a run that is given up says how its server ended, where that is known', async () => {
    const id = await made();
    await db.query('UPDATE runs SET attempts = $2 WHERE id = $1', [id, MAX_ATTEMPTS - 1]);
    await beginRun(db, id, randomUUID());
    await silence(id);
    const { ended } = await claimOrphans(db, [], 'ran out of memory');
    expect(ended[0]!.message).toContain('(it ran out of memory)');
  });

  test('a run that still waits is ended at once by one that replaces it', async () => {
    const first = await made();
    const other = { ...newRun(), signature: { changed: { name: 'x', hash: 'y' } } };
    const { run, isNew, replaced } = (await createRun(db, other))!;
    expect(isNew).toBe(true);
    expect(run.status).toBe('queued');
    expect(replaced.map(({ id, status }) => [id, status])).toEqual([[first, 'stopped']]);
    expect(await beginRun(db, first, randomUUID())).toBe(false);
  });

  test('the document of a run that an earlier program entered is made whole', async () => {
    const id = await made();
    await db.query(
      "UPDATE runs SET document = (document::jsonb - 'envelopes' - 'comparison')::text WHERE id = $1",
      [id],
    );
    const { envelopes, comparison } = emptyProject('Whole', 2026);
    expect(await runDocument(db, id)).toEqual({ ...project, envelopes, comparison });
    await db.query("UPDATE runs SET document = (document::jsonb - 'site')::text WHERE id = $1", [id]);
    await expect(runDocument(db, id)).rejects.toThrow(InputError);
  });

  test('a run of a project that was deleted meanwhile is not entered', async () => {
    expect(await createRun(db, { ...newRun(), projectId: 'gone' })).toBeNull();
  });
});

describeWithDatabase('asking for runs', () => {
  let running: Running;
  const http = () => request(running.url);
  beforeAll(async () => {
    running = await startServer(await freshDatabase(admin!, 'runs_test'), 0);
    await loadSamples(running.db);
  });
  afterAll(() => running?.close());

  test('what the options of a project are compared by is run of every option, and of nothing that cannot be', async () => {
    const own = await startServer(await freshDatabase(admin!, 'compared_test'), 0);
    try {
      expect(await loadSamples(own.db)).toContain('kelp-lane');
      // Nothing is loaded again.
      expect(await loadSamples(own.db)).toEqual([]);
      await own.compare(['kelp-lane', 'gone']);
      const { body } = await request(own.url).get('/api/projects/kelp-lane/runs').expect(200);
      const asked = body.map(
        (run: { studyId: string; optionId: string }) => `${run.studyId}/${run.optionId}`,
      );
      const expected = ['courtyards-march', 'garden-season', 'windows-sky'].flatMap((study) =>
        ['a', 'b', 'c', 'today'].map((option) => `${study}/${option}`),
      );
      expect(asked.sort()).toEqual(expected);
    } finally {
      await own.close();
    }
  });

  test('a long run survives more orderly restarts than it may be begun after a crash', async () => {
    const url = await freshDatabase(admin!, 'restarted_test');
    const project = kelpLane();
    project.targets.forEach((target) => (target.spacingM = Math.max(0.7, target.spacingM / 3)));
    const study = project.studies.find(({ id }) => id === 'garden-season')!;
    const window = { from: '2026-01-01', to: '2026-12-31', startMinutes: 0, endMinutes: 1440 };
    Object.assign(study, { window, stepMinutes: 30 });
    let own = await startServer(url, 0);
    try {
      await createProject(own.db, checkedDocument(project), 'long');
      const asked = await request(own.url)
        .post('/api/projects/long/runs')
        .send({ study: 'garden-season', option: 'b' });
      const { id, sensors } = runSchema.parse(asked.body);
      const standing = async () => {
        const { rows } = await own.db.query(
          'SELECT status, attempts, message, sensors_done AS done FROM runs WHERE id = $1',
          [id],
        );
        return rows[0] as { status: string; attempts: number; message: string | null; done: number };
      };
      let restarts = 0;
      for (;;) {
        const { status, attempts, done, message } = await standing();
        expect([status, message]).not.toContain('failed');
        if (status === 'done') break;
        // Somewhere on the way, once there is something to go on from.
        const isOnTheWay = restarts < MAX_ATTEMPTS || done > 0;
        if (status === 'running' && restarts <= MAX_ATTEMPTS && isOnTheWay) {
          await own.close();
          own = await startServer(url, 0);
          restarts++;
          expect((await standing()).attempts).toBeLessThanOrEqual(1);
        } else await new Promise((resolve) => setTimeout(resolve, 20));
        expect(attempts).toBeLessThanOrEqual(1);
        expect(done).toBeLessThanOrEqual(sensors);
      }
      expect(restarts).toBe(MAX_ATTEMPTS + 1);
      expect(await standing()).toMatchObject({ status: 'done', done: sensors, attempts: 1 });
      // What was there was gone on from, and the result is that of a run that nothing came between.
      expect((await standing()).message).toMatch(/went on from the [\d,]+ points that were there/);
      const hash = await resultHash(own.db, id);
      await own.db.query('DELETE FROM masks');
      await own.db.query('UPDATE runs SET signature = $2 WHERE id = $1', [id, {}]);
      const again = await request(own.url)
        .post('/api/projects/long/runs')
        .send({ study: 'garden-season', option: 'b' });
      const second = runSchema.parse(again.body).id;
      while ((await findRun(own.db, second))!.status !== 'done')
        await new Promise((resolve) => setTimeout(resolve, 50));
      expect((await findRun(own.db, second))!.message).toBeNull();
      expect(await resultHash(own.db, second)).toBe(hash);
    } finally {
      await own.close();
    }
  });

  test('the same run asked for four times at once is one run, and ends done once', async () => {
    const ask = { study: 'Courtyards on 21 March', option: 'b' };
    const answers = await Promise.all(
      [1, 2, 3, 4].map(() => http().post('/api/projects/kelp-lane/runs').send(ask).expect(201)),
    );
    const ids = new Set(answers.map(({ body }) => runSchema.parse(body).id));
    for (;;) {
      const { body } = await http().get('/api/projects/kelp-lane/runs').expect(200);
      if (body.every((run: { status: string }) => !['queued', 'running'].includes(run.status))) {
        expect(body.map((run: { status: string }) => run.status)).toEqual(['done']);
        break;
      }
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect(ids.size).toBe(1);
  });

  test('rules that would make a million openings are refused in a sentence, for runs and for files', async () => {
    const project = emptyProject('Many', 2026);
    const [{ masses }] = [kelpLane().options[1]!];
    const mass = masses[0]!;
    const option = project.options.find(({ id }) => id !== 'today')!;
    option.masses = Array.from({ length: 60 }, (_, i) => ({
      ...mass,
      id: `m${i}`,
      openings: [],
      footprint: {
        outer: [
          [i * 200, 0],
          [i * 200 + 150, 0],
          [i * 200 + 150, 100],
          [i * 200, 100],
        ] as [number, number][],
        holes: [],
      },
      storeys: Array.from({ length: 20 }, () => ({ ...mass.storeys[0]!, heightM: 3 })),
    }));
    option.rules = [
      {
        id: 'rule',
        name: 'Slots',
        scope: { owners: null, sectors: null, storeys: null, walls: null, except: [] },
        make: { by: 'size', widthM: 0.3, heightM: 1, spacingM: 0.5, sillM: 0.9, jambM: 0.3 },
        glazing: 'double',
        revealM: 0.1,
        openable: true,
      },
    ];
    project.targets = kelpLane().targets.slice(0, 1);
    project.studies = [{ ...kelpLane().studies[0]!, targets: [project.targets[0]!.id] }];
    const { body } = await http().post('/api/projects').send({ project }).expect(201);
    const out = await http().get(`/api/projects/${body.id}/out?option=${option.id}&format=obj`).expect(422);
    expect(errorSchema.parse(out.body).code).toBe('too-many-openings');
    expect(out.body.message).toMatch(/about 1,\d{3},\d{3} openings; at most 60,000/);
    const run = await http()
      .post(`/api/projects/${body.id}/runs`)
      .send({ study: project.studies[0]!.id, option: option.id })
      .expect(422);
    expect(run.body.code).toBe('too-many-openings');
  });

  test('a run that is still being prepared is stopped when it is asked to, and the next one is worked', async () => {
    // A sheet of 500,000 triangles: preparing it takes a while on any machine.
    const side = 500;
    const positions = new Float64Array((side + 1) ** 2 * 3);
    for (let i = 0; i <= side; i++)
      for (let j = 0; j <= side; j++)
        positions.set(
          [100 + i, 100 + j, Math.sin(i * 0.3) * Math.cos(j * 0.2) + 4],
          (i * (side + 1) + j) * 3,
        );
    const triangles = new Uint32Array(side * side * 6);
    for (let i = 0, k = 0; i < side; i++)
      for (let j = 0; j < side; j++, k += 6) {
        const a = i * (side + 1) + j;
        triangles.set([a, a + side + 1, a + 1, a + 1, a + side + 1, a + side + 2], k);
      }
    const sent = await http()
      .post('/api/meshes')
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from(meshToBytes({ positions, triangles })))
      .expect(201);
    const { body } = await http().post('/api/projects').send({ name: 'Sheet' }).expect(201);
    const kelp = kelpLane();
    const project = {
      ...body.project,
      targets: kelp.targets.slice(0, 1),
      studies: [{ ...kelp.studies[0]!, targets: [kelp.targets[0]!.id] }],
      neighbours: [
        {
          kind: 'mesh',
          id: 'm',
          name: 'Sheet',
          mesh: sent.body.hash,
          triangles: side * side * 2,
          move: [0, 0, 0],
          turnDeg: 0,
        },
      ],
    };
    await http().put(`/api/projects/${body.id}`).send({ revision: 1, project }).expect(200);
    const ask = { study: project.studies[0].id, option: project.options[0].id };
    const { body: run } = await http().post(`/api/projects/${body.id}/runs`).send(ask).expect(201);
    const when = async (isSo: (status: string) => boolean, id: string) => {
      for (;;) {
        const { body: now } = await http().get(`/api/runs/${id}`).expect(200);
        if (isSo(now.status)) return now;
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    };
    await when((status) => status === 'running', run.id);
    await http().post(`/api/runs/${run.id}/stop`).expect(200);
    expect(await when((status) => status !== 'running', run.id)).toMatchObject({
      status: 'stopped',
      sensorsDone: 0,
    });
    const next = await http()
      .post('/api/projects/kelp-lane/runs')
      .send({ study: 'Courtyards on 21 March', option: 'a' })
      .expect(201);
    expect((await when((status) => !['queued', 'running'].includes(status), next.body.id)).status).toBe(
      'done',
    );
  });
});
