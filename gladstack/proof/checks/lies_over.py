"""Materials that do not hold on what they lie over in a design, and more films on one another than any of them bears."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.proof.other_film import another
from gladstack.recipe.build.measured import most_films
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.wanted import WantedFilm
from gladstack.shop.shelf.materials import Material

_FIXES = 3


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    for design, built in read.designs.items():
        by_film = {f.film: f for f in read.plan.films_of(design)}
        pairs = [
            (by_film.get(built.layers[j.lower].film), by_film.get(built.layers[j.upper].film))
            for j in built.joints
            if j.joint.kind in _OVER
        ]
        held = [(lower, upper) for lower, upper in pairs if lower and upper]
        for lower in {id(lower): lower for lower, _ in held}.values():
            wrong = [up for low, up in held if low is lower and not up.material.may_lie_over(lower.material)]
            if not wrong:
                continue
            mended = [
                *(another(read, lower, n.material) for n in lower.nearest if _fits(lower, n.material, held)),
                *(another(read, wrong[0], n.material) for n in wrong[0].nearest if _fits(wrong[0], n.material, held)),
            ]
            more = len(wrong) > 1
            yield Finding(
                "lies-over",
                f"{_listed([up.material.name for up in wrong])} {'do' if more else 'does'} not hold on "
                f"{lower.material.name}, as {_listed([up.layer.name for up in wrong])} {'lie' if more else 'lies'} over "
                f"{lower.layer.name} in {lower.of}.",
                "stop",
                lower.film,
                helps="Choose another film, lay them edge to edge, or change their order.",
                fixes=tuple(mended[:_FIXES] if not more else mended[: min(_FIXES, _own(lower, held))]),
            )
        films = list(by_film.values())
        most = max((f.material.most for f in films), default=0)
        if films and len(built.layers) > most and (on_one_another := most_films(built, read.stages, most)) > most:
            yield Finding(
                "too-many-films",
                f"In {films[0].of} {on_one_another} films lie on one another, and its materials bear {most}.",
                "mind",
                films[-1].film,
                measure=Measure(on_one_another, most),
                helps="Lay more of them edge to edge.",
            )


_OVER = ("lap", "full")


def _listed(names: list[str]) -> str:
    names = list(dict.fromkeys(names))
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def _own(lower: WantedFilm, held: list[tuple[WantedFilm, WantedFilm]]) -> int:
    """How many other materials mend all of it at once: those of the film below."""
    return sum(_fits(lower, n.material, held) for n in lower.nearest)


def _fits(film: WantedFilm, material: Material, held: list[tuple[WantedFilm, WantedFilm]]) -> bool:
    """Whether a film, cut from another material, holds on all that lies under it, and bears all that lies on it."""
    under = [lower.material for lower, upper in held if upper is film]
    over = [upper.material for lower, upper in held if lower is film]
    return all(material.may_lie_over(m) for m in under) and all(m.may_lie_over(material) for m in over)


CHECK = PlanCheck(("lies-over", "too-many-films"), _findings, "sheets", "the materials", when="laying")
