"""Cutting a job: what is sent to the cutter, and what follows from what it says it did.

A run has its sheets in the order of assembly. A sheet is cut on one film or, after a mishap, on several; to each film
programs are sent, and the cutter's log tells how far each came. Nothing is remembered that follows from programs and log.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property
from itertools import accumulate
from typing import Annotated, Literal

import numpy as np
from pydantic import Field
from shapely import LineString, MultiPolygon, Polygon

from gladstack.core.geometry.curves import FloatArray, flatten_chain
from gladstack.core.plan.laying import UNTURNED, Item, Room, Spot, moved
from gladstack.core.plan.marks import trial_cut
from gladstack.core.plan.pack import free_spot
from gladstack.core.plan.strokes import HolderStroke, Stroke, holder_strokes, rest_of, strokes_of
from gladstack.core.write.hpgl import hpgl, noded
from gladstack.recipe.model.values import Frozen, Id, changed
from gladstack.shop.plan.planned import SheetPlan
from gladstack.shop.shelf.stock import Gain, PieceKind

XY = tuple[float, float]
_TEST_MM = 8.0
_TOLERANCE_MM = 0.004
"""What curves are flattened within: little beside the units that a cutter takes them in."""


class SheetCut(Frozen):
    """All of a sheet that cutting it needs, kept as it was planned: contours in the order of the blade, in the sheet's mm.

    `owners` tells for each contour the part it belongs to (-1: none). `reach_mm` is how long the film is that goes in.
    `pen` are lines to be drawn first, and `pens` the pens for them: what each is called, and up to which line it draws.
    `face_down` is None for what was cut before it was told apart from mirrored.
    """

    number: int
    name: str
    file: str
    material: Id
    material_name: str
    colour: str
    mirrored: bool
    face_down: bool | None = None
    piece: Id
    kind: PieceKind
    bought: bool
    width_mm: float
    length_mm: float
    length_used_mm: float
    reach_mm: float
    margin_mm: float
    spacing_mm: float
    speed_mm_s: float
    force_g: int
    passes: int
    angle_deg: int
    offset_mm: float
    overcut_mm: float
    keep_mm: float
    gains: tuple[Gain, ...]
    contours: tuple[tuple[XY, ...], ...]
    owners: tuple[int, ...]
    pen: tuple[tuple[XY, ...], ...] = ()
    pens: tuple[tuple[str, int], ...] = ()

    @cached_property
    def lines(self) -> list[FloatArray]:
        """The contours as arrays (n, 2)."""
        return [np.array(c) for c in self.contours]


class Sent(Frozen):
    """One program: its strokes in order, each a contour's number, which pass, and from how far along it."""

    program: str
    what: Literal["test", "pen", "cut"]
    strokes: tuple[tuple[int, int, float], ...]


class Recut(Frozen):
    """A part cut again elsewhere on the same film, moved by so much."""

    part: int
    dx_mm: float
    dy_mm: float


class FilmTry(Frozen):
    """One film that was put in for a sheet, what was sent to it, and what became of it.

    `wanted` are the contours to be cut on it; those of parts cut again follow after the sheet's own. `used_mm`
    is how much of the film was used.
    """

    film: str
    piece: Id
    wanted: tuple[int, ...]
    test_at: XY | None = None
    programs: tuple[Sent, ...] = ()
    recuts: tuple[Recut, ...] = ()
    force_g: int | None = None
    ended: Literal["cut", "spoiled", "out"] | None = None
    used_mm: float = 0.0


class SheetRun(Frozen):
    """A sheet being cut: the films it was tried on, the last of them in the cutter or not yet."""

    number: int
    tries: Annotated[tuple[FilmTry, ...], Field(max_length=200)] = ()
    done: bool = False

    @property
    def now(self) -> FilmTry | None:
        """The film in the cutter."""
        return self.tries[-1] if self.tries and self.tries[-1].ended is None else None


