"""What workers do for jobs: plans drawn, laid closer, put by hand, written."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping
from dataclasses import dataclass, replace
from pathlib import Path

from gladstack.api.tasks import designs as design_tasks
from gladstack.api.views.costs import costs_view
from gladstack.api.views.plans import plan_view
from gladstack.core.base.findings import Told
from gladstack.core.plan.laying import Spot
from gladstack.core.write.pages import Page, page_svg
from gladstack.core.write.pdf import Paper, pdf
from gladstack.proof.finding import Finding
from gladstack.proof.on_film import on_film
from gladstack.proof.prove import proof_of, proof_of_plan, proof_on_film
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.fonts import page_type
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.cut.cutting import CutRun, SheetCut, begun
from gladstack.shop.files.job_files import decal_files, plan_files
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.jobs.job import Job, LaidPart, Layout
from gladstack.shop.jobs.names import filled_for
from gladstack.shop.papers.costs import costs_of, one_of
from gladstack.shop.papers.job_pages import PageSize, job_pages
from gladstack.shop.papers.job_sheet import job_sheet
from gladstack.shop.plan.by_hand import Put, pin_part, put_part
from gladstack.shop.plan.had import Had, as_had
from gladstack.shop.plan.plan import plan
from gladstack.shop.plan.planned import Plan
from gladstack.shop.plan.wanted import items_of, require_few
from gladstack.shop.shelf.formats import Format
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Gain, Use
from gladstack.stages.memo import key_of, worked_out
from gladstack.work import worker

_ZIP_DATE = (2000, 1, 1, 0, 0, 0)


@dataclass(frozen=True)
class JobWork:
    """A job to be worked on: its designs' recipes, and the shop as it stands."""

    data: Path
    id: str
    revision: int
    job: Job
    recipes: tuple[tuple[str, Recipe], ...]
    shop: Shop


MANY = 20
"""A job of more designs than this is given more time."""
SLICE = 2
"""How many designs of a job are built at a time."""


def sources(work: JobWork) -> list[design_tasks.DesignWork]:
    """The recipes that a job's designs come from, each once: a list of names has the same many times over."""
    return [
        design_tasks.DesignWork(work.data, recipe) for recipe in {id(recipe): recipe for _, recipe in work.recipes}.values()
    ]


def slices(work: JobWork) -> list[JobWork]:
    """The designs that are worth building ahead, those with words of their own, as jobs of some each."""
    named, recipes = [d for d in work.job.designs if d.words], dict(work.recipes)
    some = [tuple(named[k : k + SLICE]) for k in range(0, len(named), SLICE)]
    return [
        replace(
            work, job=work.job.model_copy(update={"designs": own}), recipes=tuple((d.design, recipes[d.design]) for d in own)
        )
        for own in some
    ]


def build_slice(work: JobWork) -> dict[str, dict[str, int]]:
    """Builds a job's designs, which are kept; how many parts each of their films has."""
    return {of: {film.film: len(film.outline.parts) for film in one.layers} for of, one in built_of(work).items()}


class PartTally:
    """The parts of a job counted while its designs are built, so that it is refused before all of them are."""

    def __init__(self, job: Job) -> None:
        self._job = job
        self._copies = {d.design: d.copies for d in job.designs}
        self._counts: dict[Layout, int] = {}

    def add(self, parts: Mapping[str, Mapping[str, int]]) -> None:
        """Adds the parts of some designs' films. Raises RecipeError if they are too many."""
        for design, films in parts.items():
            for film, count in films.items():
                layout = self._job.layout_of(design, film)
                own = self._copies[design] * items_of(self._job, layout, count)
                self._counts[layout] = self._counts.get(layout, 0) + own
        require_few(self._counts)


def view(work: JobWork) -> bytes:
    """The plan as the screen takes it. That of many designs is kept, for it may take a minute."""

    def shown() -> bytes:
        single = one_of(work.job)
        alone = planned(replace(work, job=single)) if single else None
        costs = costs_view(costs_of(planned(work), work.shop.rates, alone), work.shop.rates.currency)
        return plan_view(work.id, work.revision, costs, planned(work), told_of(work)).model_dump_json().encode()

    if len(work.recipes) <= MANY:
        return shown()
    key = key_of("shown", work.id, work.revision, work.shop.rates, _plan_key(work))
    return worker.memo(work.data).get(key, shown, costly=True)


def closer(work: JobWork, seconds: int) -> tuple[tuple[LaidPart, ...], float, float]:
    """Where nested parts lie after looking for so long, and the film used before and after; the shorter of both is given."""
    loose = work.job.model_copy(update={"laid": tuple(p for p in work.job.laid if p.pinned)})
    before = planned(work)
    after = plan(loose, built_of(work), work.shop, seconds, worker.give_up_if_unwanted)
    old, new = (sum(s.length_used_mm for s in p.sheets) for p in (before, after))
    return (after.laid, old, new) if new < old - 0.05 else (before.laid, old, old)


def put(work: JobWork, which: LaidPart, spot: tuple[float, float, float]) -> Put:
    """A part put by hand."""
    return put_part(planned(work), which, Spot(*spot))


def pin(work: JobWork, which: LaidPart, pinned: bool) -> tuple[LaidPart, ...]:
    """A part pinned or let go."""
    return pin_part(planned(work), which, pinned=pinned)


