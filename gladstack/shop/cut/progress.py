"""How far a sheet is, by the cutter's log; what stopped it, and what can be done then."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from shapely import MultiPolygon, Polygon

from gladstack.core.geometry.curves import FloatArray
from gladstack.core.plan.laying import UNTURNED, Item, Room, Spot, moved
from gladstack.core.plan.strokes import lengths_along
from gladstack.core.write.hpgl import UNITS_PER_MM, in_units
from gladstack.recipe.model.values import changed
from gladstack.shop.cut.cutting import (
    XY,
    FilmTry,
    Recut,
    Sent,
    SheetCut,
    contours_on,
    free_place,
    recut_contours,
    replaced,
    trial_on,
    ways_of,
)

Way = Literal["go-on", "again", "recut", "rest", "start-over"]
"""Go on where it stopped; cut again what did not come through; the damaged parts on the rest of the film; the rest on new
film; all of it on new film."""
_CLOSED_MM = 0.2
"""How far beyond its beginning a contour must be cut to be closed, overcut or not."""
_BACK_MM = 0.5
"""How far before the break an interrupted cut is taken up again, so that both halves meet."""


@dataclass(frozen=True)
class CutStroke:
    """One stroke as it was cut: of which contour and pass, the tip's way on the sheet, whether it came through."""

    what: str
    contour: int
    turn: int
    points: FloatArray
    through: bool


@dataclass(frozen=True)
class Progress:
    """How far a film is: passes that came through for each contour, what is half cut, and what stopped the last program.

    `half` tells for a contour the pass that broke off and how far along it; `scored` are contours cut, but not through;
    `drawn` are the lines that a pen has drawn.
    """

    turns: Mapping[int, int]
    half: Mapping[int, tuple[int, float]]
    scored: frozenset[int]
    strokes: tuple[CutStroke, ...]
    broken: Mapping[str, Any] | None
    running: bool
    tested: bool
    drawn: frozenset[int] = frozenset()


def progress(cut: SheetCut, film: FilmTry, log: Sequence[Mapping[str, Any]]) -> Progress:
    """What a film's log says of the programs that were sent to it."""
    sent = {p.program: p for p in film.programs}
    turns: dict[int, int] = {}
    half: dict[int, tuple[int, float]] = {}
    scored: set[int] = set()
    pieces: dict[tuple[str, int, bool], list[XY]] = {}
    cut_to: dict[tuple[str, int], tuple[float, bool]] = {}
    weak: set[tuple[str, int]] = set()
    sound: dict[tuple[str, int], float] = {}
    run_on: dict[tuple[str, int], float] = {}
    last: tuple[str, int] | None = None
    broken: Mapping[str, Any] | None = None
    running = tested = False
    for line in log:
        if "run" in line and line["run"] in sent:
            key = (str(line["run"]), int(line["stroke"]))
            through = bool(line["through"])
            pieces.setdefault((*key, through), []).extend((x, cut.width_mm - y) for x, y in line["tip"])
            last = key
            cut_to[key] = (float(line["mm"]), bool(line["done"]))
            if not through:
                weak.add(key)
            elif key not in weak:
                sound[key] = float(line["mm"])
        elif line.get("program") in sent:
            running = not line["ended"]
            broken = line.get("broken")
            if broken and "run_on_mm" in broken and last is not None:
                # What was cut after the film had slipped is beside its contour.
                run_on[last] = float(broken["run_on_mm"])
            tested |= bool(line["ended"]) and broken is None and sent[line["program"]].what == "test"
    contours = contours_on(cut, film)
    for (program, stroke), (mm, done) in cut_to.items():
        if sent[program].what != "cut":
            continue
        contour, turn, begin = sent[program].strokes[stroke]
        half.pop(contour, None)
        if (program, stroke) in weak:
            scored.add(contour)
            came = sound.get((program, stroke), 0.0)
            reached = begin + (_tip_mm(cut, film, sent[program], stroke, came) if came > 0 else 0.0)
            if reached > 0:
                half[contour] = (turn, reached)
        elif done:
            turns[contour] = max(turns.get(contour, 0), turn + 1)
            scored.discard(contour)
        else:
            mm -= run_on.get((program, stroke), 0.0)
            reached = begin + _tip_mm(cut, film, sent[program], stroke, max(0.0, mm))
            if reached >= float(lengths_along(contours[contour])[-1]) + _CLOSED_MM:
                # It broke off when the contour was closed already, and only some of the overcut is left.
                turns[contour] = max(turns.get(contour, 0), turn + 1)
            else:
                half[contour] = (turn, reached)
    drawn = frozenset(sent[p].strokes[k][0] for (p, k), (_, done) in cut_to.items() if done and sent[p].what == "pen")
    strokes = tuple(
        CutStroke(sent[p].what, *sent[p].strokes[k][:2], np.array(points), through)
        for (p, k, through), points in pieces.items()
        if len(points) > 1
    )
    return Progress(turns, half, frozenset(scored) - spoiled_on(cut, film), strokes, broken, running, tested, drawn)


