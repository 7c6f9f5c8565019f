"""The design as a document: every choice the maker made, the edits that change it, and the build that follows from it."""
