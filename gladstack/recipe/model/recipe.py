"""The recipe: what the maker chose, and nothing that can be computed from it.

A film is held by its key: the colour it has in a picture or the stack, or an id where two films share a colour. A choice
about "#c0392b" concerns the film whose colour is nearest to it, so it survives another number of colours or another tracing.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal, get_args

from pydantic import Field, field_validator, model_validator

from gladstack.core.base.units import Unit
from gladstack.core.films.joints import FORMS, Joint, JointKind
from gladstack.core.films.repairs import How as RepairHow
from gladstack.recipe.model.arts import AnyArt, Art, PictureArt
from gladstack.recipe.model.makings import Making
from gladstack.recipe.model.uses import USES, Use, usual_use
from gladstack.recipe.model.values import (
    ADDED,
    LIMIT,
    AreaMm2,
    Colour,
    DetailMm,
    Factor,
    FilmKey,
    Frozen,
    Hash,
    Id,
    JointMm,
    LineMm,
    Method,
    Name,
    OffsetMm,
    PlaceMm,
)


class JointRule(Frozen):
    """A joint as chosen; `mm` is the lap or the gap, and means nothing for butt."""

    kind: JointKind = JointKind.BUTT
    mm: JointMm = 0.4

    def joint(self) -> Joint:
        """The core's joint."""
        return Joint(self.kind, 0.0 if FORMS[self.kind].length == "never" else self.mm)


def joint_for(use: Use) -> JointRule:
    """The joint that a new design of a use begins with: a lap as long as a hand slips, so that a slip shows nothing."""
    slip = USES[use].slip_mm
    return JointRule(kind=JointKind.LAP, mm=slip) if slip > 0 else JointRule()


class Finish(Frozen):
    """How a film looks, nothing more: a kind, and for patterns what repeats, how large and shifted by how much."""

    kind: Literal["matte", "gloss", "metallic", "glitter", "foil", "flock", "patterned"] = "matte"
    pattern: Literal["stripes", "dots", "checks", "picture"] = "stripes"
    picture: Hash | None = None
    second: Colour = "#fbfaf7"
    scale_mm: Annotated[float, Field(ge=0.5, le=500.0), LIMIT] = 6.0
    shift_x_mm: Annotated[OffsetMm, LIMIT] = 0.0
    shift_y_mm: Annotated[OffsetMm, LIMIT] = 0.0


GroundKind = Literal["table", "shirt", "mug", "window", "wood"]


class Ground(Frozen):
    """What is decorated, as it is shown: a kind and a colour."""

    kind: GroundKind = "table"
    colour: Colour = "#fbfaf7"


class SmallPieces(Frozen):
    """What becomes of all pieces of a film below an area: dropped, or merged with the film beside each."""

    below_mm2: AreaMm2
    how: Literal["drop", "merge"] = "drop"


class SettledPiece(Frozen):
    """What becomes of the one piece of a film at a point of the stack; one that is kept stays, however small it is."""

    x_mm: PlaceMm
    y_mm: PlaceMm
    how: Literal["drop", "merge", "keep"] = "drop"


class RepairedPlace(Frozen):
    """Thin places of a film put right: narrower than `mm`, at a point of the stack or (None) all over the film.

    Parts are thickened, needles rounded, slits and small holes of waste filled or small holes made wider, edges joined that
    touch in a point.
    """

    how: RepairHow
    mm: DetailMm
    x_mm: PlaceMm | None = None
    y_mm: PlaceMm | None = None

    @property
    def at(self) -> tuple[float, float] | None:
        """The point; None for all over the film."""
        return None if self.x_mm is None or self.y_mm is None else (self.x_mm, self.y_mm)


class ClosedGap(Frozen):
    """A gap between two pieces of a film, closed between two points of the stack."""

    x1_mm: PlaceMm
    y1_mm: PlaceMm
    x2_mm: PlaceMm
    y2_mm: PlaceMm


