"""Cutting as it is shown: how far each sheet is, what is in the cutter, and what can be done."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from gladstack.core.geometry.curves import FloatArray
from gladstack.core.write.svg import number
from gladstack.machine.operator import SheetStand, Stage
from gladstack.shop.cut.cutting import contours_on
from gladstack.shop.cut.progress import Way, to_draw
from gladstack.store.cuts import KeptRun


class CutFiguresView(BaseModel):
    """A sheet as it was cut, laid on its plan; lengths in mm."""

    contours: int
    cut_once: int
    missing: int
    twice: int
    largest_mm: float
    x_mm: float | None
    y_mm: float | None
    corner_mm: float


class TestCutView(BaseModel):
    """What the test cut came to."""

    through: bool
    largest_mm: float
    corner_mm: float


class CutSheetView(BaseModel):
    """One sheet at the cutter: what to load and dial in, how far it is, what happened, what can be done.

    `pen` is how many lines are to be drawn next, before it is cut, and `pen_name` with what.
    `done` are the numbers of the contours that are cut, `drawn` the way of the blade on the film that is in; `at` where the
    blade is.
    """

    number: int
    name: str
    material: str
    colour: str
    mirrored: bool
    face_down: bool
    kind: str
    bought: bool
    width_mm: float
    length_mm: float
    length_used_mm: float
    force_g: int
    speed_mm_s: float
    passes: int
    angle_deg: int
    offset_mm: float
    stage: Stage
    contours: int
    to_cut: int
    pen: int
    pen_name: str | None
    films: int
    trouble: str | None
    ways: list[Way]
    test: TestCutView | None
    tests: bool
    figures: CutFiguresView | None
    outline: str
    again: str
    drawn: str
    scored: str
    x_mm: float | None
    y_mm: float | None


class HolderView(BaseModel):
    """The job whose film is in the cutter, and the design whose own sheets it is, if it is a design's."""

    job: str
    name: str
    design: str | None


class CutView(BaseModel):
    """A job at the cutter; `held_by` is another that has its film in it."""

    held_by: HolderView | None
    job: str
    name: str
    finished: bool
    rate: float
    sheets: list[CutSheetView]


class BeginCut(BaseModel):
    """The revision of the job that is cut."""

    base: Annotated[int, Field(ge=0, le=2**53)]


class CutStep(BaseModel):
    """A step at the cutter; `way`, `force_g` and `piece` belong to some of them."""

    do: Literal["load", "test", "cut", "pause", "resume", "stop", "mend", "finish", "end", "rate", "fault"]
    number: Annotated[int, Field(ge=0, le=10_000)] = 0
    way: Way | None = None
    force_g: Annotated[int, Field(ge=5, le=2000)] | None = None
    piece: Annotated[str, Field(max_length=80)] | None = None
    rate: Annotated[float, Field(ge=0.1, le=50)] = 1.0
    fault: Literal["cover", "slip", "film-out", "link", "power", "force"] = "cover"
    after_mm: Annotated[float, Field(ge=0, le=100_000)] = 0.0


def cut_view(kept: KeptRun, stands: list[SheetStand], rate: float, holder: HolderView | None) -> CutView:
    """A run as it is sent; outlines only of the sheet that is at hand."""
    at_hand = next((s.run.number for s in stands if s.stage != "done"), None)
    return CutView(
        held_by=holder, job=kept.job, name=kept.name, finished=kept.finished, rate=rate,
        sheets=[_sheet(s, with_outline=s.run.number == at_hand or s.stage == "done") for s in stands],
    )  # fmt: skip


def _sheet(stand: SheetStand, *, with_outline: bool) -> CutSheetView:
    cut, made, film, figures = stand.cut, stand.made, stand.film, stand.figures
    own = cut.lines if with_outline else []
    more = contours_on(cut, film)[len(cut.contours) :] if film else []
    strokes = made.strokes if made else ()
    drawing = to_draw(cut, made) if made else None
    return CutSheetView(
        number=cut.number,
        name=cut.name,
        material=cut.material_name,
        colour=cut.colour,
        mirrored=cut.mirrored,
        face_down=cut.mirrored if cut.face_down is None else cut.face_down,
        kind=cut.kind,
        bought=cut.bought,
        width_mm=cut.width_mm,
        length_mm=cut.length_mm,
        length_used_mm=cut.length_used_mm,
        force_g=(film and film.force_g) or cut.force_g,
        speed_mm_s=cut.speed_mm_s,
        passes=cut.passes,
        angle_deg=cut.angle_deg,
        offset_mm=cut.offset_mm,
        stage=stand.stage,
        contours=len(cut.contours),
        to_cut=stand.to_cut,
        pen=len(drawing.lines) if drawing else 0,
        pen_name=drawing.pen if drawing else None,
        films=len(stand.run.tries),
        trouble=stand.trouble,
        ways=list(stand.ways),
        test=TestCutView(through=stand.test[0], largest_mm=stand.test[1], corner_mm=stand.test[2]) if stand.test else None,
        tests=film is not None and film.test_at is not None,
        figures=figures
        and CutFiguresView(
            contours=figures.contours, cut_once=figures.cut_once, missing=len(figures.missing), twice=len(figures.twice),
            largest_mm=figures.largest_mm, x_mm=figures.at[0] if figures.at else None,
            y_mm=figures.at[1] if figures.at else None, corner_mm=figures.corner_mm,
        ),
        outline=_path(own),
        again=_path(more),
        drawn=_path([s.points for s in strokes if s.through]),
        scored=_path([s.points for s in strokes if not s.through]),
        x_mm=stand.at[0] if stand.at else None,
        y_mm=stand.at[1] if stand.at else None,
    )  # fmt: skip


def _path(lines: list[FloatArray]) -> str:
    return "".join(
        "M" + "L".join(f"{number(round(x, 2))} {number(round(y, 2))}" for x, y in line.tolist()) for line in lines
    )
