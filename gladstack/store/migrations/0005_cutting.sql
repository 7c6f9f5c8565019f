-- A job's cut begins when its first film goes in, and is finished when its last one is cut; one that is ended before
-- leaves what it has used off the shelf.
ALTER TABLE cuts ADD COLUMN finished TEXT;
UPDATE cuts SET finished = created;
ALTER TABLE cuts ADD COLUMN ended TEXT;

-- A run at the cutter: what was decided and sent, and each sheet as it was planned. All else follows from the cutter's log.
CREATE TABLE cut_runs (
    cut INTEGER PRIMARY KEY REFERENCES cuts (id),
    job TEXT NOT NULL REFERENCES jobs (id),
    body TEXT NOT NULL
);
CREATE TABLE cut_sheets (
    cut INTEGER NOT NULL REFERENCES cut_runs (cut),
    number INTEGER NOT NULL,
    body TEXT NOT NULL,
    PRIMARY KEY (cut, number)
);
-- What the cutter did to a film, kept when it was taken out.
CREATE TABLE cut_logs (
    film TEXT PRIMARY KEY,
    body TEXT NOT NULL
);