class FilmChoice(Frozen):
    """What the maker chose for one film; None leaves it to the design's default or to the proposal.

    `colour` is needed for films whose key is no colour. `thicken_mm` makes the film's shape heavier, or lighter. A film that
    is `left_out` is not cut, but others may still be made of it; one that is `drawn` is no film of its own: a pen draws its
    outlines, or fills them with lines of `line_mm`, on the film `drawn_on` (None: the lowest); `pen` is one of the shop's
    (None: the one nearest in colour). `material` is the id of one of the shop's, or "any".
    A film that is thickened may `keep_size`. `small` and `pieces` say what becomes of small pieces; gaps up to `close_mm`,
    and those in `closed`, are bridged. `repairs` are made last, on what is cut.
    """

    film: FilmKey
    colour: Colour | None = None
    name: Name | None = None
    joint: JointRule | None = None
    method: Method | None = None
    thicken_mm: OffsetMm = 0.0
    keep_size: bool = False
    small: SmallPieces | None = None
    pieces: Annotated[tuple[SettledPiece, ...], Field(max_length=500)] = ()
    close_mm: Annotated[DetailMm, ADDED] = 0.0
    closed: Annotated[tuple[ClosedGap, ...], Field(max_length=200)] = ()
    repairs: Annotated[tuple[RepairedPlace, ...], Field(max_length=500)] = ()
    left_out: bool = False
    drawn: Literal["no", "outlines", "filled"] = "no"
    drawn_on: FilmKey | None = None
    pen: Id | None = None
    line_mm: LineMm = 0.5
    finish: Finish = Finish()
    material: Id | None = None


class PairJoint(Frozen):
    """The joint of just these two films, whichever of them lies lower."""

    a: FilmKey
    b: FilmKey
    rule: JointRule


FilmOwn = Literal[
    "joint", "method", "thicken_mm", "keep_size", "small", "pieces", "close_mm", "closed", "repairs", "left_out", "material"
]
"""What a version may decide for itself of a film; all else of it is the motif's."""
FILM_OWN: tuple[FilmOwn, ...] = get_args(FilmOwn)


class OwnFilm(Frozen):
    """What a version decides for itself of one film: the fields named, as `choice` has them, in the version's own mm."""

    choice: FilmChoice
    decides: Annotated[tuple[FilmOwn, ...], Field(min_length=1, max_length=len(FILM_OWN))]


class Version(Frozen):
    """The design at another size or for another use: `factor` times as large, and what it decides for itself (None: as the
    motif has it).
    """

    id: Id
    name: Name
    factor: Factor = 1.0
    use: Use | None = None
    ground: Ground | None = None
    joint: JointRule | None = None
    pairs: Annotated[tuple[PairJoint, ...], Field(max_length=2048)] | None = None
    small_mm2: Annotated[AreaMm2, LIMIT] | None = None
    films: Annotated[tuple[OwnFilm, ...], Field(max_length=256)] = ()


