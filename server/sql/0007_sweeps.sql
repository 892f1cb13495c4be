-- Up Migration
-- The last sweep of each device or massing of a project, as JSON text that only pages read.
CREATE TABLE sweeps (
  project_id text NOT NULL REFERENCES projects (id) ON DELETE CASCADE,
  key text NOT NULL,
  sweep text NOT NULL,
  kept_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (project_id, key)
);

-- Down Migration
DROP TABLE sweeps;
