"""Jobs: what is to be cut of which designs, and the edits that change that."""
