"""What mends a film that is cut from the wrong material: another one."""

from __future__ import annotations

from gladstack.proof.check import PlanRead
from gladstack.proof.finding import Fix
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.edits import JobEdit, SetJobFilm
from gladstack.shop.jobs.job import JobFilm
from gladstack.shop.plan.wanted import MATCH, WantedFilm
from gladstack.shop.shelf.materials import ANY, Material


def another(read: PlanRead, film: WantedFilm, material: Material) -> Fix[JobEdit]:
    """Cuts a film from another material."""
    return Fix(
        f"Cut {film.layer.name} from {material.name}", SetJobFilm(film=changed(_now(read, film), material=material.id))
    )


def any_of_its_colour(read: PlanRead, film: WantedFilm) -> Fix[JobEdit]:
    """Cuts a film from any film of its colour, which is to be got."""
    return Fix(f"Buy film in the colour of {film.layer.name}", SetJobFilm(film=changed(_now(read, film), material=ANY)))


def nearer(film: WantedFilm, most: int = 3) -> list[Material]:
    """What the shelf offers that is of its colour."""
    return [n.material for n in film.nearest if n.delta_e <= MATCH and n.material.id != film.material.id][:most]


def _now(read: PlanRead, film: WantedFilm) -> JobFilm:
    found = read.plan.job.film(film.design, film.film)
    return changed(found, design=film.design, film=film.film)
