"""Edits of a design: what each does, and what it is called."""
