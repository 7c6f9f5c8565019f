-- A design's own sheets are a job that says whose it is, in place of an id that begins with "of-". Those of designs that are
-- gone for good go, too, but for what was cut.
ALTER TABLE jobs ADD COLUMN own_of TEXT REFERENCES designs (id);
UPDATE jobs SET own_of = substr(id, 4) WHERE id LIKE 'of-%' AND substr(id, 4) IN (SELECT id FROM designs);
DELETE FROM job_revisions WHERE job LIKE 'of-%' AND substr(job, 4) NOT IN (SELECT id FROM designs)
    AND job NOT IN (SELECT job FROM cuts);
DELETE FROM jobs WHERE id LIKE 'of-%' AND own_of IS NULL AND id NOT IN (SELECT job FROM cuts);
CREATE UNIQUE INDEX own_job_of_design ON jobs (own_of) WHERE own_of IS NOT NULL;
