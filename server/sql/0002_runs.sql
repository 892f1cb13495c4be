-- Up Migration
CREATE TABLE runs (
  id uuid PRIMARY KEY,
  project_id text NOT NULL REFERENCES projects (id) ON DELETE CASCADE,
  study_id text NOT NULL,
  option_id text NOT NULL,
  status text NOT NULL CHECK (status IN ('queued', 'running', 'done', 'stopped', 'failed')),
  stop_requested boolean NOT NULL DEFAULT false,
  -- The document as it stood when the run was asked for, and what the result depends on.
  document jsonb NOT NULL,
  signature jsonb NOT NULL,
  sensors integer NOT NULL DEFAULT 0,
  sensors_done integer NOT NULL DEFAULT 0,
  rays bigint NOT NULL DEFAULT 0,
  seconds double precision,
  message text,
  partial bytea,
  result_hash text REFERENCES blobs (hash),
  created_at timestamptz NOT NULL DEFAULT now(),
  heartbeat_at timestamptz,
  -- Who is at work on it; whoever is not named here any more has lost it.
  worker uuid,
  finished_at timestamptz
);
CREATE INDEX runs_by_project ON runs (project_id, created_at DESC);
CREATE INDEX runs_at_work ON runs (status) WHERE status IN ('queued', 'running');

-- Down Migration
DROP TABLE runs;
