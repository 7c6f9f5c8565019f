CREATE TABLE pictures (
    hash      TEXT PRIMARY KEY CHECK (length(hash) = 64),
    format    TEXT NOT NULL,
    width_px  INTEGER NOT NULL,
    height_px INTEGER NOT NULL,
    data      BLOB NOT NULL
) STRICT;

CREATE TABLE designs (
    id      TEXT PRIMARY KEY,
    created TEXT NOT NULL,
    head    INTEGER REFERENCES revisions (id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

-- A revision is never changed or deleted: undo and redo only move a design's head along parent and redo links.
CREATE TABLE revisions (
    id      INTEGER PRIMARY KEY,
    design  TEXT NOT NULL REFERENCES designs (id),
    parent  INTEGER REFERENCES revisions (id),
    recipe  TEXT NOT NULL,
    edit    TEXT,
    label   TEXT NOT NULL,
    picture TEXT NOT NULL REFERENCES pictures (hash),
    created TEXT NOT NULL
) STRICT;

CREATE INDEX revisions_of_design ON revisions (design, id);
CREATE INDEX revisions_of_parent ON revisions (parent);

-- Where redo leads from a revision: the child that was left last.
CREATE TABLE redo_links (
    revision INTEGER PRIMARY KEY REFERENCES revisions (id),
    child    INTEGER NOT NULL REFERENCES revisions (id)
) STRICT;
