"""Cutting a job, film by film: load, test, cut, and what to do after a mishap.

What is decided is kept before it is sent, and how far the cutter came is asked of its log: so a lost page, a restarted
server or a cutter without power finds the cut as it is.
"""

from __future__ import annotations

import secrets
import threading
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from gladstack.machine.link import Link, LinkError
from gladstack.recipe.model.values import changed
from gladstack.shop.cut.cutting import (
    CutRun,
    FilmTry,
    Sent,
    SheetCut,
    SheetRun,
    loaded,
    program_text,
    test_program,
    with_program,
)
from gladstack.shop.cut.figures import SheetFigures, figures_of, pieces_for, stock_changes, test_figures, used_mm
from gladstack.shop.cut.progress import (
    Progress,
    Way,
    damaged,
    happened,
    progress,
    recuts_for,
    to_do,
    to_draw,
    unfinished,
    ways_on,
)
from gladstack.shop.shelf.stock import Piece
from gladstack.store.cuts import CutBook, CuttingError, KeptRun, OutOfFilmError
from gladstack.store.shelf import Shelf

Stage = Literal["waiting", "ready", "cutting", "paused", "trouble", "cut", "done"]


@dataclass(frozen=True)
class SheetStand:
    """How far one sheet is. `made` and `film` are of the film in the cutter; `to_cut` what is left to be cut on it."""

    cut: SheetCut
    run: SheetRun
    stage: Stage
    film: FilmTry | None
    made: Progress | None
    to_cut: int
    trouble: str | None
    ways: tuple[Way, ...]
    test: tuple[bool, float, float] | None
    figures: SheetFigures | None
    at: tuple[float, float] | None


