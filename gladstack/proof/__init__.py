"""The proof: what is worth knowing of a design or a plan before film is cut, and what mends it; one file a check."""
