"""Designs, their revisions and their pictures, kept in one SQLite file."""
