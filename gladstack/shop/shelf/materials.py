"""Materials: the films a shop has, as it knows them; how much there is of each is told by the stock."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gladstack.recipe.model.recipe import Finish
from gladstack.recipe.model.uses import Use
from gladstack.recipe.model.values import Colour, Frozen, Id, LineMm, MarginMm, Method, Name
from gladstack.shop.shelf.kinds import KINDS, BladeSetting, Kind, Press

ANY = "any"
"""The choice of no material: any film of the film's colour."""
_ANY_ID = "any-"

Share = Annotated[float, Field(ge=0.0, le=0.1, allow_inf_nan=False)]
WidthOfPart = Annotated[float, Field(ge=0.0, le=20.0, allow_inf_nan=False)]


class Material(Frozen):
    """One film of the shelf.

    It is cut from its `face`: what is cut from the back is cut mirrored. `least_part_mm` and `least_waste_mm` are the
    narrowest part and the narrowest waste it bears; `shrink_along` and `shrink_across` the share it loses at each press.
    What it may lie over, what may lie on it, and how many films may lie on one another where it is on top (`most_films`) is
    as its kind has it, where the maker says nothing else. `line_mm` is how wide a pen draws.
    """

    id: Id
    name: Name
    kind: Kind = Kind.ADHESIVE
    colour: Colour
    finish: Finish = Finish()
    face: Literal["front", "back"] = "front"
    cost_m2: Annotated[float, Field(ge=0.0, le=10_000.0, allow_inf_nan=False)] = 0.0
    blade: BladeSetting = BladeSetting()
    spacing_mm: MarginMm = 2.0
    margin_mm: MarginMm = 5.0
    least_part_mm: WidthOfPart = 0.8
    least_waste_mm: WidthOfPart = 0.8
    lies_over: Annotated[tuple[Kind, ...], Field(max_length=len(Kind))] | None = None
    lies_under: Annotated[tuple[Kind, ...], Field(max_length=len(Kind))] | None = None
    most_films: Annotated[int, Field(ge=1, le=20)] | None = None
    grain: Literal["free", "half", "none"] = "free"
    press: Press | None = None
    shrink_along: Share = 0.0
    shrink_across: Share = 0.0
    line_mm: LineMm = 0.5
    retired: bool = False

    @property
    def mirrored(self) -> bool:
        """Whether it is cut mirrored."""
        return self.face == "back"

    @property
    def method(self) -> Method | Literal["drawn"]:
        """How it goes onto the ground."""
        return KINDS[self.kind].method

    def may_lie_over(self, lower: Material) -> bool:
        """Whether it holds on another film, and that bears it."""
        over = KINDS[self.kind].over if self.lies_over is None else self.lies_over
        under = KINDS[lower.kind].under if lower.lies_under is None else lower.lies_under
        return lower.kind in over and self.kind in under

    @property
    def most(self) -> int:
        """How many films may lie on one another where it is on top, itself included."""
        return KINDS[self.kind].most if self.most_films is None else self.most_films

    @property
    def stands_for_any(self) -> bool:
        """Whether it stands for a film that no material was chosen for (see `any_film`)."""
        return self.id.startswith(_ANY_ID)

    @property
    def spoken(self) -> str:
        """What a sentence calls it that tells what film bears."""
        if not self.stands_for_any:
            return self.name
        return "card" if self.method == "glued" else "film of its kind"

    @property
    def is_pen(self) -> bool:
        """Whether it is no film, but draws on one."""
        return self.method == "drawn"

    def suits(self, use: Use) -> bool:
        """Whether it is offered for a use."""
        return KINDS[self.kind].offered_for(use)

    @property
    def taken_unasked(self) -> bool:
        """Whether it may be taken for a film by its colour alone."""
        return KINDS[self.kind].unasked

    def looks_like(self, finish: Finish) -> bool:
        """Whether it has a finish: matte and gloss count as one."""
        return _family(self.finish) == _family(finish)


_PLAIN = ("matte", "gloss")


def _family(finish: Finish) -> str:
    return "plain" if finish.kind in _PLAIN else finish.kind


def of_kind(kind: Kind, id_: str, name: str, colour: str, **more: object) -> Material:
    """A material as its kind brings it, but for what is told."""
    k = KINDS[kind]
    usual = {
        "face": k.face, "finish": k.finish, "blade": k.blade, "press": k.press, "spacing_mm": k.spacing_mm,
        "least_part_mm": k.least_part_mm, "least_waste_mm": k.least_waste_mm, "grain": k.grain, "cost_m2": k.cost_m2,
    }  # fmt: skip
    return Material.model_validate({"id": id_, "name": name, "kind": kind, "colour": colour, **usual, **more})


def any_film(colour: str, method: Method, margin_mm: float = 6.0) -> Material:
    """What stands for a film that no material was chosen for."""
    kind = _ANY[method]
    pressed = method == "heat-transfer"
    return Material(
        id=f"{_ANY_ID}{colour[1:]}" + ("" if method == "adhesive" else "-pressed" if pressed else "-card"),
        name=f"Any {'card' if method == 'glued' else 'film'} of {colour}",
        kind=kind,
        colour=colour,
        face=KINDS[kind].face,
        margin_mm=margin_mm,
        press=Press() if pressed else None,
    )


_ANY: dict[Method, Kind] = {"adhesive": Kind.ADHESIVE, "heat-transfer": Kind.SMOOTH, "glued": Kind.CARD}
