"""Cutting: a plan carried out sheet by sheet, and what it came to."""
