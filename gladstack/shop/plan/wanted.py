"""What a job wants cut: every film of every design with its material, and every part of it as often as there are copies."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base import tolerances
from gladstack.core.base.colour import delta_e_2000, from_hex
from gladstack.core.base.errors import RecipeError
from gladstack.core.base.plane import Box
from gladstack.core.geometry.curves import Chain, Curve, Matrix, flatten_chain
from gladstack.core.geometry.outlines import CurveIndex, Outline, Part, outline_of
from gladstack.recipe.build.built import Built, BuiltLayer
from gladstack.recipe.model.uses import USES, Use
from gladstack.shop.jobs.job import Job, JobDesign, Layout, PartName
from gladstack.shop.plan.words import Letter, letter_of, letters_of
from gladstack.shop.shelf.materials import ANY, Material, any_film
from gladstack.shop.shelf.shelf import Near, Shop

MOST_PARTS: dict[Layout, int] = {"nested": 5_000, "register": 50_000, "whole": 50_000}


@dataclass(frozen=True)
class Cutting:
    """A shape to cut and its curves: one polygon for each part, in the design's mm."""

    shape: MultiPolygon
    outline: Outline


@dataclass(frozen=True)
class PenLines:
    """What one pen draws: what the pen is called, its colour, the lines, and how far off its colour is in delta-E."""

    name: str
    colour: str
    lines: tuple[Chain, ...]
    off: float = 0.0


@dataclass(frozen=True)
class DrawnAlong:
    """The curves of a design's art, which parts of its films are drawn along where they are divided."""

    curves: tuple[tuple[Curve, ...], ...]

    @cached_property
    def index(self) -> CurveIndex:
        """An index of these curves. It is made once it is asked for: few designs have seams."""
        return CurveIndex([curve for of_art in self.curves for curve in of_art])


@dataclass(frozen=True)
class WantedFilm:
    """One film of one design: what to cut it from, how it is laid, and how often.

    `near` is how far the material's colour is from the film's, in delta-E (None: any film of its colour); `chosen` tells
    whether the maker chose it, `nearest` what the shelf offers else. `presses` says how often the film goes through the
    press, `made_up` whether it is cut larger for what that takes.
    `frame` and `letters` are the design's; `pens` are what is drawn on the film, pen by pen.
    """

    design: str
    of: str
    copies: int
    layer: BuiltLayer
    material: Material
    near: float | None
    chosen: bool
    nearest: tuple[Near, ...]
    use: Use
    layout: Layout
    marked: bool
    reverse_weed: bool
    presses: int
    made_up: bool
    frame: Box
    drawn: DrawnAlong
    pens: tuple[PenLines, ...] = ()
    letters: tuple[Letter, ...] = ()

    @property
    def film(self) -> str:
        """Its key."""
        return self.layer.film

    @cached_property
    def cutting(self) -> Cutting:
        """Its cut shape; parts that come to nothing on the grid they are written on are left out."""
        return cutting_of(self.layer.cut, self.layer.outline)

    @cached_property
    def spelled(self) -> tuple[Letter | None, ...]:
        """The letter that each of its parts is, or is a part of."""
        return tuple(letter_of(shape, self.letters) for shape in self.cutting.shape.geoms)

    @cached_property
    def mark(self) -> str:
        """Names its cut shape to a hundredth of a mm, whatever has worked it out: a job may be older than the app."""
        points = np.round(shapely.get_coordinates(self.layer.cut) * 100).astype(np.int64)
        return hashlib.blake2b(points.tobytes(), digest_size=8).hexdigest()

    @property
    def words(self) -> tuple[int | None, ...]:
        """The word that each of its parts belongs to, by its number in the design."""
        return tuple(letter.word if letter else None for letter in self.spelled)

    @property
    def extent(self) -> Box:
        """What has to find room on film together: the decal, or just the film."""
        return self.layer.cut.bounds if self.layout == "whole" else self.frame  # type: ignore[no-any-return]

    def marks(self, job: Job) -> int:
        """How many registration marks it bears: none by itself, where no other film has them at the same places."""
        return job.marks.count if self.layout == "register" else 0

    @property
    def to_get(self) -> bool:
        """Whether it is to be got: the maker chose no material, and none of the shelf has its colour."""
        return self.near is None and not self.chosen

    @property
    def said(self) -> str:
        """What it is called where it lies on film: by its material, and by its own name where that says something else."""
        if self.near is None:
            return self.layer.name
        known = self.layer.name.casefold() in self.material.name.casefold()
        return self.material.name if known else f"{self.layer.name}, cut from {self.material.name}"

    @property
    def mirrored(self) -> bool:
        """Whether it is cut mirrored: from its back, or because it is seen through what it sticks to."""
        return self.material.mirrored != USES[self.use].seen_through

    @property
    def onto_film(self) -> Matrix:
        """From the design to film, unmoved: mirrored as it is cut, and larger by what the press takes."""
        left_along, left_across = (1 - share for share in self.shrinks_by) if self.made_up else (1.0, 1.0)
        along, across = 1 / left_along, 1 / left_across
        return (-along if self.mirrored else along), 0.0, 0.0, across, 0.0, 0.0

    @property
    def shrinks_by(self) -> tuple[float, float]:
        """The share that it loses by all its presses, along x and y of the design."""
        material = self.material
        return 1 - (1 - material.shrink_along) ** self.presses, 1 - (1 - material.shrink_across) ** self.presses

    def divided(self, shape: MultiPolygon) -> Cutting:
        """Part of its cut shape with curves of its own."""
        return cutting_of(shape, outline_of(shape, self.drawn.index))


