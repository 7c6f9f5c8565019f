-- The shop: materials, pieces of film, and jobs. What is left of a piece is the sum of its ledger, which is only ever added to.
CREATE TABLE materials (
    id      TEXT PRIMARY KEY,
    body    TEXT NOT NULL,
    retired INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE TABLE pieces (
    id        TEXT PRIMARY KEY,
    material  TEXT NOT NULL REFERENCES materials (id),
    kind      TEXT NOT NULL CHECK (kind IN ('roll', 'sheet', 'offcut')),
    width_mm  REAL NOT NULL CHECK (width_mm > 0),
    length_mm REAL NOT NULL CHECK (length_mm > 0)
) STRICT;

CREATE INDEX pieces_of_material ON pieces (material);

CREATE TABLE jobs (
    id      TEXT PRIMARY KEY,
    created TEXT NOT NULL,
    head    INTEGER REFERENCES job_revisions (id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE job_revisions (
    id      INTEGER PRIMARY KEY,
    job     TEXT NOT NULL REFERENCES jobs (id),
    parent  INTEGER REFERENCES job_revisions (id),
    redo    INTEGER REFERENCES job_revisions (id),
    body    TEXT NOT NULL,
    label   TEXT NOT NULL,
    created TEXT NOT NULL
) STRICT;

CREATE INDEX job_revisions_of_job ON job_revisions (job, id);

-- A job marked as cut; what it took and left stands in the ledger under its id.
CREATE TABLE cuts (
    id       INTEGER PRIMARY KEY,
    job      TEXT NOT NULL REFERENCES jobs (id),
    revision INTEGER NOT NULL REFERENCES job_revisions (id),
    created  TEXT NOT NULL,
    undone   TEXT
) STRICT;

CREATE INDEX cuts_of_job ON cuts (job, id);

CREATE TABLE ledger (
    id      INTEGER PRIMARY KEY,
    piece   TEXT NOT NULL REFERENCES pieces (id),
    change  REAL NOT NULL,
    why     TEXT NOT NULL,
    cut     INTEGER REFERENCES cuts (id),
    created TEXT NOT NULL
) STRICT;

CREATE INDEX ledger_of_piece ON ledger (piece, change);
CREATE INDEX ledger_of_cut ON ledger (cut);
