import { emptyProject, type Project, signature } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { randomUUID } from 'node:crypto';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { type Database, openDatabase } from '../src/store/database';
import { checkedDocument } from '../src/store/documents';
import { getBlob, putBlob } from '../src/store/blobs';
import { createProject, saveProject } from '../src/store/projects';
import { createRun } from '../src/store/runs';
import { keepUp } from '../src/store/upkeep';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

describeWithDatabase('what is kept, and what goes', () => {
  let db: Database;
  beforeAll(async () => {
    db = openDatabase(await freshDatabase(admin!, 'upkeep_test'));
  });
  afterAll(() => db?.end());

  /** As if so many days had passed. */
  const later = async (days: number) => {
    await db.query('UPDATE blobs SET unnamed_since = unnamed_since - make_interval(days => $1)', [days]);
    await db.query('UPDATE runs SET finished_at = finished_at - make_interval(days => $1)', [days]);
  };
  const withMesh = (hash: string | null): Project => ({
    ...emptyProject('Meshes', 2026),
    neighbours: hash
      ? [
          {
            kind: 'mesh',
            id: 'm',
            name: 'M',
            mesh: hash,
            triangles: 1,
            move: [0, 0, 0],
            turnDeg: 0,
            openness: 0,
            demolished: false,
            openings: [],
          },
        ]
      : [],
  });

  test('a mesh stays while a project names it, and for a week after, so that a step back finds it', async () => {
    const [named, loose] = ['a'.repeat(64), 'b'.repeat(64)];
    for (const hash of [named, loose]) await putBlob(db, hash, 'mesh', new Uint8Array([1]));
    await createProject(db, checkedDocument(withMesh(named)), 'p');
    await keepUp(db);
    await later(6);
    expect((await keepUp(db)).blobs).toBe(0);
    await later(2);
    expect((await keepUp(db)).blobs).toBe(1);
    expect(await getBlob(db, named, 'mesh')).not.toBeNull();
    expect(await getBlob(db, loose, 'mesh')).toBeNull();
    // Taken out, looked at, and brought back by undo before the week is over.
    await saveProject(db, 'p', 1, checkedDocument(withMesh(null)));
    await keepUp(db);
    await later(5);
    await saveProject(db, 'p', 2, checkedDocument(withMesh(named)));
    await keepUp(db);
    await later(30);
    expect((await keepUp(db)).blobs).toBe(0);
    expect(await getBlob(db, named, 'mesh')).not.toBeNull();
  });

  test('runs go by age, but the newest result of each study and option stays', async () => {
    const project = kelpLane();
    await createProject(db, checkedDocument(project), 'runs');
    const study = project.studies[0]!;
    const ids: string[] = [];
    for (const optionId of ['a', 'a', 'b']) {
      const id = randomUUID();
      const hash = `${ids.length}`.repeat(64);
      await putBlob(db, hash, 'result', new Uint8Array([ids.length]));
      await createRun(db, {
        id,
        projectId: 'runs',
        studyId: study.id,
        revision: 1,
        optionId,
        document: project,
        signature: { ...signature(project, optionId, study), n: { name: 'n', hash: id } },
        sensors: 1,
        rays: 1,
      });
      await db.query("UPDATE runs SET status = 'done', finished_at = now(), result_hash = $2 WHERE id = $1", [
        id,
        hash,
      ]);
      ids.push(id);
    }
    await later(80);
    expect((await keepUp(db)).runs).toBe(0);
    await later(20);
    expect((await keepUp(db)).runs).toBe(1);
    const { rows } = await db.query<{ id: string }>('SELECT id FROM runs');
    expect(rows.map(({ id }) => id).sort()).toEqual([ids[1], ids[2]].sort());
    await keepUp(db);
    await later(8);
    expect((await keepUp(db)).blobs).toBe(1);
  });
});
