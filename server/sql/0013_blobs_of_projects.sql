-- Up Migration
-- Documents name more than meshes: pictures on the ground too.
ALTER TABLE projects RENAME COLUMN meshes TO blobs;

-- Down Migration
ALTER TABLE projects RENAME COLUMN blobs TO meshes;
