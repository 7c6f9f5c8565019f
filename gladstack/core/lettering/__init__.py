"""Fonts, and lettering set in them."""
