"""What cutting came to: the cuts laid on the plan, and what they took off the shelf."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from gladstack.core.plan.compared import Compared, compare
from gladstack.shop.cut.cutting import XY, FilmTry, SheetCut, contours_on, replaced, trial_on
from gladstack.shop.cut.progress import Progress, progress, spoiled_on
from gladstack.shop.shelf.stock import Gain, Piece, Use


@dataclass(frozen=True)
class SheetFigures:
    """A sheet as it was cut, on all its films: contours wanted, cut whole and once, missing, cut twice, and how far off."""

    contours: int
    cut_once: int
    missing: tuple[int, ...]
    twice: tuple[int, ...]
    largest_mm: float
    at: XY | None
    corner_mm: float


def figures_of(cut: SheetCut, tries: Sequence[FilmTry], logs: Sequence[Sequence[Mapping[str, Any]]]) -> SheetFigures:
    """Lays what was cut on all films of a sheet, by their logs, on what was planned; what is cut anew does not count."""
    best: dict[int, tuple[bool, bool, float, XY, float]] = {}
    wanted = set(range(len(cut.contours)))
    for nth, film in enumerate(tries):
        made = progress(cut, film, logs[nth])
        result = compared(cut, film, made)
        of, spoiled = replaced(cut, film), spoiled_on(cut, film)
        again = {k for later in tries[nth + 1 :] for k in later.wanted}
        for k, own in enumerate(of):
            if own < 0 or k in spoiled or own in again or (k < len(cut.contours) and k not in film.wanted):
                continue
            c = result.contours[k]
            best[own] = (c.once, c.twice, c.off_mm, c.at, c.corner_mm)
    missing = tuple(sorted(k for k in wanted if k not in best or not (best[k][0] or best[k][1])))
    whole = [v for k, v in best.items() if k not in missing]
    largest = max(whole, key=lambda v: v[2], default=None)
    return SheetFigures(
        len(wanted), sum(v[0] for v in best.values()), missing, tuple(sorted(k for k, v in best.items() if v[1])),
        largest[2] if largest else 0.0, largest[3] if largest else None, max((v[4] for v in whole), default=0.0),
    )  # fmt: skip


def compared(cut: SheetCut, film: FilmTry, made: Progress) -> Compared:
    """What came through on one film, laid on all contours that were to be cut on it."""
    return compare(contours_on(cut, film), [s.points for s in made.strokes if s.through and s.what == "cut"], cut.passes)


def test_figures(cut: SheetCut, film: FilmTry, made: Progress) -> tuple[bool, float, float] | None:
    """Whether the test cut came through, how far it is off, how round its corners are; None if there was none."""
    strokes = [s for s in made.strokes if s.what == "test"]
    if not strokes or not made.tested:
        return None
    result = compare(trial_on(film), [s.points for s in strokes])
    return all(s.through for s in strokes), result.largest_mm, result.corner_mm


def used_mm(cut: SheetCut, made: Progress) -> float:
    """How much of a film the blade has been to, its margin included; 0 if it was not cut."""
    far = max((float(s.points[:, 0].max()) for s in made.strokes), default=None)
    return 0.0 if far is None else round(min(cut.reach_mm, far + cut.margin_mm), 1)


def stock_changes(cut: SheetCut, film: FilmTry, left: float) -> tuple[list[Use], list[Gain]]:
    """What a film that is done with takes off the shelf, of which so much is `left`; and what it leaves."""
    if cut.bought or film.used_mm <= 0 or left <= 0:
        return [], []
    if cut.kind == "roll":
        whole = max(film.used_mm, cut.length_used_mm) if film.ended == "cut" else film.used_mm
        gains = list(cut.gains) if film.ended == "cut" and film.used_mm <= cut.length_used_mm + 0.05 else []
        return [Use(piece=film.piece, amount=min(left, round(whole, 1)))], gains
    if film.ended == "cut" and not film.recuts and film.used_mm <= cut.length_used_mm + 0.05:
        return [Use(piece=film.piece, amount=1.0)], list(cut.gains)
    rest = round(cut.length_mm - film.used_mm, 1)
    gain = Gain(material=cut.material, width_mm=cut.width_mm, length_mm=rest) if rest >= max(10.0, cut.keep_mm) else None
    return [Use(piece=film.piece, amount=1.0)], [gain] if gain else []


def pieces_for(cut: SheetCut, pieces: Sequence[Piece]) -> list[Piece]:
    """The pieces on the shelf that a sheet can be cut from again, its own first."""
    fit = [
        p
        for p in pieces
        if p.material == cut.material and p.left > 0 and p.reach_mm + 1e-6 >= cut.length_used_mm
        and (p.width_mm == cut.width_mm or p.id == cut.piece)
    ]  # fmt: skip
    return sorted(fit, key=lambda p: (p.id != cut.piece, p.width_mm * p.length_mm))
