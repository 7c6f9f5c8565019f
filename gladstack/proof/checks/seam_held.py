"""Seams that do not lie where they were put, for a tile would not fit on the film."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding, Fix
from gladstack.shop.jobs.edits import FreeSeams, JobEdit, PlaceSeam
from gladstack.shop.plan.register import SeamHeld


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    told: set[SeamHeld] = set()
    for (design, film), register in read.plan.registers.items():
        of = next(f for f in read.plan.films if f.design == design)
        for held in register.held:
            if held in told:
                continue
            told.add(held)
            seam = held.wanted
            side = "from the top" if seam.axis == "y" else "from the left"
            edge = of.frame[1] if seam.axis == "y" else of.frame[0]
            name = f"Seam {seam.index + 1} {side} of {of.of}"
            if held.at_mm is None:
                yield Finding(
                    "seam-held",
                    f"{name} was put by hand, and {of.of} is divided otherwise now: its seams have found their own places.",
                    "mind",
                    film,
                    fixes=(Fix("Leave the seams to find their places", FreeSeams(design=design)),),
                )
                continue
            asked = (seam.at_mm or 0.0) - edge
            now = PlaceSeam(
                design=design, film=seam.film, axis=seam.axis, index=seam.index, at_mm=held.at_mm, of=seam.of,
                overlap_mm=seam.overlap_mm,
            )  # fmt: skip
            yield Finding(
                "seam-held",
                f"{name} cannot lie at {asked:.1f} mm: a tile would not fit on the film, or be too narrow. It lies at the "
                f"nearest place where all fit, {held.at_mm - edge:.1f} mm.",
                "mind",
                film,
                fixes=(
                    Fix("Take this place", now),
                    Fix("Let it find its place", PlaceSeam(design=design, film=seam.film, axis=seam.axis, index=seam.index)),
                ),
            )


CHECK = PlanCheck(("seam-held",), _findings, "sheets", "the film and the cutter")
