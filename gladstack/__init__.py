"""Glad Stack: from a picture to a stack of single-colour cut films."""

__version__ = "0.2.0"
