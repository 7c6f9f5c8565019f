"""The checks: each a function that tells of films or sheets what is worth knowing, one file each."""
