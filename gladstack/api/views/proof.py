"""The proof of a design as it is sent: findings, and what was measured on its films."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from pydantic import BaseModel
from shapely import MultiPolygon

from gladstack.api.views.findings import FindingView
from gladstack.api.views.shown import finding_view
from gladstack.core.base.findings import Severity
from gladstack.core.films.drift import Drift, bared, beside
from gladstack.core.films.thickness import area_by_count
from gladstack.core.geometry.runs import Run
from gladstack.proof.check import CutRead, OnFilm
from gladstack.proof.finding import Finding
from gladstack.proof.thinner import at_most
from gladstack.recipe.edit.edits import Edit, Several
from gladstack.shop.papers.weeding import Weeded, easiest_first, weeded
from gladstack.shop.plan.wanted import WantedFilm

_SHOWN_MM = 0.01


class WorseView(BaseModel):
    """What will or may fail once an edit is made: one place of a kind in words, and in how many more places than now."""

    text: str
    severity: Severity
    more: int


class ShrinkView(BaseModel):
    """What the press takes off a film, in mm across and down, in how many presses; and whether it is cut larger for it."""

    presses: int
    across_mm: float
    down_mm: float
    made_up: bool


class WeedingView(BaseModel):
    """What weeding a film asks for, and the place in the order to weed in, from 1."""

    nth: int
    parts: int
    waste: int
    enclosed: int
    smallest_mm2: float | None
    minutes: float
    reverse: bool
    lines: bool


class ProvedFilmView(BaseModel):
    """A film, what it is cut from and bears, and what was measured on it; `bares_mm2` is the worst for the slip."""

    film: str
    material: str
    least_part_mm: float
    least_waste_mm: float
    thinnest_mm: float | None
    thinnest_waste_mm: float | None
    bares_mm2: float
    slip_x_mm: float
    slip_y_mm: float
    shrink: ShrinkView | None
    weeding: WeedingView


class LevelView(BaseModel):
    """Where at least so many films lie: the area where just so many do (mm2), and the outline."""

    films: int
    area_mm2: float
    path: str


class ThinnerView(BaseModel):
    """What keeps a decal to so many films on one another."""

    films: int
    edit: Several


class ProofView(BaseModel):
    """All that is told of a design on its film: first, so many `of_films`, what is told of each film by itself.

    `bears` is how many films may lie on one another.
    """

    findings: list[FindingView]
    of_films: int
    films: list[ProvedFilmView]
    slip_mm: float
    levels: list[LevelView]
    bears: int
    thinner: list[ThinnerView]
    seconds: float


class SlippedView(BaseModel):
    """What a film bares that has slipped: the area (mm2), its outline, and the films at whose border it lies."""

    area_mm2: float
    path: str
    beside: list[str]


class NarrowView(BaseModel):
    """A narrow stretch: x, y and the width in mm at each point of its middle line, one after the other."""

    points: list[float]
    waste: bool


class WidthsView(BaseModel):
    """The narrow stretches of a film's parts and waste."""

    film: str
    least_part_mm: float
    least_waste_mm: float
    narrow: list[NarrowView]


def proof_view(read: OnFilm, found: Sequence[Finding[Edit]], of_films: int, seconds: float) -> ProofView:
    """The proof, drawn."""
    ordered = [one.film.film for one in easiest_first([weeded(f) for f in read.films])]
    areas = area_by_count(read.at_least)
    return ProofView(
        findings=[finding_view(f) for f in found],
        of_films=of_films,
        films=[_film(one, drift, ordered) for one, drift in zip(read.reads, read.drift, strict=True)],
        slip_mm=read.slip_mm,
        levels=[
            LevelView(films=k + 1, area_mm2=round(areas[k + 1], 4), path=path_of(shape) if k else "")
            for k, shape in enumerate(read.at_least)
        ],
        bears=max((f.material.most for f in read.films), default=0),
        thinner=[ThinnerView(films=n, edit=edit) for n in range(1, len(read.at_least)) if (edit := at_most(read, n))],
        seconds=round(seconds, 4),
    )


