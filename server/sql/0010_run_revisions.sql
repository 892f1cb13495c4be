-- Up Migration
-- The revision of its project that a run was computed from: which of two results is the newer is told by it, not by clocks.
ALTER TABLE runs ADD COLUMN revision integer NOT NULL DEFAULT 0;

-- Down Migration
ALTER TABLE runs DROP COLUMN revision;
