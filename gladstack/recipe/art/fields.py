"""Designs filled in from a list of names: a recipe for each row, and what does not fit."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.words import faces_of, measured_words
from gladstack.recipe.model.arts import LetteringArt, Place
from gladstack.recipe.model.fields import fields_in, filled_text, shown
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import changed
from gladstack.stages.engine import Stages

Fit = Literal["as-is", "narrower", "smaller", "two-lines"]
_LEAST = 0.3
"""Narrower or smaller than this share is no lettering any more."""
_SLACK = 1.001


@dataclass(frozen=True)
class FieldCheck:
    """What one filled lettering comes to: how wide, how wide it may be, which characters its font lacks."""

    art: str
    width_mm: float
    room_mm: float
    missing: str

    @property
    def wide(self) -> bool:
        """Whether it is wider than it may be."""
        return self.width_mm > self.room_mm * _SLACK


def fields_of(recipe: Recipe) -> dict[str, str]:
    """The fields of a design, each with what it shows until it is filled."""
    out: dict[str, str] = {}
    for art in recipe.arts:
        if isinstance(art, LetteringArt):
            out |= {k: v for k, v in fields_in(art.text).items() if k not in out}
    return out


def filled(
    recipe: Recipe, values: Mapping[str, str], fits: Mapping[str, Fit], assets: Assets, stages: Stages
) -> tuple[Recipe, list[FieldCheck]]:
    """A design with its fields filled and made to fit as is wanted for each, and what each lettering comes to then.

    What follows its letters one by one (nudges, colours) goes where fields are filled. Raises FontError.
    """
    arts = []
    checks: list[FieldCheck] = []
    for art in recipe.arts:
        own = fields_in(art.text) if isinstance(art, LetteringArt) else {}
        if not isinstance(art, LetteringArt) or not own:
            arts.append(art)
            continue
        fit: Fit = next((fits[name] for name in own if name in fits), "as-is")
        new, check = _filled(art, values, fit, assets, stages)
        arts.append(new)
        checks.append(check)
    return changed(recipe, arts=tuple(arts)), checks


def _filled(
    art: LetteringArt, values: Mapping[str, str], fit: Fit, assets: Assets, stages: Stages
) -> tuple[LetteringArt, FieldCheck]:
    room = art.room_mm or _measured(art, shown(art.text), assets, stages)[0]
    text = filled_text(art.text, values)
    plain = changed(art, text=text, letters=(), films=())
    if fit == "two-lines" and "\n" not in text and (at := _middle_space(text)) is not None:
        half = art.leading * art.height_mm * art.place.scale_y / 2
        place = changed(art.place, y_mm=art.place.y_mm - half)
        plain = changed(plain, text=f"{text[:at]}\n{text[at + 1 :]}", place=place)
    width, missing = _measured(plain, plain.text, assets, stages)
    factor = max(_LEAST, min(1.0, room / max(width, 1e-9)))
    if width > room * _SLACK and fit in ("narrower", "two-lines"):
        plain = changed(plain, place=changed(plain.place, scale_x=plain.place.scale_x * factor))
    elif width > room * _SLACK and fit == "smaller":
        lines = tuple(changed(s, height_mm=s.height_mm and s.height_mm * factor) for s in plain.lines)
        plain = changed(plain, height_mm=plain.height_mm * factor, lines=lines)
    else:
        factor = 1.0
    return plain, FieldCheck(art.id, width * factor, room, missing)


def _measured(art: LetteringArt, text: str, assets: Assets, stages: Stages) -> tuple[float, str]:
    """How wide the ink of lettering is that is not turned, and which characters its fonts lack."""
    level = Place(scale_x=art.place.scale_x, scale_y=art.place.scale_y)
    return stages.run("art", measured_words, changed(art, text=text, place=level), faces_of(art, assets, stages)).value


def _middle_space(text: str) -> int | None:
    spaces = [k for k, c in enumerate(text) if c == " " and 0 < k < len(text) - 1]
    return min(spaces, key=lambda k: abs(k - len(text) / 2), default=None)