def cutting_of(shape: MultiPolygon, outline: Outline) -> Cutting:
    """A shape and its outline, part for part."""
    if len(outline.parts) == len(shape.geoms):
        return Cutting(shape, outline)
    return Cutting(MultiPolygon([polygon_of(p) for p in outline.parts]), outline)


def polygon_of(part: Part) -> Polygon:
    """A part's curves as a polygon."""
    shell, *holes = (flatten_chain(c, tolerances.FLATTEN_MM) for c in (part.shell, *part.holes))
    return Polygon(shell, holes)


def wanted_films(job: Job, designs: Mapping[str, Built], shop: Shop) -> list[WantedFilm]:
    """All films of a job that there is something to cut of. Raises RecipeError if there is none."""
    out = [film for one in job.designs for film in _films_of(job, one, designs[one.design], shop)]
    if not out:
        raise RecipeError("There is nothing to cut in this job.", "Add a design that has films.")
    require_few(
        {x: sum(f.copies * items_of(job, x, len(f.layer.outline.parts)) for f in out if f.layout == x) for x in MOST_PARTS}
    )
    return out


def items_of(job: Job, layout: Layout, parts: int) -> int:
    """How many things to be laid a copy of a film is that has so many parts: one, where it is nested as a whole."""
    return min(parts, 1) if layout == "nested" and job.keeps == "copy" else parts


def require_few(counts: Mapping[Layout, int]) -> None:
    """Raises RecipeError if a job has more to be laid than can be; `counts` tells how many things by layout."""
    for layout, most in MOST_PARTS.items():
        count = counts.get(layout, 0)
        if count > most:
            how = {"nested": "nested", "register": "laid in register", "whole": "laid film by film"}[layout]
            raise RecipeError(
                f"This job has {count} parts or more to be {how}; at most {most} can be.",
                "Take fewer copies, or split the job.",
            )


def _films_of(job: Job, one: JobDesign, built: Built, shop: Shop) -> list[WantedFilm]:
    drawn = DrawnAlong(tuple(art.curves.value for art in built.arts))
    out: list[WantedFilm] = []
    pressed = 0
    letters = letters_of(built)
    layers = [layer for layer in built.layers if not layer.cut.is_empty and layer.outline.parts]
    picks = picked(built, layers, {x.film: job.film(one.design, x.film).material for x in layers}, shop)
    # From the top down: a film is pressed with each that lies over it.
    for layer in reversed(layers):
        own, pick = job.film(one.design, layer.film), picks[layer.film]
        use = built.recipe.use_of(layer.film)
        pressed += pick.material.method == "heat-transfer"
        out.append(
            WantedFilm(
                one.design, one.name, one.copies, layer, pick.material, pick.near, pick.chosen,
                tuple(shop.nearest(layer.colour, use, _OFFERED)), use, job.layout_of(one.design, layer.film),
                own.marks, own.reverse_weed or USES[use].parts_go, max(1, pressed), own.make_up, built.frame, drawn,
                _pens_on(built, layer.film, shop), letters,
            )
        )  # fmt: skip
    return out[::-1]