class CutRun(Frozen):
    """A job being cut: its sheets in order."""

    sheets: tuple[SheetRun, ...]

    @property
    def done(self) -> bool:
        """Whether all of it is cut."""
        return all(s.done for s in self.sheets)

    @property
    def loaded(self) -> SheetRun | None:
        """The sheet whose film is in the cutter."""
        return next((s for s in self.sheets if s.now is not None), None)

    def sheet(self, number: int) -> SheetRun:
        """The sheet of a number."""
        return next(s for s in self.sheets if s.number == number)

    def with_sheet(self, sheet: SheetRun) -> CutRun:
        """The run with one sheet as it is now."""
        return changed(self, sheets=tuple(sheet if s.number == sheet.number else s for s in self.sheets))


def begun(sheets: Sequence[SheetPlan], keep_mm: float) -> tuple[CutRun, list[SheetCut]]:
    """A run over a plan's sheets, and what cutting each needs."""
    cuts = [_sheet_cut(s, keep_mm) for s in sheets]
    return CutRun(sheets=tuple(SheetRun(number=s.number) for s in cuts)), cuts


def _sheet_cut(sheet: SheetPlan, keep_mm: float) -> SheetCut:
    chains = [c for p in sheet.parts for c in (p.outline.shell, *p.outline.holes)]
    owners = [k for k, p in enumerate(sheet.parts) for _ in (p.outline.shell, *p.outline.holes)]
    path, blade, cutter = sheet.path, sheet.material.blade, sheet.cutter
    reach = sheet.length_mm if sheet.bought else min(sheet.piece.reach_mm, cutter.length_mm)
    return SheetCut(
        number=sheet.number, name=sheet.name, file=sheet.file, material=sheet.material.id,
        material_name=sheet.material.name, colour=sheet.material.colour, mirrored=sheet.mirrored,
        face_down=sheet.face_down, piece=sheet.piece.id,
        kind=sheet.piece.kind, bought=sheet.bought, width_mm=sheet.width_mm, length_mm=sheet.length_mm,
        length_used_mm=sheet.length_used_mm, reach_mm=max(reach, sheet.length_mm), margin_mm=sheet.margin_mm,
        spacing_mm=sheet.spacing_mm, speed_mm_s=cutter.speed_for(sheet.material),
        force_g=cutter.force_for(sheet.material), passes=blade.passes,
        angle_deg=blade.angle_deg, offset_mm=blade.offset_mm, overcut_mm=cutter.overcut_mm, keep_mm=keep_mm,
        gains=sheet.gains,
        contours=tuple(_rounded(c) for c in noded([flatten_chain(c, _TOLERANCE_MM) for c in path.contours])),
        owners=tuple(owners[k] if k < len(chains) else -1 for k in path.order),
        pen=tuple(_rounded(flatten_chain(c, _TOLERANCE_MM)) for pen in sheet.pens for c in pen.lines),
        pens=tuple(zip((p.name for p in sheet.pens), accumulate(len(p.lines) for p in sheet.pens), strict=True)),
    )  # fmt: skip


def _rounded(points: FloatArray) -> tuple[XY, ...]:
    return tuple((x, y) for x, y in np.round(points, 4).tolist())


def loaded(run: SheetRun, cut: SheetCut, film: str, piece: str, wanted: Sequence[int] | None = None) -> SheetRun:
    """The sheet with film put in: all its contours are to be cut on it, or only some."""
    own = tuple(range(len(cut.contours)) if wanted is None else wanted)
    new = FilmTry(film=film, piece=piece, wanted=own, test_at=_test_place(cut))
    return changed(run, tries=(*run.tries, new))


def contours_on(cut: SheetCut, film: FilmTry) -> list[FloatArray]:
    """All contours of a film: the sheet's own, then the test cut's, then those of parts cut again."""
    return [*cut.lines, *trial_on(film), *(line for _, line in recut_contours(cut, film))]


def replaced(cut: SheetCut, film: FilmTry) -> list[int]:
    """Of which of the sheet's own contours each contour on a film is; the test cut's are of none (-1)."""
    return [
        *range(len(cut.contours)),
        *(-1 for _ in trial_on(film)),
        *(k for k, _ in recut_contours(cut, film)),
    ]


