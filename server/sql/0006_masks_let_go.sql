-- Up Migration
-- Of masks that had to make room the key stays for a while, so that a run that traces them anew can say so.
ALTER TABLE masks ALTER COLUMN bytes DROP NOT NULL;

-- Down Migration
DELETE FROM masks WHERE bytes IS NULL;
ALTER TABLE masks ALTER COLUMN bytes SET NOT NULL;
