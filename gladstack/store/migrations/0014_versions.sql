-- The own sheets of a version of a design: the design is the same, the version says which of them ('': the motif itself).
ALTER TABLE jobs ADD COLUMN own_version TEXT NOT NULL DEFAULT '';
DROP INDEX own_job_of_design;
CREATE UNIQUE INDEX own_job_of_version ON jobs (own_of, own_version) WHERE own_of IS NOT NULL;
