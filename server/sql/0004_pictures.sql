-- Up Migration
-- Pictures kept in the gallery of a project. The bytes stand in blobs, under their hash.
CREATE TABLE pictures (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  project_id text NOT NULL REFERENCES projects (id) ON DELETE CASCADE,
  name text NOT NULL,
  option_id text NOT NULL,
  viewpoint text NOT NULL,
  date text NOT NULL,
  minutes double precision NOT NULL,
  width integer NOT NULL,
  height integer NOT NULL,
  bytes integer NOT NULL,
  picture_hash text NOT NULL,
  thumb_hash text,
  created_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX pictures_by_project ON pictures (project_id, created_at DESC);
CREATE INDEX pictures_by_picture ON pictures (picture_hash);
CREATE INDEX pictures_by_thumb ON pictures (thumb_hash);

-- Down Migration
DROP TABLE pictures;
