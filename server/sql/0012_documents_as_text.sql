-- Up Migration
-- Documents as JSON text: what asks into them stands in columns beside, told by the server when it checks them, and text that
-- is packed fast is stored in a third of the time that jsonb takes.
ALTER TABLE projects
  ALTER COLUMN name DROP EXPRESSION,
  ALTER COLUMN place DROP EXPRESSION,
  ALTER COLUMN options DROP EXPRESSION,
  ADD COLUMN meshes text[] NOT NULL DEFAULT '{}',
  -- The weather year beside the document, most of which it would be; what does not change is not written again.
  ADD COLUMN weather text;
UPDATE projects SET meshes = ARRAY(SELECT DISTINCT jsonb_path_query(document, 'lax $.**.mesh') #>> '{}');
ALTER TABLE projects
  ALTER COLUMN name SET NOT NULL,
  ALTER COLUMN place SET NOT NULL,
  ALTER COLUMN options SET NOT NULL,
  ALTER COLUMN document TYPE text USING document::text;
-- A run that has ended needs its document no more.
ALTER TABLE runs ADD COLUMN meshes text[] NOT NULL DEFAULT '{}', ALTER COLUMN document DROP NOT NULL;
UPDATE runs SET document = NULL WHERE status IN ('done', 'stopped', 'failed');
UPDATE runs SET meshes = ARRAY(SELECT DISTINCT jsonb_path_query(document, 'lax $.**.mesh') #>> '{}')
  WHERE document IS NOT NULL;
ALTER TABLE runs ALTER COLUMN document TYPE text USING document::text;
DO $$ BEGIN
  ALTER TABLE projects ALTER COLUMN document SET COMPRESSION lz4, ALTER COLUMN weather SET COMPRESSION lz4;
  ALTER TABLE runs ALTER COLUMN document SET COMPRESSION lz4;
EXCEPTION WHEN feature_not_supported THEN NULL;
END $$;
-- What is packed already is not packed again, and read piece by piece.
ALTER TABLE blobs ALTER COLUMN bytes SET STORAGE EXTERNAL;

-- Down Migration
ALTER TABLE blobs ALTER COLUMN bytes SET STORAGE EXTENDED;
DELETE FROM runs WHERE document IS NULL;
ALTER TABLE runs DROP COLUMN meshes, ALTER COLUMN document SET NOT NULL,
  ALTER COLUMN document TYPE jsonb USING document::jsonb;
DROP INDEX projects_by_change;
UPDATE projects SET document = replace(document, '"weather":"@beside"', '"weather":' || weather) WHERE weather IS NOT NULL;
ALTER TABLE projects DROP COLUMN options, DROP COLUMN place, DROP COLUMN name, DROP COLUMN meshes, DROP COLUMN weather,
  ALTER COLUMN document TYPE jsonb USING document::jsonb;
ALTER TABLE projects
  ADD COLUMN name text GENERATED ALWAYS AS (coalesce(document ->> 'name', '')) STORED,
  ADD COLUMN place text GENERATED ALWAYS AS (coalesce(document #>> '{site,place,name}', '')) STORED,
  ADD COLUMN options integer GENERATED ALWAYS AS (
    CASE WHEN jsonb_typeof(document -> 'options') = 'array' THEN jsonb_array_length(document -> 'options') ELSE 0 END
  ) STORED;
CREATE INDEX projects_by_change ON projects (updated_at DESC, id);
