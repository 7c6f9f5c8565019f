"""Letters of one word that are laid apart from each other, and have to be set by hand."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding, Fix
from gladstack.shop.jobs.edits import JobEdit, SetJob


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    if read.plan.job.keeps in ("copy", "word"):
        return
    for film in read.plan.films:
        kept = {k for own in read.plan.job.kept if (own.design, own.film) == (film.design, film.film) for k in own.parts}
        loose = Counter(word for k, word in enumerate(film.words) if word is not None and k not in kept)
        letters = sum(count for count in loose.values() if count > 1)
        if film.layout != "nested" or not letters:
            continue
        yield Finding(
            "letters-apart",
            f"{letters} letters of {film.layer.name} in {film.of} lie apart from their words, each to be set by hand.",
            "mind",
            film.film,
            measure=Measure(letters, 0.0),
            fixes=(Fix("Keep words together", SetJob(together="word")),),
        )


CHECK = PlanCheck(("letters-apart",), _findings, "sheets", "the words of the design")
