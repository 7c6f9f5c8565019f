-- Vector files that makers bring in, kept once by content hash like pictures.
CREATE TABLE files (
    hash TEXT PRIMARY KEY CHECK (length(hash) = 64),
    data BLOB NOT NULL
) STRICT;

CREATE TABLE revision_files (
    revision INTEGER NOT NULL REFERENCES revisions (id),
    file     TEXT NOT NULL REFERENCES files (hash),
    PRIMARY KEY (revision, file)
) STRICT, WITHOUT ROWID;

CREATE INDEX revisions_of_file ON revision_files (file);