def recut_contours(cut: SheetCut, film: FilmTry) -> list[tuple[int, FloatArray]]:
    """The contours of parts cut again: of which of the sheet's own each is, and where it is now."""
    return [
        (k, cut.lines[k] + (recut.dx_mm, recut.dy_mm))
        for recut in film.recuts
        for k, owner in enumerate(cut.owners)
        if owner == recut.part
    ]


def trial_on(film: FilmTry) -> list[FloatArray]:
    """The test cut's contours, if there is room for one."""
    if film.test_at is None:
        return []
    return [flatten_chain(c, _TOLERANCE_MM) for c in trial_cut(film.test_at, _TEST_MM)]


def _test_place(cut: SheetCut) -> XY | None:
    """Where the test cut finds room, as near to the film's beginning as it goes."""
    room = Room(min(cut.reach_mm, cut.length_used_mm + 40.0) - 2 * cut.margin_mm, cut.width_mm - 2 * cut.margin_mm)
    box = Polygon([(0, 0), (_TEST_MM, 0), (_TEST_MM, _TEST_MM), (0, _TEST_MM)])
    spot = free_place(cut, Item(MultiPolygon([box]), UNTURNED), room, [], Spot(0.0, 0.0, room.width_mm))
    return (spot.x_mm + cut.margin_mm, spot.y_mm + cut.margin_mm) if spot else None


def free_place(cut: SheetCut, item: Item, room: Room, more: Sequence[Polygon], near: Spot) -> Spot | None:
    """A place for something beside all that is planned on a film and `more`, within its margins."""
    if room.length_mm <= 0 or room.width_mm <= 0:
        return None
    shells = [Polygon(line) for line, owner in zip(cut.lines, cut.owners, strict=True) if owner >= 0]
    # Of boxes around parts only the line is in the way, of marks and figures all.
    furniture = [
        Polygon(line) if _small(line) else LineString(line).buffer(0.3)
        for line, owner in zip(cut.lines, cut.owners, strict=True)
        if owner < 0
    ]
    back = (1.0, 0.0, 0.0, 1.0, -cut.margin_mm, -cut.margin_mm)
    taken = [moved(shape, back) for shape in (*shells, *furniture, *more)]
    return free_spot(item, room, max(cut.spacing_mm, 1.0), taken, near)


def _small(line: FloatArray) -> bool:
    """Whether a contour is a mark or a figure, not a box around parts."""
    return len(line) > 2 and float(np.ptp(line, axis=0).max()) < 30.0


def ways_of(cut: SheetCut, film: FilmTry, sent: Sent) -> tuple[list[Stroke], list[HolderStroke]]:
    """The strokes of a program, and where the blade's holder goes for each."""
    contours = [np.array(c) for c in cut.pen] if sent.what == "pen" else contours_on(cut, film)
    strokes = []
    for contour, turn, begin in sent.strokes:
        (whole,) = strokes_of([contours[contour]], 0.0 if sent.what == "pen" else cut.overcut_mm)
        part = rest_of(whole, begin) or whole
        strokes.append(Stroke(contour, turn, part.points))
    return strokes, holder_strokes(strokes, 0.0 if sent.what == "pen" else cut.offset_mm)


def program_text(cut: SheetCut, film: FilmTry, sent: Sent) -> str:
    """A program as the cutter takes it: the blade's offset, overcut and passes in it."""
    _, ways = ways_of(cut, film, sent)
    points = [w.points for w in ways]
    if sent.what == "pen":
        return hpgl([], cut.width_mm, pens=[points])
    return hpgl(points, cut.width_mm, cut.speed_mm_s, film.force_g or cut.force_g)


def with_program(film: FilmTry, sent: Sent) -> FilmTry:
    """A film with one more program."""
    return changed(film, programs=(*film.programs, sent))


def test_program(cut: SheetCut, film: FilmTry, program: str) -> Sent | None:
    """The test cut; None where there is no room for one."""
    first, count = len(cut.contours), len(trial_on(film))
    return Sent(program=program, what="test", strokes=tuple((first + k, 0, 0.0) for k in range(count))) if count else None
