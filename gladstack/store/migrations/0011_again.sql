-- A job can be cut again: the cut before it is closed then, and stays a record of what was made.
ALTER TABLE cuts ADD COLUMN closed TEXT;
