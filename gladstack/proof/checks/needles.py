"""Parts that run out into a needle, and waste that runs into a closed-in corner: the one curls up, the other stays."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.core.geometry.runs import Run
from gladstack.proof.check import CutCheck, CutRead
from gladstack.proof.finding import Finding, Fix
from gladstack.proof.narrow import first, place_of, repair
from gladstack.recipe.edit.edits import Edit
from gladstack.shop.shelf.kinds import KINDS


def _spikes(read: CutRead) -> Iterator[Finding[Edit]]:
    film, limit = read.film, read.film.material.least_part_mm
    runs = _tips(read.narrow[0], KINDS[film.material.kind].least_tip_deg)
    all_of = repair(read, f"Round all {len(runs)}", "round", limit, None)
    yield from (_spike(read, run, limit, all_of if len(runs) > 1 else None) for run in first(runs))


def _spike(read: CutRead, run: Run, limit: float, all_of: Fix[Edit] | None) -> Finding[Edit]:
    film, least = read.film, KINDS[read.film.material.kind].least_tip_deg
    fixes = (repair(read, "Round it", "round", limit, run.at), repair(read, "Thicken it", "thicken", limit, run.at))
    return Finding(
        "spike",
        f"{film.layer.name} runs out in a needle of {run.opens_deg:.0f}°, {run.length_mm:.1f} mm of it narrower than "
        f"{film.material.spoken} bears.",
        "mind",
        place=place_of(run),
        measure=Measure(round(run.opens_deg, 1), least, "deg"),
        helps="Round it off, or thicken it.",
        fixes=fixes if all_of is None else (*fixes, all_of),
    )


def _corners(read: CutRead) -> Iterator[Finding[Edit]]:
    film, limit = read.film, read.film.material.least_waste_mm
    runs = _tips(read.narrow[1], KINDS[film.material.kind].least_tip_deg)
    every = repair(read, "Fill all slits and corners", "fill", limit, None)
    yield from (_corner(read, run, limit, every if len(runs) > 1 else None) for run in first(runs))


def _corner(read: CutRead, run: Run, limit: float, every: Fix[Edit] | None) -> Finding[Edit]:
    here = repair(read, "Fill the corner", "fill", limit, run.at)
    return Finding(
        "closed-corner",
        f"The waste of {read.film.layer.name} runs into a corner of {run.opens_deg:.0f}° here, {run.length_mm:.1f} mm of it "
        f"narrower than {limit:g} mm: it tears, or stays.",
        "note",
        place=place_of(run),
        measure=Measure(round(run.opens_deg, 1), KINDS[read.film.material.kind].least_tip_deg, "deg"),
        helps="Fill it, or weed with a hook.",
        fixes=(here,) if every is None else (here, every),
    )


def _tips(runs: tuple[Run, ...], least_deg: float) -> list[Run]:
    return [run for run in runs if run.tip and run.opens_deg < least_deg]


SPIKES = CutCheck(("spike",), _spikes, "proof", "the sharpest end that a film of its kind bears", "weeding")
CORNERS = CutCheck(
    ("closed-corner",), _corners, "proof", "the sharpest corner that waste of its kind comes out of", "weeding"
)
