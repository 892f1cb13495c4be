-- Up Migration
-- Masks of runs, each under the hash of its obstacles, sensors and directions, so that they are weighed again without
-- tracing. They can always be traced anew: those that were not used for the longest go first.
CREATE TABLE masks (
  key text PRIMARY KEY,
  bytes bytea NOT NULL,
  used_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX masks_by_use ON masks (used_at);

-- Down Migration
DROP TABLE masks;