def _film(read: CutRead, drift: Drift, ordered: Sequence[str]) -> ProvedFilmView:
    film = read.film
    thin, slits = ([r.mm for r in runs if not r.tip] for runs in read.narrow)
    return ProvedFilmView(
        film=film.film,
        material=film.material.name,
        least_part_mm=film.material.least_part_mm,
        least_waste_mm=film.material.least_waste_mm,
        thinnest_mm=min(thin, default=None),
        thinnest_waste_mm=min(slits, default=None),
        bares_mm2=round(drift.mm2, 4),
        slip_x_mm=round(drift.slip[0], 4),
        slip_y_mm=round(drift.slip[1], 4),
        shrink=_shrink(film),
        weeding=_weeding(weeded(film), ordered.index(film.film) + 1),
    )


def _weeding(one: Weeded, nth: int) -> WeedingView:
    return WeedingView(
        nth=nth, parts=one.parts, waste=one.waste, enclosed=one.enclosed, smallest_mm2=one.smallest_mm2,
        minutes=round(one.minutes, 2), reverse=one.reverse, lines=one.lines,
    )  # fmt: skip


def _shrink(film: WantedFilm) -> ShrinkView | None:
    """What a film loses by all its presses."""
    if not (film.material.shrink_along or film.material.shrink_across):
        return None
    left, top, right, bottom = film.layer.cut.bounds
    across, down = film.shrinks_by
    return ShrinkView(
        presses=film.presses, across_mm=round((right - left) * across, 3), down_mm=round((bottom - top) * down, 3),
        made_up=film.made_up,
    )  # fmt: skip


def slipped_view(read: OnFilm, film: str, slip: tuple[float, float]) -> SlippedView:
    """What a film bares for a slip; nothing if it is not cut."""
    at = next((k for k, f in enumerate(read.films) if f.film == film), None)
    if at is None:
        return SlippedView(area_mm2=0.0, path="", beside=[])
    shape = bared(read.at_risk[at].value, read.cuts[at].value, slip)
    near = beside(shape, at, read.faces)
    return SlippedView(
        area_mm2=round(shape.area, 4),
        path=path_of(shape),
        beside=[read.films[k].film for k in sorted(near, key=near.__getitem__)],
    )


def widths_view(read: OnFilm, share: float) -> list[WidthsView]:
    """The stretches of all films that are narrower than `share` times what they bear."""
    out = []
    for one in read.reads:
        film, (parts, waste) = one.film, one.narrower_than(share)
        narrow = [
            NarrowView(points=p, waste=w) for runs, w in ((parts, False), (waste, True)) for r in runs for p in _lines(r)
        ]
        out.append(
            WidthsView(
                film=film.film, least_part_mm=film.material.least_part_mm, least_waste_mm=film.material.least_waste_mm,
                narrow=narrow,
            )
        )  # fmt: skip
    return out


def _lines(run: Run) -> list[list[float]]:
    """The middle lines of a run with their widths; each is told by one side, for both sides run along the same middle."""
    longest = max(zip(run.lines, run.widths, strict=True), key=lambda one: len(one[0]))
    most = len(longest[0]) // 2
    out = []
    for line, widths in zip(run.lines, run.widths, strict=True):
        if len(line) >= max(2, min(most, 8)):
            held = np.round(np.column_stack([line, widths]), 3)
            out.append(held.ravel().tolist())
    return out


def path_of(shape: MultiPolygon) -> str:
    """A shape as path data, thinned to what an eye can tell apart."""
    thin = shapely.simplify(shape, _SHOWN_MM)
    rings = [np.asarray(r.coords)[:-1] for p in shapely.get_parts(thin) for r in (p.exterior, *p.interiors)]
    return "".join("M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in ring.tolist()) + "Z" for ring in rings)
