import pg from 'pg';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { Events } from '../src/api/events';

const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

describeWithDatabase('what the database tells', () => {
  test('closed while it is still connecting, it leaves no connection behind', async () => {
    const url = await freshDatabase(admin!, 'events_test');
    const watch = new pg.Client({ connectionString: admin! });
    await watch.connect();
    try {
      for (let i = 0; i < 5; i++) await new Events(url).close();
      const open = async () => {
        const { rows } = await watch.query("SELECT pid FROM pg_stat_activity WHERE datname = 'events_test'");
        return rows.length;
      };
      // Time for every connection to be made, and for those that are not wanted to end.
      for (let i = 0; i < 20; i++) await watch.query('SELECT pg_sleep(0.1)');
      expect(await open()).toBe(0);
    } finally {
      await watch.end();
    }
  });
});
