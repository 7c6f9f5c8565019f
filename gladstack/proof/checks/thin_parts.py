"""Parts that are narrower than their material bears: they tear in weeding, or come up with the waste."""

from __future__ import annotations

from collections.abc import Iterator

from shapely import MultiPolygon

from gladstack.core.geometry.curves import Matrix
from gladstack.core.geometry.runs import Run, Runs, both_runs
from gladstack.proof.check import CutCheck, CutRead
from gladstack.proof.finding import Finding
from gladstack.proof.narrow import first, measured, place_of, repair, severity_of, splits, tiny_width, too_narrow
from gladstack.proof.places import laid_run
from gladstack.recipe.edit.edits import Edit

_SHORT = 2.0
_LARGE = 3.0


def _findings(read: CutRead) -> Iterator[Finding[Edit]]:
    limit = read.film.material.least_part_mm
    runs = read.measured(_laid, narrow_parts, read.found(both_runs, *read.limits), limit)
    yield from (_finding(read, run, limit, len(runs), neck=neck) for run, neck in first(runs))


def narrow_parts(cut: MultiPolygon, narrow: tuple[Runs, Runs], limit: float) -> tuple[tuple[Run, bool], ...]:
    """Those stretches of a film that are too narrow, and of each whether two large pieces hang together by it.

    Parts that are narrow all over, and no longer than a few widths, are left out: they are told as tiny.
    """
    tiny = {k for k, part in enumerate(cut.geoms) if tiny_width(part, limit) is not None}
    runs = [run for run in too_narrow(narrow[0], limit) if not run.tip and run.part not in tiny]
    return tuple((run, run.length_mm < _SHORT * limit and splits(cut, run, (_LARGE * limit) ** 2)) for run in runs)


def _laid(found: tuple[tuple[Run, bool], ...], matrix: Matrix) -> tuple[tuple[Run, bool], ...]:
    return tuple((laid_run(run, matrix), neck) for run, neck in found)


def _finding(read: CutRead, run: Run, limit: float, count: int, *, neck: bool) -> Finding[Edit]:
    name, bears = read.film.layer.name, read.film.material.spoken
    if neck:
        said = f"Two pieces of {name} hang together by {run.mm:.2f} mm; {bears} bears {limit:g} mm."
    else:
        over = f" over {run.length_mm:.1f} mm" if run.length_mm >= limit else ""
        said = f"{name} is only {run.mm:.2f} mm wide here{over}; {bears} bears {limit:g} mm."
    here = repair(read, "Thicken it", "thicken", limit, run.at)
    every = repair(read, f"Thicken all {count}", "thicken", limit, None)
    return Finding(
        "neck" if neck else "thin-part", said, severity_of(run.mm, limit), place=place_of(run), measure=measured(run, limit),
        helps="Thicken it there, make the decal larger, or cut it from a film that bears less.",
        fixes=(here, every) if count > 1 else (here,),
    )  # fmt: skip


CHECK = CutCheck(("thin-part", "neck"), _findings, "proof", "the narrowest part that the material bears", "weeding")
