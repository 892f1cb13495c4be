import { kelpLane } from '@dial-shade/samples';
import { runner } from 'node-pg-migrate';
import { join } from 'node:path';
import pg from 'pg';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { projectRoot } from '../src/root';
import { type Database, openDatabase } from '../src/store/database';
import { migrateDatabase } from '../src/store/migrate';
import { findProject, listProjects } from '../src/store/projects';
import { keepUp } from '../src/store/upkeep';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

describeWithDatabase('a database that an earlier program made', () => {
  let url: string;
  let db: Database;
  beforeAll(async () => {
    url = await freshDatabase(admin!, 'migrations_test');
  });
  afterAll(() => db?.end());

  const down = async () => {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    try {
      await runner({
        dbClient: client,
        dir: join(projectRoot(), 'server/sql'),
        direction: 'down',
        // Before documents stood as text.
        count: 2,
        migrationsTable: 'migrations',
        log: () => {},
      });
    } finally {
      await client.end();
    }
  };

  test('keeps its projects, and the meshes that they and runs which have not ended name', async () => {
    await down();
    const mesh = { kind: 'mesh', id: 'm', name: 'M', mesh: 'a'.repeat(64), triangles: 1, move: [0, 0, 0] };
    const rest = { turnDeg: 0, openness: 0, demolished: false, openings: [] };
    const project = { ...kelpLane(), neighbours: [{ ...mesh, ...rest }] };
    const old = new pg.Client({ connectionString: url });
    await old.connect();
    await old.query("INSERT INTO projects (id, document) VALUES ('p', $1)", [project]);
    for (const status of ['queued', 'done'])
      await old.query(
        `INSERT INTO runs (id, project_id, study_id, option_id, status, document, signature)
         VALUES (gen_random_uuid(), 'p', 's', 'a', $1, $2, '{}')`,
        [status, { deep: [{ mesh: (status === 'queued' ? 'b' : 'c').repeat(64) }] }],
      );
    for (const letter of ['a', 'b', 'c'])
      await old.query("INSERT INTO blobs (hash, kind, bytes) VALUES ($1, 'mesh', '\\x01')", [
        letter.repeat(64),
      ]);
    await old.end();

    await migrateDatabase(url);
    db = openDatabase(url);
    const asked = { limit: 1, offset: 0, search: '', order: 'name' } as const;
    expect((await listProjects(db, asked))[0]).toMatchObject({
      name: 'Kelp Lane',
      place: 'Orrin Bay',
      options: 4,
    });
    expect((await findProject(db, 'p'))!.project).toEqual(project);
    const { rows } = await db.query('SELECT status, document IS NULL AS gone FROM runs ORDER BY status');
    expect(rows).toEqual([
      { status: 'done', gone: true },
      { status: 'queued', gone: false },
    ]);
    await keepUp(db);
    const named = await db.query('SELECT hash FROM blobs WHERE unnamed_since IS NULL ORDER BY hash');
    expect(named.rows.map(({ hash }) => String(hash)[0])).toEqual(['a', 'b']);
    // It was looked at, and stands with its weather beside; going back puts that into the document again.
    await db.end();
    await down();
    const back = new pg.Client({ connectionString: url });
    await back.connect();
    const { rows: stored } = await back.query("SELECT document, name FROM projects WHERE id = 'p'");
    await back.end();
    expect(stored[0]).toEqual({ document: project, name: 'Kelp Lane' });
    await migrateDatabase(url);
    db = openDatabase(url);
    expect((await findProject(db, 'p'))!.project).toEqual(project);
  });
});
