import { kelpLane } from '@dial-shade/samples';
import request from 'supertest';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { sharesFrom, sharesToBytes } from '../src/jobs/run-masks';
import { type Running, startServer } from '../src/server';
import { type Database, openDatabase } from '../src/store/database';
import { evictMasks, keepMask, keptMask } from '../src/store/masks';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

test('what open rays lose, as bytes and back; what is none is told', () => {
  const row = (direction: number[], fixed: number[], ends: number[], crowns: number[]) => ({
    direction: Uint32Array.from(direction),
    fixed: Float32Array.from(fixed),
    ends: Uint32Array.from(ends),
    crowns: Uint32Array.from(crowns),
  });
  const rows = [
    row([3, 900], [0.5, 1], [0, 2], [7, 8]),
    row([], [], [], []),
    row([1], [0.25], [1], [70_000]),
  ];
  const bytes = sharesToBytes(rows);
  expect(sharesFrom(bytes)).toEqual(rows);
  expect(sharesFrom(bytes.subarray(0, bytes.length - 4))).toBeNull();
  expect(sharesFrom(bytes.subarray(0, 5))).toBeNull();
  expect(sharesFrom(new Uint8Array(8).fill(255))).toBeNull();
});

describeWithDatabase('masks in the database', () => {
  let running: Running;
  let db: Database;
  beforeAll(async () => {
    running = await startServer(await freshDatabase(admin!, 'masks_test'), 0);
    db = running.db;
  }, 120_000);
  afterAll(async () => {
    await running?.close();
  });
  const http = () => request(running.url);

  /** Runs a study to its end; gives the rays that were traced for it, and the bytes of its result. */
  async function run(
    id: string,
    study: string,
    option = 'a',
  ): Promise<{ rays: number; message: string | null; bytes: Buffer }> {
    const { body } = await http().post(`/api/projects/${id}/runs`).send({ study, option }).expect(201);
    for (;;) {
      const { body: now } = await http().get(`/api/runs/${body.id}`).expect(200);
      if (now.status === 'done') {
        const result = await http().get(`/api/runs/${body.id}/result`).buffer(true).expect(200);
        return { rays: now.rays, message: now.message, bytes: result.body as Buffer };
      }
      expect(['queued', 'running']).toContain(now.status);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }

  const sample = (change: (project: ReturnType<typeof kelpLane>) => void = () => {}) => {
    const project = kelpLane();
    project.targets = project.targets.map((target) => ({
      ...target,
      spacingM: Math.max(2.5, target.spacingM),
    }));
    change(project);
    return project;
  };
  async function post(project: ReturnType<typeof sample>): Promise<string> {
    const { body } = await http().post('/api/projects').send({ project }).expect(201);
    return body.id;
  }

  test('the same again, another period and another project trace nothing; the bytes are the same', async () => {
    const id = await post(sample());
    const first = await run(id, 'walls-year');
    expect(first.rays).toBeGreaterThan(10_000);
    const again = await run(id, 'walls-year');
    expect(again.rays).toBe(0);
    expect(again.bytes).toEqual(first.bytes);
    const summer = await post(
      sample((project) => {
        const study = project.studies.find((one) => one.id === 'walls-year')!;
        study.window = { from: '2026-06-01', to: '2026-06-30', startMinutes: 600, endMinutes: 900 };
      }),
    );
    // Between them another study, so that the masks come from the database and not from the run before.
    await run(summer, 'garden-view');
    expect((await run(summer, 'walls-year')).rays).toBe(0);
  });

  test('sun hours of fewer days trace nothing, of more days only what is new, to the same bytes', async () => {
    const days = (from: string, to: string) =>
      post(
        sample((project) => {
          const study = project.studies.find((one) => one.id === 'courtyards-march')!;
          study.window = { from, to, startMinutes: 540, endMinutes: 900 };
        }),
      );
    const [wide, narrow, wider] = [
      await days('2026-04-01', '2026-05-10'),
      await days('2026-04-10', '2026-04-20'),
      await days('2026-04-01', '2026-05-12'),
    ];
    const first = await run(wide, 'courtyards-march');
    await run(wide, 'garden-view');
    const keptMasks = async () => (await db.query('SELECT key FROM masks')).rowCount;
    const before = await keptMasks();
    const part = await run(narrow, 'courtyards-march');
    expect(part.rays).toBe(0);
    // What the wider ones have is not kept once more.
    await run(wide, 'garden-view');
    expect(await keptMasks()).toBe(before);
    const more = await run(wider, 'courtyards-march');
    expect(more.rays).toBeGreaterThan(0);
    expect(more.rays).toBeLessThan(first.rays / 2);
    await evictMasks(db, 0);
    await run(wide, 'garden-view');
    expect((await run(narrow, 'courtyards-march')).bytes).toEqual(part.bytes);
    await evictMasks(db, 0);
    await run(wide, 'garden-view');
    expect((await run(wider, 'courtyards-march')).bytes).toEqual(more.bytes);
  });

  test('another option traces its own layer only; without the masks all is traced anew, to the same bytes', async () => {
    const id = await post(sample());
    const bar = await run(id, 'windows-sky', 'a');
    const court = await run(id, 'windows-sky', 'b');
    expect(court.rays).toBeLessThan(bar.rays);
    await evictMasks(db, 0);
    await run(id, 'garden-view');
    const anew = await run(id, 'windows-sky', 'a');
    expect(anew.rays).toBeGreaterThan(0);
    expect(anew.message).toBe('Traced anew: what was known from before had had to make room.');
    expect(anew.bytes).toEqual(bar.bytes);
  });

  test('an option with another scheme runs as if it stood, traces its devices only, and is kept beside the option', async () => {
    const id = await post(sample());
    await evictMasks(db, 0);
    await run(id, 'garden-view');
    const plain = await run(id, 'windows-sky', 'a');
    const shaded = await run(id, 'windows-sky', 'a~overhangs');
    expect(shaded.rays).toBeLessThan(plain.rays);
    const standing = await post(
      sample((project) => {
        project.options.find((one) => one.id === 'a')!.scheme = 'overhangs';
      }),
    );
    expect((await run(standing, 'windows-sky', 'a')).bytes).toEqual(shaded.bytes);
    const { body } = await http().get(`/api/projects/${id}/runs`).expect(200);
    expect(body.map(({ optionId }: { optionId: string }) => optionId)).toEqual([
      ...['a~overhangs', 'a', 'a'],
    ]);
    await http()
      .post(`/api/projects/${id}/runs`)
      .send({ study: 'windows-sky', option: 'a~gone' })
      .expect(422);
  });

  test('those that were not used for the longest go first', async () => {
    // A database of its own: runs above may still be keeping theirs.
    const db = openDatabase(await freshDatabase(admin!, 'masks_alone'));
    const of = (key: string) => ({ key, place: 'here', vectors: new Float64Array([0, 0, 1]) });
    for (const key of ['one', 'two', 'three']) await keepMask(db, of(key), new Uint8Array(100));
    await keptMask(db, 'one');
    expect(await evictMasks(db, 250)).toBe(1);
    expect(await keptMask(db, 'two')).toBe('let-go');
    expect(await keptMask(db, 'four')).toBeNull();
    expect(await keptMask(db, 'one')).toHaveLength(100);
    await keepMask(db, of('two'), new Uint8Array(50));
    expect(await keptMask(db, 'two')).toHaveLength(50);
    await db.end();
  });
});
