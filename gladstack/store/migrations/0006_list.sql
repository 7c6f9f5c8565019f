-- A design in the bin stays whole until it is emptied out; tags are the maker's own words, as a JSON list.
ALTER TABLE designs ADD COLUMN binned TEXT;
ALTER TABLE designs ADD COLUMN tags TEXT NOT NULL DEFAULT '[]';

-- A small picture of a revision, kept so that no list has to build one.
CREATE TABLE looks (
    revision INTEGER PRIMARY KEY REFERENCES revisions (id),
    png      BLOB NOT NULL
) STRICT;
