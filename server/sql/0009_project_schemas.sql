-- Up Migration
-- By which schema the document was checked and made whole last: SHA-256 of its JSON Schema. Another one, or none: it is looked
-- at again when it is next asked for.
ALTER TABLE projects ADD COLUMN checked_by text;

-- Down Migration
ALTER TABLE projects DROP COLUMN checked_by;
