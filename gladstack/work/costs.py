"""What work will cost, in seconds on a plain machine: a guess from what is known before it begins, by figures measured.

It only decides who goes first and in which lane; what takes longer than its lane allows moves on by itself.
"""

from __future__ import annotations

from collections.abc import Callable

from gladstack.recipe.model.recipe import Recipe

_BEGIN_S = 0.2


def reading_s(size_bytes: int) -> float:
    """Reading a file that was brought in."""
    return _BEGIN_S + 0.4e-6 * size_bytes


def looking_s(pixels: int) -> float:
    """One look at a picture: decoding it, setting it straight, telling what kind it is."""
    return _BEGIN_S + 0.5e-6 * pixels


def parting_s(pixels: int) -> float:
    """A picture parted into films, or its lines traced."""
    return _BEGIN_S + 4e-6 * pixels


def drawing_s(size_bytes: int) -> float:
    """A vector file read and laid into films: some 20 bytes a segment, some 0.2 ms each."""
    return _BEGIN_S + 10e-6 * size_bytes


def arts_s(recipe: Recipe, pixels: Callable[[str], int], size: Callable[[str], int]) -> float:
    """All art of a design that takes long; `pixels` and `size` (bytes) tell of pictures and files by their hash."""
    total = 0.0
    for art in recipe.arts:
        for kind, key in art.assets:
            if kind == "picture":
                total += parting_s(pixels(key))
            elif kind == "file":
                total += drawing_s(size(key))
    return total


def laying_s(count: int) -> float:
    """So many small designs, built already, laid on film."""
    return 0.1 * count


def writing_s(count: int) -> float:
    """The files of so many small designs written."""
    return 0.5 * count


def building_s(count: int) -> float:
    """So many small designs built, as for a list of names."""
    return 0.25 * count
