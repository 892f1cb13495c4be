import type { ErrandRunner } from '../jobs/errand-runner';
import type { RunJobs } from '../jobs/run-jobs';
import type { Database } from '../store/database';
import type { DatabaseWatch } from '../store/database-watch';
import type { Events } from './events';

/** What the routes stand on. */
export interface Services {
  db: Database;
  watch: DatabaseWatch;
  jobs: RunJobs;
  errands: ErrandRunner;
  events: Events;
}
