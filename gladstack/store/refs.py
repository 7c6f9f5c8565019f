"""How a design or one of its versions is named: the design's id, and after a tilde the version's."""

from __future__ import annotations


def parts_of(ref: str) -> tuple[str, str | None]:
    """The design and the version (None: the motif itself) that a name stands for."""
    design, _, version = ref.partition("~")
    return design, version or None


def own_of(ref: str) -> tuple[str, str]:
    """The same as two columns of a table, in which no version is an empty text."""
    design, version = parts_of(ref)
    return design, version or ""


def ref_of(design: str, version: str | None) -> str:
    """The name of a design's version."""
    return f"{design}~{version}" if version else design
