-- A design may hold many pictures or none, so what a revision uses moves out of its row; fonts of the maker's own come in.
CREATE TABLE revision_pictures (
    revision INTEGER NOT NULL REFERENCES revisions (id),
    picture  TEXT NOT NULL REFERENCES pictures (hash),
    PRIMARY KEY (revision, picture)
) STRICT, WITHOUT ROWID;

CREATE INDEX revisions_of_picture ON revision_pictures (picture);

INSERT INTO revision_pictures (revision, picture) SELECT id, picture FROM revisions;

CREATE TABLE new_revisions (
    id      INTEGER PRIMARY KEY,
    design  TEXT NOT NULL REFERENCES designs (id),
    parent  INTEGER REFERENCES revisions (id),
    recipe  TEXT NOT NULL,
    edit    TEXT,
    label   TEXT NOT NULL,
    created TEXT NOT NULL
) STRICT;

INSERT INTO new_revisions (id, design, parent, recipe, edit, label, created)
    SELECT id, design, parent, recipe, edit, label, created FROM revisions;

DROP TABLE revisions;

ALTER TABLE new_revisions RENAME TO revisions;

CREATE INDEX revisions_of_design ON revisions (design, id);
CREATE INDEX revisions_of_parent ON revisions (parent);

CREATE TABLE fonts (
    hash   TEXT PRIMARY KEY CHECK (length(hash) = 64),
    family TEXT NOT NULL,
    style  TEXT NOT NULL,
    data   BLOB NOT NULL,
    added  TEXT NOT NULL
) STRICT;
