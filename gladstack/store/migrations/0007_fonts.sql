-- A maker's own fonts have a name and tags of the maker's; one that was removed stays for the designs that are set in it.
ALTER TABLE fonts ADD COLUMN name TEXT NOT NULL DEFAULT '';
ALTER TABLE fonts ADD COLUMN tags TEXT NOT NULL DEFAULT '[]';
ALTER TABLE fonts ADD COLUMN removed TEXT;
