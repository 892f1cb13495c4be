import { firstMeasures } from '@dial-shade/core';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { SAMPLES } from '@dial-shade/samples';
import { createApp } from './api/app';
import { Events } from './api/events';
import { ErrandRunner } from './jobs/errand-runner';
import { RunJobs } from './jobs/run-jobs';
import { openDatabase, type Database } from './store/database';
import { DatabaseWatch } from './store/database-watch';
import { log } from './log';
import { checkedDocument } from './store/documents';
import { createProject, findProject } from './store/projects';
import { keepUp } from './store/upkeep';

/** How often what is not kept any longer is removed. */
const UPKEEP_MS = 3_600_000;

/** Time that a request may take to come in whole; a backup is large, other bodies have less (`bodies`). */
const REQUEST_MS = 3_600_000;

/** A running server and how to end it. */
export interface Running {
  url: string;
  databaseUrl: string;
  db: Database;
  /** Runs what the options of projects are compared by, in the background: a table is full when it is first opened. */
  compare(projectIds: readonly string[]): Promise<void>;
  close(): Promise<void>;
}

/** Starts serving on loopback; the database must have been migrated. Port 0 takes a free one. */
export async function startServer(databaseUrl: string, port: number): Promise<Running> {
  const db = openDatabase(databaseUrl);
  const jobs = new RunJobs(db, databaseUrl);
  await jobs.start();
  const watch = new DatabaseWatch(databaseUrl);
  await watch.start();
  const errands = new ErrandRunner();
  const events = new Events(databaseUrl);
  const upkeep = setInterval(() => void tidy(db), UPKEEP_MS);
  const server = createServer(createApp({ db, watch, jobs, errands, events }));
  server.requestTimeout = REQUEST_MS;
  await listen(server, port);
  const address = server.address() as AddressInfo;
  void tidy(db);
  return {
    url: `http://127.0.0.1:${address.port}`,
    databaseUrl,
    db,
    compare: (projectIds) => runComparisons(db, jobs, projectIds),
    async close() {
      clearInterval(upkeep);
      await events.close();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await Promise.all([jobs.stop(), errands.close()]);
      await watch.close();
      await db.end();
    },
  };
}

/** Removes what is not kept any longer, and says what it was. */
async function tidy(db: Database): Promise<void> {
  try {
    const removed = await keepUp(db);
    if (removed.runs || removed.blobs) log.info(removed, 'removed what is not kept any longer');
  } catch (error) {
    log.warn({ error: (error as Error).message }, 'could not look for what is not kept any longer');
  }
}

function listen(server: Server, port: number): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve());
  });
}

/** Submits every study that a comparison of a project goes by, of every option. What cannot be run is left out. */
async function runComparisons(db: Database, jobs: RunJobs, projectIds: readonly string[]): Promise<void> {
  for (const id of projectIds) {
    const stored = await findProject(db, id);
    if (!stored) continue;
    const { studies, comparison, options } = stored.project;
    const wanted = comparison.measures.length > 0 ? comparison.measures : firstMeasures(stored.project);
    const studied = studies.filter((study) => wanted.some((key) => key.startsWith(`study/${study.id}/`)));
    for (const study of studied)
      for (const option of options)
        try {
          await jobs.submit(stored, option.id, study.id, new AbortController().signal);
        } catch (error) {
          log.info({ error: (error as Error).message, study: study.id, option: option.id }, 'not compared');
        }
  }
}

/** Loads the sample projects into a database that has never held any; gives the ids of those that it loaded. */
export async function loadSamples(db: Database): Promise<string[]> {
  const loaded: string[] = [];
  for (const [id, make] of Object.entries(SAMPLES)) {
    const { rowCount } = await db.query('INSERT INTO samples_loaded VALUES ($1) ON CONFLICT DO NOTHING', [
      id,
    ]);
    if (rowCount !== 1) continue;
    await createProject(db, checkedDocument(make()), id);
    loaded.push(id);
  }
  return loaded;
}
