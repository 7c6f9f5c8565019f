"""What films are called unless the maker says otherwise."""

from __future__ import annotations

from collections.abc import Sequence

from gladstack.core.base.colour import Rgb, colour_name


def film_names(colours: Sequence[Rgb]) -> list[str]:
    """A name for every colour, numbered where two would be called the same."""
    return numbered([colour_name(rgb) for rgb in colours])


def numbered(names: Sequence[str], taken: Sequence[str] = ()) -> list[str]:
    """The names with a number where one is taken already."""
    out: list[str] = []
    for name in names:
        unique, k = name, 2
        while unique in out or unique in taken:
            unique, k = f"{name} {k}", k + 1
        out.append(unique)
    return out
