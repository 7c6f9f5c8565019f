"""A design on the film it is to be cut from: what its proof reads."""

from __future__ import annotations

from gladstack.proof.check import OnFilm
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.uses import USES
from gladstack.shop.jobs.job import Job
from gladstack.shop.plan.wanted import wanted_films
from gladstack.shop.shelf.shelf import Shop
from gladstack.stages.engine import Stages

MARKED_SLIP_MM = 0.25
"""With registration marks on its films a hand slips by no more."""


def on_film(built: Built, job: Job, shop: Shop, stages: Stages, slip_mm: float | None = None) -> OnFilm:
    """A design as a job of it alone wants it cut. Raises GladStackError where there is nothing to cut."""
    design = job.designs[0].design
    films = tuple(f for f in wanted_films(job, {d.design: built for d in job.designs}, shop) if f.design == design)
    usual = USES[built.recipe.use].slip_mm
    if slip_mm is None:
        slip_mm = min(usual, MARKED_SLIP_MM) if job.marks.count and all(f.marked for f in films) else usual
    return OnFilm(built, films, shop.cutter(job.cutter), slip_mm, stages)
