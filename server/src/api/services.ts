import type { ErrandRunner } from '../jobs/errand-runner';
import type { RunJobs } from '../jobs/run-jobs';
import type { Database } from '../store/database';
import type { Events } from './events';

/** What the routes stand on. */
export interface Services {
  db: Database;
  jobs: RunJobs;
  errands: ErrandRunner;
  events: Events;
}
