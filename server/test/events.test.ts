import { EventEmitter } from 'node:events';
import type { Response } from 'express';
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
      // Time for every connection to be made; those that are not wanted end, however busy the machine is.
      for (let i = 0; i < 20; i++) await watch.query('SELECT pg_sleep(0.1)');
      while ((await open()) > 0) await watch.query('SELECT pg_sleep(0.1)');
    } finally {
      await watch.end();
    }
  });

  test('after the database was away, pages are told to ask for what happened meanwhile', async () => {
    const url = await freshDatabase(admin!, 'events_away_test');
    const watch = new pg.Client({ connectionString: admin! });
    await watch.connect();
    /** A page that counts how often it is told hello. */
    let hellos = 0;
    let heard = () => {};
    const page = Object.assign(new EventEmitter(), {
      writeHead: () => {},
      end: () => {},
      write: (text: string) => {
        hellos += text.split('event: hello').length - 1;
        heard();
      },
    });
    const until = async (count: number) => {
      while (hellos < count) await new Promise<void>((resolve) => (heard = resolve));
    };
    const events = new Events(url);
    // Before anything else can happen: it hears that the database is listened to.
    events.attach('p', page as unknown as Response);
    try {
      // Once for itself, and once when the database began to be listened to.
      await until(2);
      const { rowCount } = await watch.query(
        "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = 'events_away_test'",
      );
      expect(rowCount).toBe(1);
      await until(3);
    } finally {
      await Promise.all([events.close(), watch.end()]);
    }
  });
});
