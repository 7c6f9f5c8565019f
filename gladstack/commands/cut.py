"""Cutting a job on the simulated cutter without anybody looking on, and what it came to."""

from __future__ import annotations

import argparse
import json
import tempfile
import time
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from gladstack.commands.build import write_all
from gladstack.commands.jobs import laid
from gladstack.core.base.errors import GladStackError
from gladstack.core.geometry.curves import line_chain
from gladstack.core.write.png import png
from gladstack.demo.shelf import MATERIALS, PIECES
from gladstack.machine.link import Link, LinkError, Temper
from gladstack.machine.operator import Operator, SheetStand, decide, faults_of
from gladstack.shop.cut.cutting import FilmTry, SheetCut, begun
from gladstack.shop.cut.progress import progress
from gladstack.shop.plan.planned import Plan
from gladstack.shop.shelf.shelf import Shop
from gladstack.store.cuts import CutBook, OutOfFilmError
from gladstack.store.database import Database
from gladstack.store.jobs import JobBook
from gladstack.store.shelf import Shelf

_MOST_STEPS = 400
_LOOK_S = 0.004


def cut(options: argparse.Namespace) -> int:
    """Lays a job, cuts it, and writes cut.json and a picture of what was cut of each sheet."""
    made, _ = laid(options)
    shop = Shop(materials=MATERIALS, pieces=PIECES)
    cutter = shop.cutter(made.job.cutter)
    with tempfile.TemporaryDirectory(prefix="gladstack-cut-") as folder:
        database = Database(Path(folder) / "cut.db")
        shelf = Shelf(database)
        shelf.add(MATERIALS, PIECES)
        link = Link(Path(folder) / "cutter", cutter, Temper(options.rate, options.faults))
        operator = Operator(CutBook(database), shelf, link)
        try:
            stands = cut_all(operator, JobBook(database), made)
            told = [sheet_told(operator, s) for s in stands]
            files = {"cut.json": (json.dumps({"sheets": told}, indent=1) + "\n").encode()}
            for stand in stands:
                for k, film in enumerate(stand.run.tries):
                    stem = stand.cut.file.removeprefix("sheets/").removesuffix(".svg")
                    more = f"-film-{k + 1}" if len(stand.run.tries) > 1 else ""
                    files[f"plots/{stem}{more}.png"] = _plot(stand.cut, film, operator.log_of(film))
        finally:
            operator.close()
    write_all(options.out, files)
    once, all_ = (sum(int(sheet[key]) for sheet in told) for key in ("cut_once", "contours"))
    print(f"{len(stands)} sheets, {once} of {all_} contours cut once, in {options.out}")
    return 0


def cut_all(operator: Operator, jobs: JobBook, plan: Plan) -> list[SheetStand]:
    """Cuts every sheet of a plan, after each mishap by the best way on, as long as there is film.

    Raises GladStackError if it comes to no end.
    """
    kept = jobs.create(plan.job)
    run, sheets = begun(plan.sheets, plan.job.keep_offcuts_mm)
    operator.begin(kept.id, kept.revision, run, sheets)
    stands: list[SheetStand] = []
    steps = 0
    while steps < _MOST_STEPS * len(sheets):
        try:
            _, stands = operator.stand(kept.id)
            stand = next((s for s in stands if s.stage != "done"), None)
            if stand is None:
                return stands
            step = decide(stand)
            if step is None:
                # It cuts, for as long as that takes.
                time.sleep(_LOOK_S)
                continue
            steps += 1
            step(operator, kept.id)
        except OutOfFilmError:
            # What is cut is told all the same, and what is missing.
            return stands
        except LinkError:
            steps += 1
    raise GladStackError("The cutter does not come to an end.", "Look at its state.")


def sheet_told(operator: Operator, stand: SheetStand) -> dict[str, Any]:
    """What cutting a sheet came to, for other programs; lengths in mm."""
    figures, tries = stand.figures or operator.figures(stand), stand.run.tries
    logs = [operator.log_of(film) for film in tries]
    ended = [_spent(log) for log in logs]
    return {
        "file": stand.cut.file,
        "contours": figures.contours,
        "cut_once": figures.cut_once,
        "missing": len(figures.missing),
        "twice": len(figures.twice),
        "largest_deviation_mm": round(figures.largest_mm, 4),
        "corner_mm": round(figures.corner_mm, 4),
        "travel_mm": round(sum(s[1] for s in ended), 2),
        "cut_mm": round(sum(s[2] for s in ended), 2),
        "seconds": round(sum(s[0] for s in ended), 2),
        "films": len(tries),
        "used_mm": [film.used_mm for film in tries],
        "faults": [dict(f) for log in logs for f in faults_of(log)],
    }


def _spent(log: Sequence[Mapping[str, Any]]) -> tuple[float, float, float]:
    """Seconds, mm travelled and mm cut on one film."""
    programs: dict[str, tuple[float, float]] = {}
    strokes: dict[tuple[str, int], float] = {}
    for line in log:
        if "run" in line:
            programs[line["run"]] = (float(line["s"]), float(line["travel"]))
            strokes[line["run"], int(line["stroke"])] = float(line["mm"])
    return sum(s for s, _ in programs.values()), sum(t for _, t in programs.values()), sum(strokes.values())


def _plot(cut: SheetCut, film: FilmTry, log: Sequence[Mapping[str, Any]]) -> bytes:
    strokes = progress(cut, film, log).strokes
    far = max([cut.length_mm, film.used_mm])
    planned = [line_chain(line) for line in cut.lines]
    drawn = [line_chain(s.points) for s in strokes if s.through]
    return png((0.0, 0.0, far, cut.width_mm), [("#e9e4d8", [c for c in planned if len(c) > 2])], drawn)