def _pens_on(built: Built, film: str, shop: Shop) -> tuple[PenLines, ...]:
    """What is drawn on a film; one pen draws all that is for it in one go."""
    out: dict[str, PenLines] = {}
    for one in built.pens:
        if one.on == film:
            known = shop.pen(one.colour, one.line_mm, one.pen, MATCH)
            name = known.name if known else f"a pen of {one.colour}, {one.line_mm:g} mm"
            colour = known.colour if known else one.colour
            before = out.get(name, PenLines(name, colour, ()))
            off = max(before.off, apart(colour, one.colour))
            out[name] = PenLines(name, colour, (*before.lines, *one.lines), off)
    return tuple(out.values())


MATCH = 6.0
"""No material is taken for a film by itself whose colour is farther off than this, in delta-E (CIE 2000)."""
OTHER_COLOUR = 1.0
"""Films whose colours are farther apart than this are of two colours to the eye."""
_OFFERED = 12


@dataclass(frozen=True)
class Pick:
    """What a film is cut from: a material, how far off its colour is (None: any film of the colour), by whose choice."""

    material: Material
    near: float | None
    chosen: bool


def picked(built: Built, layers: Sequence[BuiltLayer], told: Mapping[str, str | None], shop: Shop) -> dict[str, Pick]:
    """What films are cut from: as `told` for the job, else as the design has it, else the nearest of the shelf.

    Nothing is taken by itself of another use, kind or finish, nor farther off than `MATCH`, nor for two colours.
    """
    out: dict[str, Pick] = {}
    free: list[tuple[float, BuiltLayer, Material]] = []
    for layer in layers:
        choice, use = built.recipe.film(layer.film), built.recipe.use_of(layer.film)
        id_ = told.get(layer.film) or choice.material
        known = shop.material(id_) if id_ is not None and id_ != ANY else None
        if known is not None and not known.is_pen:
            out[layer.film] = Pick(known, apart(known.colour, layer.colour), True)
        elif id_ is not None:
            out[layer.film] = Pick(any_film(layer.colour, USES[use].method), None, True)
        else:
            near = shop.nearest(layer.colour, use, len(shop.materials))
            held = (n for n in near if n.delta_e <= MATCH and n.material.taken_unasked)
            free += [(n.delta_e, layer, n.material) for n in held if n.material.looks_like(choice.finish)]
    for delta, layer, material in sorted(free, key=lambda one: one[0]):
        others = [x for x in layers if x.film in out and out[x.film].material.id == material.id]
        if layer.film not in out and all(apart(x.colour, layer.colour) <= OTHER_COLOUR for x in others):
            out[layer.film] = Pick(material, delta, False)
    for layer in layers:
        if layer.film not in out:
            method = USES[built.recipe.use_of(layer.film)].method
            out[layer.film] = Pick(any_film(layer.colour, method), None, False)
    return out


@lru_cache(4096)
def apart(a: str, b: str) -> float:
    """How far two colours are apart, in delta-E (CIE 2000)."""
    return round(float(delta_e_2000(from_hex(a), from_hex(b))), 2)


@dataclass(frozen=True)
class PartCopy:
    """One part of one copy of a film that lies by itself: which, its curves and shape in the design's mm, and its key.

    `part` counts the parts of the film's outline; a part that had to be divided comes as several, by `tile`.
    """

    film: WantedFilm
    part: int
    copy: int
    tile: int | None
    outline: Part
    polygon: Polygon

    @property
    def name(self) -> PartName:
        """What it is called."""
        return self.film.design, self.film.film, self.part, self.copy, -1 if self.tile is None else self.tile


def bits_of(film: WantedFilm) -> list[PartCopy]:
    """All parts of all copies of a film."""
    parts = list(zip(film.cutting.outline.parts, film.cutting.shape.geoms, strict=True))
    return [
        PartCopy(film, k, copy, None, part, shape) for copy in range(film.copies) for k, (part, shape) in enumerate(parts)
    ]


def divided(bit: PartCopy, pieces: Sequence[MultiPolygon]) -> list[PartCopy]:
    """A bit in pieces, numbered; of a piece that falls apart each part by itself."""
    out: list[PartCopy] = []
    for piece in pieces:
        cut = bit.film.divided(piece)
        for part, polygon in zip(cut.outline.parts, cut.shape.geoms, strict=True):
            out.append(replace(bit, tile=len(out), outline=part, polygon=polygon))
    return out


def bounds_of(shapes: Sequence[Polygon]) -> Box:
    """The box around some shapes."""
    left, top, right, bottom = shapely.bounds(np.array(shapes, dtype=object)).T
    return float(left.min()), float(top.min()), float(right.max()), float(bottom.max())
