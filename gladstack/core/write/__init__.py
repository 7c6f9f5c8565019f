"""Files for cutters: text and bytes, never an open file."""