def uses(work: JobWork) -> tuple[tuple[Use, ...], tuple[Gain, ...]]:
    """What cutting the job takes off the shelf and leaves."""
    made = planned(work)
    return tuple(s.use for s in made.sheets if s.kept_on_shelf), tuple(
        g for s in made.sheets if s.kept_on_shelf for g in s.gains
    )


def cut_sheets(work: JobWork) -> tuple[CutRun, list[SheetCut]]:
    """What cutting each sheet needs."""
    return begun(planned(work).sheets, work.job.keep_offcuts_mm)


def job_sheet_pages(work: JobWork, paper: PageSize) -> list[str]:
    """The job sheet's pages as SVG."""
    return [page_svg(page, f"page{k}") for k, page in enumerate(_pages(work, paper))]


def job_sheet_pdf(work: JobWork, paper: PageSize) -> bytes:
    """The job sheet as PDF."""
    return pdf(_pages(work, paper), page_type(), f"{work.job.name}: job sheet")


def _pages(work: JobWork, paper: PageSize) -> list[Page]:
    return job_pages(
        job_sheet(planned(work), built_of(work), (*told_of(work), *unmended(work)), work.shop.rates), page_type(), paper
    )


def files(work: JobWork, formats: tuple[Format, ...], paper: Paper, sheets: tuple[int, ...]) -> bytes:
    """Sheets (all, or those of some numbers), plan.json, the decals and the order of assembly as a ZIP."""
    built, whole = built_of(work), planned(work)
    some = replace(whole, sheets=tuple(s for s in whole.sheets if not sheets or s.number in sheets))
    told = told_of(work)
    made = plan_files(some, told, 0.0, formats, paper)
    if not sheets:
        pages = _pages(work, "Letter" if paper == "Letter" else "A4")
        stages = worker.stages(work.data)
        of_designs = [found for d in work.job.designs for found in proof_of(built[d.design], stages)]
        made |= decal_files(whole, built, (*of_designs, *told), formats)
        made["job-sheet.pdf"] = pdf(pages, page_type(), f"{work.job.name}: job sheet")
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, data in sorted(made.items()):
            archive.writestr(zipfile.ZipInfo(path, _ZIP_DATE), data, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def had(work: JobWork, art: str) -> tuple[Had, ...]:
    """What the films of a picture of the job's first design become if only films of the shelf are taken."""
    return as_had(next(iter(built_of(work).values())), art, work.shop)


def planned(work: JobWork) -> Plan:
    """The plan, remembered for the job, designs and shop that it follows from."""
    return _proved_plan(work)[0]


def told_of(work: JobWork) -> tuple[Finding[JobEdit], ...]:
    """What is told of the plan."""
    return _proved_plan(work)[1]


def _proved_plan(work: JobWork) -> tuple[Plan, tuple[Finding[JobEdit], ...]]:
    """The plan and what is told of it: remembered as one, or the one would be forgotten for the other where it is large."""

    def proved() -> tuple[Plan, tuple[Finding[JobEdit], ...]]:
        built = built_of(work)
        made = plan(work.job, built, work.shop, 0, worker.give_up_if_unwanted)
        return made, proof_of_plan(made, built, worker.stages(work.data))

    return worker.memo(work.data).get(key_of("plan", _plan_key(work)), proved)


_MOST_PROVED = 6


def unmended(work: JobWork) -> tuple[Told, ...]:
    """What will or may fail of a job's designs on their film: of each kind and film the gravest, and how many more."""
    stages, out = worker.stages(work.data), []
    for design, built in list(built_of(work).items())[:_MOST_PROVED]:
        own = work.job.model_copy(update={"designs": tuple(d for d in work.job.designs if d.design == design)})
        groups: dict[tuple[str, str | None], list[Finding[Edit]]] = {}
        for found in proof_on_film(on_film(built, own, work.shop, stages)):
            if found.severity != "note":
                groups.setdefault((found.code, found.about), []).append(found)
        for alike in groups.values():
            first = min(alike, key=lambda one: one.severity != "stop")
            more = f" ({len(alike) - 1} more like it)" if len(alike) > 1 else ""
            out.append(replace(first, text=f"{first.text}{more}", helps=""))
    return tuple(out)


def _plan_key(work: JobWork) -> str:
    return key_of(work.job, work.recipes, work.shop.materials, work.shop.cutters, work.shop.pieces)


def built_of(work: JobWork) -> dict[str, Built]:
    """The designs of a job built. Those with words of their own are kept: there may be hundreds."""
    memo = worker.memo(work.data)
    assets, stages = worker.assets(work.data, {}), worker.stages(work.data)
    entries = {d.design: d for d in work.job.designs}
    keys: dict[int, str] = {}

    def one(design: str, recipe: Recipe) -> Built:
        entry = entries[design]
        if not entry.words:
            return build(recipe, assets, memo, worker.give_up_if_unwanted)
        source = keys.setdefault(id(recipe), key_of(recipe))

        def filled() -> Built:
            recipe_of = filled_for(recipe, entry, assets, stages)
            return worked_out(build(recipe_of, assets, memo, worker.give_up_if_unwanted))

        return memo.get(key_of("with its words", source, entry.words), filled, costly=True)

    return {design: one(design, recipe) for design, recipe in work.recipes}
