"""A design as a document: every choice of the maker, nothing computed."""
