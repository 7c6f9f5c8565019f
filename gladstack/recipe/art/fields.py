"""Designs filled in from a list of names: a recipe for each row, and what does not fit."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.words import Measured, faces_of, measured_words
from gladstack.recipe.model.arts import LetteringArt, LineStyle, Place
from gladstack.recipe.model.fields import Fit, fields_in, filled_text, kept_lines, shown
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import changed
from gladstack.stages.engine import Stages

_LEAST = 0.3
"""Narrower or smaller than this share is no lettering any more."""
_SLACK = 1.001


@dataclass(frozen=True)
class Fitting:
    """How a name is made to fit; where all are `alike`, how tall its capitals are, mm."""

    fit: Fit = "as-is"
    capitals_mm: float | None = None


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


def blank_in(recipe: Recipe, values: Mapping[str, str]) -> bool:
    """Whether nothing at all would stand in some lettering of a design."""
    texts = [a.text for a in recipe.arts if isinstance(a, LetteringArt) and fields_in(a.text)]
    return any(not filled_text(text, values).strip() for text in texts)


def usual_fit(recipe: Recipe) -> Fit:
    """What becomes of long names unless the maker says otherwise: where lettering is set to a width, short names must not
    tower over long ones.
    """
    arts = [a for a in recipe.arts if isinstance(a, LetteringArt) and fields_in(a.text)]
    return "alike" if any(a.fit_width_mm is not None for a in arts) else "narrower"


def filled(
    recipe: Recipe, values: Mapping[str, str], fits: Mapping[str, Fitting], assets: Assets, stages: Stages
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
        fit = next((fits[name] for name in own if name in fits), Fitting())
        new, check = _filled(art, values, fit, assets, stages)
        arts.append(new)
        checks.append(check)
    return changed(recipe, arts=tuple(arts)), checks


def _filled(
    art: LetteringArt, values: Mapping[str, str], fitting: Fitting, assets: Assets, stages: Stages
) -> tuple[LetteringArt, FieldCheck]:
    fit = fitting.fit
    room = _room(art, assets, stages)
    # Where nothing at all would stand, the design is shown as it is.
    values = values if filled_text(art.text, values).strip() else {}
    text = filled_text(art.text, values)
    plain = changed(art, text=text, lines=_lines_of(art, kept_lines(art.text, values)), letters=(), films=())
    if fit == "alike" and fitting.capitals_mm is not None:
        plain = _as_tall(plain, fitting.capitals_mm)
    if fit == "two-lines" and "\n" not in text and (at := _middle_space(text)) is not None:
        half = art.leading * art.height_mm * art.place.scale_y / 2
        place = changed(art.place, y_mm=art.place.y_mm - half)
        plain = changed(plain, text=f"{text[:at]}\n{text[at + 1 :]}", place=place)
    found = _measured(plain, plain.text, assets, stages)
    width, missing = found.width_mm, found.missing
    factor = max(_LEAST, min(1.0, room / max(width, 1e-9)))
    if width > room * _SLACK and fit in ("narrower", "two-lines"):
        plain = changed(plain, place=changed(plain.place, scale_x=plain.place.scale_x * factor))
    elif width > room * _SLACK and fit == "smaller":
        lines = tuple(changed(s, height_mm=s.height_mm and s.height_mm * factor) for s in plain.lines)
        plain = changed(plain, height_mm=plain.height_mm * factor, lines=lines)
    else:
        factor = 1.0
    return plain, FieldCheck(art.id, width * factor, room, missing)


def common_capitals(recipe: Recipe, rows: Sequence[Mapping[str, str]], assets: Assets, stages: Stages) -> dict[str, float]:
    """How tall the capitals of a whole list can be, by field, mm: so that the longest name has room, and no taller than what
    the design shows. Raises FontError.
    """
    out: dict[str, float] = {}
    for art in recipe.arts:
        own = fields_in(art.text) if isinstance(art, LetteringArt) else {}
        if not isinstance(art, LetteringArt) or not own:
            continue
        scales = _measured(art, shown(art.text), assets, stages).scales
        line = next(k for k, text in enumerate(art.text.split("\n")) if fields_in(text))
        tall = art.height_mm * scales[line]
        room = _room(art, assets, stages)
        texts = dict.fromkeys(filled_text(art.text, values) for values in rows)
        plain = _as_tall(changed(art, letters=(), films=()), tall)
        widest = max((_measured(plain, text, assets, stages).width_mm for text in texts if text.strip()), default=0.0)
        out |= dict.fromkeys(own, tall * min(1.0, room / widest) if widest > 0 else tall)
    return out


def _lines_of(art: LetteringArt, kept: Sequence[int]) -> tuple[LineStyle, ...]:
    """What single lines have of their own, where only some of them stay."""
    if len(kept) == art.text.count("\n") + 1:
        return art.lines
    new = {k: n for n, k in enumerate(kept)}
    own = [art.lines[k] for k in kept if k < len(art.lines)]
    return tuple(changed(line, like=None if line.like is None else new.get(line.like)) for line in own)


def _as_tall(art: LetteringArt, capitals_mm: float) -> LetteringArt:
    """Lettering on its own baseline with capitals so tall, whatever width it was to have."""
    factor = capitals_mm / art.height_mm
    lines = tuple(
        changed(
            line,
            height_mm=line.height_mm and line.height_mm * factor,
            width_mm=None,
            like=None,
            spread=False,
            spacing_mm=line.spacing_mm and line.spacing_mm * factor,
        )
        for line in art.lines
    )
    return changed(
        art, height_mm=capitals_mm, spacing_mm=art.spacing_mm * factor, lines=lines, fit_width_mm=None, fit_height_mm=None
    )


def _room(art: LetteringArt, assets: Assets, stages: Stages) -> float:
    return art.room_mm or _measured(art, shown(art.text), assets, stages).width_mm


def _measured(art: LetteringArt, text: str, assets: Assets, stages: Stages) -> Measured:
    """How large the ink of lettering is that is not turned, and which characters its fonts lack."""
    level = Place(scale_x=art.place.scale_x, scale_y=art.place.scale_y)
    return stages.run("art", measured_words, changed(art, text=text, place=level), faces_of(art, assets, stages)).value


def _middle_space(text: str) -> int | None:
    spaces = [k for k, c in enumerate(text) if c == " " and 0 < k < len(text) - 1]
    return min(spaces, key=lambda k: abs(k - len(text) / 2), default=None)