def _tip_mm(cut: SheetCut, film: FilmTry, sent: Sent, stroke: int, holder_mm: float) -> float:
    """How far along its stroke the tip came while the holder went so far."""
    # Only the stroke before it tells how the blade pointed when it began.
    near = changed(sent, strokes=sent.strokes[max(0, stroke - 1) : stroke + 1])
    way = ways_of(cut, film, near)[1][-1]
    # The cutter goes by whole units, and along those its way is longer.
    units, kept = in_units(way.points, cut.width_mm)
    return float(np.interp(holder_mm, lengths_along(units / UNITS_PER_MM), way.tip_mm[kept]))


def to_do(cut: SheetCut, film: FilmTry, made: Progress) -> list[tuple[int, int, float]]:
    """The strokes still to be cut on a film, in order; one that broke off is taken up shortly before the break."""
    spoiled = spoiled_on(cut, film)
    own = [k for k in film.wanted if k not in spoiled]
    first = len(cut.contours) + len(trial_on(film))
    again = range(first, first + len(recut_contours(cut, film)))
    out = []
    for contour in (*own, *(k for k in again if k not in spoiled)):
        for turn in range(made.turns.get(contour, 0), cut.passes):
            broken_turn, mm = made.half.get(contour, (-1, 0.0))
            out.append((contour, turn, max(0.0, mm - _BACK_MM) if turn == broken_turn else 0.0))
    return out


@dataclass(frozen=True)
class ToDraw:
    """What is to be drawn next: with which pen (None: one without a name), and which lines."""

    pen: str | None
    lines: tuple[int, ...]


def to_draw(cut: SheetCut, made: Progress) -> ToDraw | None:
    """What the next pen has still to draw on a film before it is cut; a line that broke off is drawn again."""
    begin = 0
    for pen, end in cut.pens or ((None, len(cut.pen)),):
        left = tuple(k for k in range(begin, end) if k not in made.drawn)
        if left:
            return ToDraw(pen, left)
        begin = end
    return None


_HAPPENED = {
    "cover": "The cover was opened; the cutter stopped at once.",
    "slip": "The film has slipped by about {slip_mm} mm.",
    "film-out": "The film came to its end at {at_mm} mm.",
    "link": "The line to the cutter was lost; it stopped rather than cut unseen.",
    "power": "The power was lost.",
    "stop": "Cutting was stopped.",
}


def happened(broken: Mapping[str, Any]) -> str:
    """What stopped the cutter, in words."""
    return _HAPPENED[str(broken["kind"])].format(**broken)


