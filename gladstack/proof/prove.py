"""The proof of a design and of a plan: every check asked, in its order."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import TypeVar

from gladstack.proof.check import ArtRead, Check, FilmRead, OnFilm, PlanRead, StackRead
from gladstack.proof.finding import USUALLY, E, Finding
from gladstack.proof.registry import ART_CHECKS, CUT_CHECKS, FILM_CHECKS, ON_FILM_CHECKS, PLAN_CHECKS, STACK_CHECKS
from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.edits import Edit
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.planned import Plan
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo

R = TypeVar("R")


def proof_of(built: Built, stages: Stages | None = None) -> tuple[Finding[Edit], ...]:
    """All that is told of a design: of its art, its stack and its films. `stages` only save time."""
    stages = stages or Stages(Memo())
    arts = {art.id: art for art in built.recipe.arts}
    names = {layer.film: layer.name for layer in built.layers}
    reads = [ArtRead(arts[pieces.id], pieces, stages, names) for pieces in built.arts]
    stack = StackRead(built, stages)
    films = [FilmRead(layer, built, stages) for layer in built.layers]
    return (
        *(f for read in reads for check in ART_CHECKS for f in _asked(check, read, read.art.id)),
        *(f for check in STACK_CHECKS for f in _asked(check, stack, None)),
        *(f for check in FILM_CHECKS for read in films for f in _asked(check, read, read.layer.film)),
    )


def proof_on_film(on_film: OnFilm) -> tuple[Finding[Edit], ...]:
    """All that is told of a stack for the films it is cut from: first of each film by itself."""
    return (*proof_of_films(on_film), *proof_of_laying(on_film))


def proof_of_films(on_film: OnFilm) -> tuple[Finding[Edit], ...]:
    """What is told of each film by itself for what it is cut from, which takes less than to ask how they lie."""
    return tuple(f for check in CUT_CHECKS for read in on_film.reads for f in _asked(check, read, read.film.film))


def proof_of_laying(on_film: OnFilm) -> tuple[Finding[Edit], ...]:
    """What is told of how the films lie on one another."""
    return tuple(f for check in ON_FILM_CHECKS for f in _asked(check, on_film, None))


def proof_of_plan(plan: Plan, designs: Mapping[str, Built], stages: Stages | None = None) -> tuple[Finding[JobEdit], ...]:
    """All that is told of a plan of a job on film. `stages` only save time."""
    read = PlanRead(plan, designs, stages or Stages(Memo()))
    return tuple(f for check in PLAN_CHECKS for f in _asked(check, read, None))


def _asked(check: Check[R, E], read: R, about: str | None) -> Iterator[Finding[E]]:
    for found in check.findings(read):
        assert found.code in check.codes, f"{found.code} is none of {check.codes}"
        measure = found.measure and replace(found.measure, limit_from=check.limit_from)
        yield replace(
            found, beside=check.beside, when=check.when or USUALLY[check.beside], about=found.about or about, measure=measure
        )
