-- Up Migration
-- Masks of the same obstacles and sensors serve one another where they have directions in common: so it is kept whose they
-- are, and which directions they have (three numbers of 64 bits each, little-endian).
ALTER TABLE masks ADD COLUMN place text, ADD COLUMN vectors bytea;
CREATE INDEX masks_by_place ON masks (place);
UPDATE masks SET bytes = NULL WHERE place IS NULL;

-- Down Migration
DROP INDEX masks_by_place;
ALTER TABLE masks DROP COLUMN place, DROP COLUMN vectors;
