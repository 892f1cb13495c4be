-- Up Migration
-- What a list of projects shows, beside the document: no list has to unpack any.
ALTER TABLE projects
  ADD COLUMN name text GENERATED ALWAYS AS (coalesce(document ->> 'name', '')) STORED,
  ADD COLUMN place text GENERATED ALWAYS AS (coalesce(document #>> '{site,place,name}', '')) STORED,
  ADD COLUMN options integer GENERATED ALWAYS AS (
    CASE WHEN jsonb_typeof(document -> 'options') = 'array' THEN jsonb_array_length(document -> 'options') ELSE 0 END
  ) STORED;
CREATE INDEX projects_by_change ON projects (updated_at DESC, id);

-- Down Migration
DROP INDEX projects_by_change;
ALTER TABLE projects DROP COLUMN options, DROP COLUMN place, DROP COLUMN name;
