-- What the shop's work costs: one line, set by the maker.
CREATE TABLE rates (
    id   INTEGER PRIMARY KEY CHECK (id = 1),
    body TEXT NOT NULL
) STRICT;
