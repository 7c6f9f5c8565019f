"""Recipe in, films out."""