def ways_on(cut: SheetCut, film: FilmTry, made: Progress) -> tuple[Way, ...]:
    """What can be done after a mishap, the best first."""
    kind = str(made.broken["kind"]) if made.broken else ""
    if kind == "slip":
        return ("recut", "start-over") if recuts_for(cut, film, made) is not None else ("rest", "start-over")
    if kind == "film-out":
        return "rest", "start-over"
    if kind:
        return "go-on", "start-over"
    return ("again", "start-over") if made.scored else ()


def damaged(cut: SheetCut, film: FilmTry, made: Progress) -> list[int]:
    """The parts of a film that a slip has spoiled: those begun and not finished."""
    of, spoiled = replaced(cut, film), spoiled_on(cut, film)
    whole = {k for k, n in made.turns.items() if n >= cut.passes}
    here = [k for k in range(len(of)) if of[k] >= 0 and k not in spoiled and (k in film.wanted or k >= len(cut.owners))]
    begun_on = set(made.half) | set(made.turns) | made.scored
    out = []
    for part in sorted({cut.owners[of[k]] for k in here if k in begun_on} - {-1}):
        if not all(k in whole for k in here if cut.owners[of[k]] == part):
            out.append(part)
    return out


def recuts_for(cut: SheetCut, film: FilmTry, made: Progress) -> list[Recut] | None:
    """Where damaged parts find room on the rest of the film; None if they do not."""
    parts = damaged(cut, film, made)
    shapes = {p: _part_polygon(cut, p) for p in parts}
    more = [Polygon(line) for _, line in recut_contours(cut, film)]
    more += [Polygon(line) for line in trial_on(film)[:1]]
    longer = sum(s.bounds[2] - s.bounds[0] + cut.spacing_mm for s in shapes.values()) + 20.0
    room = Room(min(cut.reach_mm, cut.length_used_mm + longer) - 2 * cut.margin_mm, cut.width_mm - 2 * cut.margin_mm)
    out = []
    for part in sorted(parts, key=lambda p: -shapes[p].area):
        left, top, _, _ = shapes[part].bounds
        onto = moved(shapes[part], (1.0, 0.0, 0.0, 1.0, -left, -top))
        near = Spot(0.0, left - cut.margin_mm, top - cut.margin_mm)
        spot = free_place(cut, Item(MultiPolygon([onto]), UNTURNED), room, more, near)
        if spot is None:
            return None
        dx, dy = round(spot.x_mm + cut.margin_mm - left, 3), round(spot.y_mm + cut.margin_mm - top, 3)
        out.append(Recut(part=part, dx_mm=dx, dy_mm=dy))
        more.append(moved(shapes[part], (1.0, 0.0, 0.0, 1.0, dx, dy)))
    return out


def _part_polygon(cut: SheetCut, part: int) -> Polygon:
    """A part's outer contour as a polygon."""
    own = [Polygon(line) for line, owner in zip(cut.lines, cut.owners, strict=True) if owner == part]
    return max(own, key=lambda p: p.area)


def unfinished(cut: SheetCut, film: FilmTry, made: Progress) -> list[int]:
    """The sheet's own contours that are still wanted: all of every part that is not finished, and the rest of the others."""
    of, spoiled = replaced(cut, film), spoiled_on(cut, film)
    good = {of[k] for k, n in made.turns.items() if n >= cut.passes and of[k] >= 0 and k not in spoiled}
    open_parts = {cut.owners[k] for k in film.wanted if k not in good} - {-1}
    return [k for k in film.wanted if k not in good or cut.owners[k] in open_parts]


def spoiled_on(cut: SheetCut, film: FilmTry) -> frozenset[int]:
    """The contours of a film whose part is cut again elsewhere on it, once or more than once."""
    last = {recut.part: k for k, recut in enumerate(film.recuts)}
    out = {k for k, owner in enumerate(cut.owners) if owner in last}
    at = len(cut.contours) + len(trial_on(film))
    for k, recut in enumerate(film.recuts):
        count = cut.owners.count(recut.part)
        if last[recut.part] != k:
            out |= set(range(at, at + count))
        at += count
    return frozenset(out)
