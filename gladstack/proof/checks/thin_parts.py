"""Parts that are narrower than their material bears: they tear in weeding, or come up with the waste."""

from __future__ import annotations

from collections.abc import Iterator

from shapely import MultiPolygon

from gladstack.core.geometry.runs import Run
from gladstack.proof.check import CutCheck, CutRead
from gladstack.proof.finding import Finding, Fix
from gladstack.proof.narrow import first, measured, place_of, repair, severity_of, tiny_width, too_narrow
from gladstack.recipe.edit.edits import Edit

_SHORT = 2.0
_LARGE = 3.0


def _findings(read: CutRead) -> Iterator[Finding[Edit]]:
    limit = read.film.material.least_part_mm
    tiny = read.found(tiny_parts, limit).value
    # Parts that are narrow all over, and no longer than a few widths, are told as tiny.
    runs = [run for run in too_narrow(read.narrow[0], limit) if not run.tip and run.part not in tiny]
    every = (repair(read, f"Thicken all {len(runs)}", "thicken", limit, None),) if len(runs) > 1 else ()
    yield from (_finding(read, run, limit, every) for run in first(runs))


def tiny_parts(cut: MultiPolygon, limit: float) -> tuple[int, ...]:
    """The numbers of the parts that are tiny."""
    return tuple(k for k, part in enumerate(cut.geoms) if tiny_width(part, limit) is not None)


def is_neck(run: Run, limit: float) -> bool:
    """Whether two large pieces hang together by a stretch that is narrow."""
    return run.length_mm < _SHORT * limit and run.beyond_mm2 > (_LARGE * limit) ** 2


def _finding(read: CutRead, run: Run, limit: float, every: tuple[Fix[Edit], ...]) -> Finding[Edit]:
    name, bears, neck = read.film.layer.name, read.film.material.spoken, is_neck(run, limit)
    if neck:
        said = f"Two pieces of {name} hang together by {run.mm:.2f} mm; {bears} bears {limit:g} mm."
    else:
        over = f" over {run.length_mm:.1f} mm" if run.length_mm >= limit else ""
        said = f"{name} is only {run.mm:.2f} mm wide here{over}; {bears} bears {limit:g} mm."
    here = repair(read, "Thicken it", "thicken", limit, run.at)
    return Finding(
        "neck" if neck else "thin-part", said, severity_of(run.mm, limit), place=place_of(run), measure=measured(run, limit),
        helps="Thicken it there, make the decal larger, or cut it from a film that bears less.",
        fixes=(here, *every),
    )  # fmt: skip


CHECK = CutCheck(("thin-part", "neck"), _findings, "proof", "the narrowest part that the material bears", "weeding")
