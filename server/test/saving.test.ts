import { documentChanges, editProject, errorSchema, type Project } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import request from 'supertest';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { type Running, startServer } from '../src/server';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

describeWithDatabase('saving what changed', () => {
  let running: Running;
  const http = () => request(running.url);
  beforeAll(async () => {
    running = await startServer(await freshDatabase(admin!, 'saving_test'), 0);
  });
  afterAll(() => running?.close());

  const made = async (): Promise<{ id: string; project: Project }> =>
    (await http().post('/api/projects').send({ project: kelpLane() }).expect(201)).body;
  const stored = async (id: string) => (await http().get(`/api/projects/${id}`).expect(200)).body;
  const patch = (id: string, revision: unknown, changes: unknown) =>
    http().patch(`/api/projects/${id}`).send({ revision, changes });
  const renamed = (project: Project, name: string) =>
    documentChanges(project, editProject({ name })(project));

  test('the document is what it would be had it been sent whole, one change after another', async () => {
    const { id, project } = await made();
    let now = project;
    let revision = 1;
    const edits = [
      editProject({ name: 'One' }),
      (before: Project) => ({ ...before, neighbours: before.neighbours.slice(1) }),
      (before: Project) => ({
        ...before,
        options: before.options.map((option) => ({ ...option, name: `${option.name} 2` })),
      }),
    ];
    for (const edit of edits) {
      const after = edit(now);
      const { body } = await patch(id, revision, documentChanges(now, after)).expect(200);
      expect(body).toEqual({ id, revision: revision + 1 });
      now = after;
      revision++;
      expect((await stored(id)).project).toEqual(now);
    }
    const [line] = (await http().get('/api/projects?search=One').expect(200)).body;
    expect(line).toMatchObject({ id, name: 'One', revision });
  });

  test('over an older revision nothing is saved: the newer document is answered', async () => {
    const { id, project } = await made();
    await patch(id, 1, renamed(project, 'First')).expect(200);
    // The thread has the newer one at hand, not the one that these are of.
    const { body } = await patch(id, 1, renamed(project, 'Second')).expect(409);
    expect(body).toMatchObject({ code: 'stale', revision: 2, project: { name: 'First' } });
    await patch(id, 3, renamed(project, 'Third')).expect(409);
    await patch('nowhere', 1, renamed(project, 'Third')).expect(404);
    expect((await stored(id)).project.name).toBe('First');
  });

  test('of many who save at once over the same revision one has it, and nothing is mixed up', async () => {
    const { id, project } = await made();
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, i) => patch(id, 1, renamed(project, `Name ${i}`))),
    );
    const first = answers.findIndex(({ status }) => status === 200);
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
    expect(answers.filter(({ status }) => status === 409)).toHaveLength(7);
    // What was refused was checked, and perhaps kept, by the same thread: it must not be what the next is laid over.
    await patch(id, 2, { fields: { note: { value: 'next' } }, gone: [] }).expect(200);
    expect((await stored(id)).project).toMatchObject({ name: `Name ${first}`, note: 'next' });
  });

  test('after another server has saved, changes are laid over what that one saved', async () => {
    const { id, project } = await made();
    await patch(id, 1, renamed(project, 'Here')).expect(200);
    const other = await startServer(running.databaseUrl, 0);
    try {
      const there = { fields: { note: { value: 'there' } }, gone: [] };
      await request(other.url).patch(`/api/projects/${id}`).send({ revision: 2, changes: there }).expect(200);
    } finally {
      await other.close();
    }
    await patch(id, 2, renamed(project, 'Too late')).expect(409);
    await patch(id, 3, { fields: { units: { value: 'imperial' } }, gone: [] }).expect(200);
    expect((await stored(id)).project).toMatchObject({ name: 'Here', note: 'there', units: 'imperial' });
  });

  test('what is no change, or makes the document unsound, is refused with a sentence and changes nothing', async () => {
    const { id, project } = await made();
    for (const [status, revision, changes, words] of [
      [400, 'one', {}, 'revision'],
      [422, 1, { ids: [], items: {} }, 'do not fit the document at its beginning'],
      [422, 1, { fields: { name: { value: 5 } }, gone: [] }, 'name'],
      [422, 1, { fields: { targets: { value: [] } }, gone: [] }, 'does not exist'],
      [422, 1, { fields: {}, gone: ['options'] }, 'options'],
      [422, 1, { fields: { nothing: { value: 1 } }, gone: [] }, '“nothing” is not a key'],
    ] as const) {
      const { body } = await patch(id, revision, changes).expect(status);
      expect(errorSchema.parse(body).message).toContain(words);
    }
    expect(await stored(id)).toEqual({ id, revision: 1, project });
  });
});
