-- Up Migration
-- How often a run was begun; one that never comes to an end is given up.
ALTER TABLE runs ADD COLUMN attempts integer NOT NULL DEFAULT 0;
-- Since when nothing names a blob; null while something does.
ALTER TABLE blobs ADD COLUMN unnamed_since timestamptz;
CREATE INDEX runs_by_result ON runs (result_hash) WHERE result_hash IS NOT NULL;

-- Down Migration
DROP INDEX runs_by_result;
ALTER TABLE blobs DROP COLUMN unnamed_since;
ALTER TABLE runs DROP COLUMN attempts;
