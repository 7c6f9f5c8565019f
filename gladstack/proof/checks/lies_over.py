"""Materials that do not hold on what they lie over in a design, and more films on one another than any of them bears."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.proof.other_film import another
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.wanted import WantedFilm
from gladstack.shop.shelf.materials import Material

_FIXES = 3


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    for design, built in read.designs.items():
        by_film = {f.film: f for f in read.plan.films if f.design == design}
        pairs = [
            (by_film.get(built.layers[j.lower].film), by_film.get(built.layers[j.upper].film))
            for j in built.joints
            if j.joint.kind in _OVER
        ]
        held = [(lower, upper) for lower, upper in pairs if lower and upper]
        for lower, upper in held:
            if upper.material.may_lie_over(lower.material):
                continue
            mended = [
                *(another(read, upper, n.material) for n in upper.nearest if _fits(upper, n.material, held)),
                *(another(read, lower, n.material) for n in lower.nearest if _fits(lower, n.material, held)),
            ]
            yield Finding(
                "lies-over",
                f"{upper.material.name} does not hold on {lower.material.name}, as {upper.layer.name} lies over "
                f"{lower.layer.name} in {upper.of}.",
                "stop",
                upper.film,
                helps="Choose another film for one of them, lay them edge to edge, or change their order.",
                fixes=tuple(mended[:_FIXES]),
            )
        films = list(by_film.values())
        most = max((f.material.most for f in films), default=0)
        if films and built.max_thickness > most:
            yield Finding(
                "too-many-films",
                f"In {films[0].of} {built.max_thickness} films lie on one another, and its materials bear {most}.",
                "mind",
                films[-1].film,
                measure=Measure(built.max_thickness, most),
                helps="Lay more of them edge to edge.",
            )


_OVER = ("lap", "full")


def _fits(film: WantedFilm, material: Material, held: list[tuple[WantedFilm, WantedFilm]]) -> bool:
    """Whether a film, cut from another material, holds on all that lies under it, and bears all that lies on it."""
    under = [lower.material for lower, upper in held if upper is film]
    over = [upper.material for lower, upper in held if lower is film]
    return all(material.may_lie_over(m) for m in under) and all(m.may_lie_over(material) for m in over)


CHECK = PlanCheck(("lies-over", "too-many-films"), _findings, "sheets", "the materials")
