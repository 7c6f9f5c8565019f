-- The maker's own cutters, beside those that come with the app; one of the same id takes the place of such a one.
CREATE TABLE cutters (
    id   TEXT PRIMARY KEY,
    body TEXT NOT NULL
) STRICT;
