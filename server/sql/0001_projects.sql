-- Up Migration
CREATE TABLE projects (
  id text PRIMARY KEY,
  revision integer NOT NULL DEFAULT 1,
  document jsonb NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now(),
  updated_at timestamptz NOT NULL DEFAULT now()
);

-- Bulky things, once under the SHA-256 of their content.
CREATE TABLE blobs (
  hash text PRIMARY KEY,
  kind text NOT NULL,
  bytes bytea NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now()
);

-- Samples that have been loaded once; one that was deleted does not come back.
CREATE TABLE samples_loaded (id text PRIMARY KEY);

-- Down Migration
DROP TABLE samples_loaded;
DROP TABLE blobs;
DROP TABLE projects;