class Operator:
    """At one cutter, for all jobs of one shop: only one film is in it at a time."""

    def __init__(self, book: CutBook, shelf: Shelf, link: Link) -> None:
        self.book = book
        self.shelf = shelf
        self.link = link
        self._lock = threading.RLock()
        self._logs: dict[str, list[dict[str, Any]]] = {}
        self._sheets: dict[tuple[int, int], SheetCut] = {}
        self._compared: dict[tuple[tuple[str, int], ...], SheetFigures] = {}

    def begin(self, job: str, base: int, run: CutRun, sheets: Sequence[SheetCut]) -> KeptRun:
        """Begins to cut a job. Raises CuttingError."""
        return self.book.begin(job, base, run, sheets)

    def stand(self, job: str) -> tuple[KeptRun, list[SheetStand]]:
        """How far a job is. Raises CuttingError if it was not begun, LinkError."""
        with self._lock:
            kept = self._kept(job)
            return kept, [self._stand(kept, s) for s in kept.run.sheets]

    def load(self, job: str, number: int, piece: str | None = None, wanted: Sequence[int] | None = None) -> None:
        """Film is put in for a sheet: its own piece, or another that is as wide. Raises CuttingError."""
        with self._lock:
            kept = self._kept(job)
            busy = self.book.busy()
            if busy is not None:
                whose = "another sheet of this job" if busy.cut == kept.cut else f"“{busy.name}”"
                raise CuttingError(f"There is film of {whose} in the cutter.", "Finish that, or take it out first.")
            sheet, cut = kept.run.sheet(number), self._cut(kept, number)
            if sheet.done:
                raise CuttingError("This sheet is cut already.", "Go on with the next.")
            first = next((s.number for s in kept.run.sheets if not s.done), number)
            if number != first:
                raise CuttingError(f"Sheet {first} comes first.", "Films are cut in the order they go together.")
            chosen = self._piece(cut, piece)
            film = f"{kept.cut}-{number}-{len(sheet.tries) + 1}-{secrets.token_hex(3)}"
            if wanted is None and sheet.tries:
                wanted = sheet.tries[-1].wanted
                if sheet.tries[-1].ended == "out":
                    last = sheet.tries[-1]
                    wanted = unfinished(cut, last, progress(cut, last, self.book.log(last.film)))
            new = loaded(sheet, cut, film, chosen.id if chosen else cut.piece, wanted)
            reach = cut.reach_mm if chosen is None else min(chosen.reach_mm, max(cut.reach_mm, cut.length_mm))
            # Should it end here, the cutter has film that nobody knows of: the next one that is put in takes its place.
            self.link.ask("load", film=film, width_mm=cut.width_mm, length_mm=max(reach, cut.length_mm), needs_g=cut.force_g)
            self.link.ask("blade", offset_mm=cut.offset_mm)
            self.book.save(kept, kept.run.with_sheet(new))

    def test(self, job: str) -> None:
        """A small test cut beside the work. Raises CuttingError."""
        with self._lock:
            kept, sheet, film, made = self._in_hand(job)
            cut = self._cut(kept, sheet.number)
            sent = test_program(cut, film, _name())
            if sent is None:
                raise CuttingError("There is no room for a test cut on this film.", "Try blade and force on an offcut.")
            self._send(kept, sheet, cut, film, sent, made)

    def cut(self, job: str) -> None:
        """Cuts all that is still to be cut on the film: what pens draw first, one pen each time. Raises CuttingError."""
        with self._lock:
            kept, sheet, film, made = self._in_hand(job)
            if made.broken and ways_on(self._cut(kept, sheet.number), film, made)[0] != "go-on":
                raise CuttingError("Something happened to this film.", "Choose how to go on first.")
            self._go_on(kept, sheet, film, made)

    def handle(self, job: str, what: Literal["pause", "resume", "stop"]) -> None:
        """Pauses, goes on, or stops. Raises CuttingError."""
        with self._lock:
            self._in_hand(job, running=None)
            self.link.ask(what)

    def mend(self, job: str, way: Way, force_g: int | None = None) -> None:
        """Goes on after a mishap in a way that serves. Raises CuttingError."""
        with self._lock:
            kept, sheet, film, made = self._in_hand(job)
            cut = self._cut(kept, sheet.number)
            if way not in ways_on(cut, film, made) and way != "start-over":
                raise CuttingError("That is no way on from here.", "Choose one of those that are offered.")
            if way in ("rest", "start-over"):
                self._take_out(kept, sheet, cut, film, made, "out" if way == "rest" else "spoiled")
                return
            if way == "recut":
                found = recuts_for(cut, film, made)
                if found is None:
                    raise CuttingError("There is no room on the rest of this film.", "Cut the rest on new film.")
                film = changed(film, recuts=(*film.recuts, *found))
            if way == "again":
                film = changed(film, force_g=force_g or cut.force_g)
            self._go_on(kept, sheet, film, made)

    def finish(self, job: str) -> None:
        """The film is cut and taken out: it goes off the shelf, what stays of it comes back. Raises CuttingError."""
        with self._lock:
            kept, sheet, film, made = self._in_hand(job)
            cut = self._cut(kept, sheet.number)
            if to_do(cut, film, made) or (made.broken and damaged(cut, film, made)):
                raise CuttingError("This film is not cut yet.", "Cut it first, or take it out unfinished.")
            self._take_out(kept, sheet, cut, film, made, "cut")

    def end(self, job: str) -> None:
        """Ends cutting a job: the film in the cutter is taken out, what was used stays used. Raises CuttingError."""
        with self._lock:
            kept = self._kept(job)
            if kept.run.loaded is not None:
                self.mend(job, "start-over")
            self.book.end(self._kept(job))

    def close(self) -> None:
        """Stops the cutter."""
        self.link.close()

    def _go_on(self, kept: KeptRun, sheet: SheetRun, film: FilmTry, made: Progress) -> None:
        cut = self._cut(kept, sheet.number)
        drawing = to_draw(cut, made)
        if drawing is not None:
            pen = Sent(program=_name(), what="pen", strokes=tuple((k, 0, 0.0) for k in drawing.lines))
            self._send(kept, sheet, cut, film, pen, made)
            return
        strokes = to_do(cut, film, made)
        if not strokes:
            raise CuttingError("All of this film is cut.", "Take it out.")
        self._send(kept, sheet, cut, film, Sent(program=_name(), what="cut", strokes=tuple(strokes)), made)

    def _send(self, kept: KeptRun, sheet: SheetRun, cut: SheetCut, film: FilmTry, sent: Sent, made: Progress) -> None:
        text = program_text(cut, film, sent)
        new = changed(sheet, tries=(*sheet.tries[:-1], with_program(film, sent)))
        self.book.save(kept, kept.run.with_sheet(new))
        self.link.ask("clear")
        self.link.ask("send", program=sent.program, hpgl=text)

    def _take_out(
        self, kept: KeptRun, sheet: SheetRun, cut: SheetCut, film: FilmTry, made: Progress,
        ended: Literal["cut", "spoiled", "out"],
    ) -> None:  # fmt: skip
        closed = changed(film, ended=ended, used_mm=used_mm(cut, made))
        left = next((p.left for p in self.shelf.pieces(cut.material) if p.id == film.piece), 0.0)
        uses, gains = stock_changes(cut, closed, left)
        new = changed(sheet, tries=(*sheet.tries[:-1], closed), done=ended == "cut")
        self.book.take_out(kept, kept.run.with_sheet(new), film.film, self._log(film), uses, gains)
        try:
            self.link.ask("clear")
            self.link.ask("unload")
        except LinkError:
            # New film takes its place at the latest when the next one is put in.
            return

    def _in_hand(self, job: str, running: bool | None = False) -> tuple[KeptRun, SheetRun, FilmTry, Progress]:
        """The film of a job that is in the cutter, which must not be cutting unless that is looked for."""
        kept = self._kept(job)
        sheet = kept.run.loaded
        if sheet is None or sheet.now is None:
            raise CuttingError("There is no film of this job in the cutter.", "Put it in first.")
        film = sheet.now
        made = progress(self._cut(kept, sheet.number), film, self._log(film))
        if running is False and made.running:
            raise CuttingError("The cutter is cutting.", "Wait, or stop it first.")
        return kept, sheet, film, made

    def _stand(self, kept: KeptRun, sheet: SheetRun) -> SheetStand:
        cut = self._cut(kept, sheet.number)
        film = sheet.now
        if sheet.done or film is None:
            figures = self._figures(cut, sheet.tries) if sheet.done else None
            return SheetStand(cut, sheet, "done" if sheet.done else "waiting", None, None, 0, None, (), None, figures, None)
        status = self.link.ask("state")
        here = status["film"] and status["film"].get("id") == film.film
        made = progress(cut, film, self._log(film) if here else [])
        left = len(to_do(cut, film, made))
        trouble: str | None = None
        stage: Stage = "ready"
        ways: tuple[Way, ...] = ()
        if not here:
            stage, trouble, ways = "trouble", "This film is no longer in the cutter.", ("start-over",)
        elif made.running:
            stage = "paused" if status["state"] == "paused" else "cutting"
        elif made.broken and (left or damaged(cut, film, made)):
            stage, trouble, ways = "trouble", happened(made.broken), ways_on(cut, film, made)
        elif made.scored:
            count = len(made.scored)
            trouble = f"{count} contour{' was' if count == 1 else 's were'} not cut through: the force is too low."
            stage, ways = "trouble", ways_on(cut, film, made)
        elif not left:
            stage = "cut"
        figures = self._figures(cut, sheet.tries) if stage == "cut" else None
        x, y = status["at"]
        at = (x, cut.width_mm - y) if stage in ("cutting", "paused") else None
        return SheetStand(cut, sheet, stage, film, made, left, trouble, ways, test_figures(cut, film, made), figures, at)

    def log_of(self, film: FilmTry) -> list[dict[str, Any]]:
        """What the cutter did to a film, in it or taken out."""
        with self._lock:
            return self._log(film) if film.ended is None else self.book.log(film.film)

    def figures(self, stand: SheetStand) -> SheetFigures:
        """A sheet as it is by now, cut or not."""
        with self._lock:
            return self._figures(stand.cut, stand.run.tries)

    def _figures(self, cut: SheetCut, tries: Sequence[FilmTry]) -> SheetFigures:
        """A sheet compared with its plan; worked out once for what was done to it."""
        key = tuple((t.film, len(t.programs)) for t in tries)
        if key not in self._compared:
            if len(self._compared) > 200:
                self._compared.clear()
            self._compared[key] = figures_of(cut, tries, [self.log_of(t) for t in tries])
        return self._compared[key]

    def _log(self, film: FilmTry) -> list[dict[str, Any]]:
        """What the cutter did to a film so far."""
        held = self._logs.get(film.film, [])
        answer = self.link.ask("log", begin=len(held))
        if not answer["film"] or answer["film"].get("id") != film.film:
            return held
        if len(held) + len(answer["log"]) != answer["lines"]:
            held, answer = [], self.link.ask("log", begin=0)
        self._logs = {film.film: [*held, *answer["log"]]}
        return self._logs[film.film]

    def _kept(self, job: str) -> KeptRun:
        kept = self.book.find(job)
        if kept is None:
            raise CuttingError("This job is not at the cutter.", "Begin to cut it first.")
        return kept

    def _cut(self, kept: KeptRun, number: int) -> SheetCut:
        key = (kept.cut, number)
        if key not in self._sheets:
            if len(self._sheets) > 40:
                self._sheets.clear()
            self._sheets[key] = self.book.sheet(*key)
        return self._sheets[key]

    def _piece(self, cut: SheetCut, wanted: str | None) -> Piece | None:
        """The piece of stock that goes in; None for film that is bought for it."""
        if cut.bought:
            return None
        fit = pieces_for(cut, self.shelf.pieces(cut.material))
        chosen = next((p for p in fit if wanted in (None, p.id)), None)
        if chosen is None:
            raise OutOfFilmError(
                f"The shelf has no more {cut.material_name} that this sheet fits on.",
                "Put film on the shelf, or end here.",
            )
        return chosen


def _name() -> str:
    return secrets.token_hex(6)


def decide(stand: SheetStand) -> Callable[[Operator, str], None] | None:
    """What one would do next who takes the best way on: for cutting without a maker. None while the cutter cuts."""
    number = stand.run.number
    if stand.stage == "waiting":
        return lambda operator, job: operator.load(job, number)
    if stand.stage == "ready":
        return lambda operator, job: operator.cut(job)
    if stand.stage == "trouble":
        way = stand.ways[0]
        return lambda operator, job: operator.mend(job, way)
    if stand.stage == "cut":
        return lambda operator, job: operator.finish(job)
    return None


def faults_of(log: Sequence[Mapping[str, Any]]) -> list[Mapping[str, Any]]:
    """What happened to a film, by its log."""
    return [line["broken"] for line in log if line.get("broken")] + [
        {"kind": "force"} for line in log if line.get("fault") == "force"
    ]