class Recipe(Frozen):
    """One design, as all its choices. Pieces below `small_mm2` are told of."""

    version: Literal[2] = 2
    name: Name
    arts: Annotated[tuple[Art, ...], Field(min_length=1, max_length=200)]
    makings: Annotated[tuple[Making, ...], Field(max_length=64)] = ()
    unit: Unit = "mm"
    use: Use = Use.SURFACE
    order: Annotated[tuple[FilmKey, ...], Field(max_length=256)] = ()
    films: Annotated[tuple[FilmChoice, ...], Field(max_length=256)] = ()
    joint: JointRule = JointRule()
    pairs: Annotated[tuple[PairJoint, ...], Field(max_length=2048)] = ()
    small_mm2: Annotated[AreaMm2, LIMIT] = 0.5
    ground: Ground = Ground()
    versions: Annotated[tuple[Version, ...], Field(max_length=40)] = ()

    @model_validator(mode="before")
    @classmethod
    def _from_older(cls, data: Any) -> Any:
        if not isinstance(data, dict):
            return data
        return with_use(without_sheets(upgraded(data) if data.get("version") == 1 else data))

    @field_validator("order")
    @classmethod
    def _once_each(cls, order: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(dict.fromkeys(order))

    @model_validator(mode="after")
    def _hangs_together(self) -> Recipe:
        ids = [a.id for a in self.arts] + [m.id for m in self.makings]
        if len(set(ids)) < len(ids):
            raise ValueError("two pieces of art or makings have the same id")
        if len({v.id for v in self.versions}) < len(self.versions):
            raise ValueError("two versions have the same id")
        for key in self.film_keys():
            if not key.startswith("#") and self.film(key).colour is None:
                raise ValueError(f"the film “{key}” has no colour")
        return self

    def film(self, key: str) -> FilmChoice:
        """The choices for exactly this film, empty if none were made."""
        return next((f for f in self.films if f.film == key), FilmChoice(film=key))

    @property
    def method(self) -> Method:
        """How its films go onto the ground, where they do not say otherwise."""
        return USES[self.use].method

    def use_of(self, key: str) -> Use:
        """The use that a film is for: the design's, but where it goes onto the ground in another way."""
        method = self.film(key).method
        return self.use if method is None or method == self.method else usual_use(method)

    def art(self, id_: str) -> AnyArt | None:
        """The art with this id."""
        return next((a for a in self.arts if a.id == id_), None)

    def pictures(self) -> tuple[PictureArt, ...]:
        """The pictures among the art."""
        return tuple(a for a in self.arts if isinstance(a, PictureArt))

    def picture_hashes(self) -> tuple[str, ...]:
        """The pictures it uses: art, and what films are patterned with."""
        patterns = [f.finish.picture for f in self.films if f.finish.picture]
        return tuple(dict.fromkeys([*self._assets("picture"), *patterns]))

    def file_hashes(self) -> tuple[str, ...]:
        """The vector files it uses."""
        return tuple(dict.fromkeys(self._assets("file")))

    def font_keys(self) -> tuple[str, ...]:
        """The fonts it uses."""
        return tuple(dict.fromkeys(self._assets("font")))

    def _assets(self, kind: str) -> list[str]:
        return [key for art in self.arts for of, key in art.assets if of == kind]

    def film_keys(self) -> tuple[str, ...]:
        """The films that lettering, shapes and makings name, in the order they were brought in."""
        return tuple(dict.fromkeys([*(f for a in self.arts for f in a.named_films), *(m.film for m in self.makings)]))


def upgraded(data: dict[str, Any]) -> dict[str, Any]:
    """A stored recipe of version 1, which had one picture and films by colour, as one of version 2."""
    new = {k: v for k, v in data.items() if k not in ("art", "separation", "version")}
    art = {"id": "picture", **data["art"], "separation": data.get("separation") or {}}
    films = [{("film" if k == "colour" else k): v for k, v in dict(f).items()} for f in data.get("films") or ()]
    return {**new, "version": 2, "arts": [art], "films": films}


def without_sheets(data: dict[str, Any]) -> dict[str, Any]:
    """A stored recipe without sheets and marks, which once stood in it: what is laid on film is a job's to say."""
    films = data.get("films")
    if isinstance(films, list | tuple):
        films = [{k: v for k, v in f.items() if k != "sheet"} if isinstance(f, dict) else f for f in films]
        data = {**data, "films": films}
    return {k: v for k, v in data.items() if k not in ("sheet", "marks")}


def with_use(data: dict[str, Any]) -> dict[str, Any]:
    """A stored recipe with a use, where it only said how film goes onto the ground."""
    found = next((use for use in Use if USES[use].method == data.get("method")), None)
    if found is None or "use" in data:
        return data
    return {**{k: v for k, v in data.items() if k != "method"}, "use": found}
