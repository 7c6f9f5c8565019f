"""What a worker does for the proof of a design, and for fixes that are tried before they are made."""

from __future__ import annotations

import math
import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial
from typing import Any

from pydantic import TypeAdapter

from gladstack.api.tasks.jobs import JobWork, built_of, told_of
from gladstack.api.views.findings import FindingView
from gladstack.api.views.proof import SlippedView, WidthsView, WorseView, proof_view, slipped_view, widths_view
from gladstack.api.views.shown import finding_view
from gladstack.core.base.errors import GladStackError
from gladstack.proof.check import OnFilm
from gladstack.proof.finding import Finding
from gladstack.proof.helping import ToldPlace, eased, no_worse, still_told, worse
from gladstack.proof.on_film import on_film
from gladstack.proof.prove import proof_of, proof_of_films, proof_of_laying, proof_on_film
from gladstack.recipe.edit.edits import Edit, apply_edit
from gladstack.shop.jobs.edits import JobEdit
from gladstack.work import worker


def proof(work: JobWork) -> bytes:
    """The proof of a design on the film its own job has it cut from, as it is sent."""
    begin = time.perf_counter()
    read = _on_film(work)
    of_films, of_laying = proof_of_films(read), proof_of_laying(read)
    return proof_view(read, (*of_films, *of_laying), len(of_films), time.perf_counter() - begin).model_dump_json().encode()


def film_findings(work: JobWork) -> bytes:
    """What the proof tells of each film by itself, as it is sent."""
    return _FINDINGS.dump_json([finding_view(f) for f in proof_of_films(_on_film(work))])


def slipped(work: JobWork, film: str, slip: tuple[float, float]) -> SlippedView:
    """What a film bares that has slipped by so many mm."""
    return slipped_view(_on_film(work, math.hypot(*slip)), film, slip)


def widths(work: JobWork) -> bytes:
    """The narrow stretches of all films, as they are sent."""
    return WIDTHS.dump_json(widths_view(_on_film(work), _WIDER))


_WIDER = 2.0
"""What is up to so many times as wide as its film bears is told, so that it is seen how near it comes."""
WIDTHS = TypeAdapter(list[WidthsView])
_FINDINGS = TypeAdapter(list[FindingView])


def _on_film(work: JobWork, slip_mm: float | None = None) -> OnFilm:
    built = next(iter(built_of(work).values()))
    return on_film(built, work.job, work.shop, worker.stages(work.data), slip_mm)


def worse_after(work: JobWork, edit: Edit) -> list[WorseView]:
    """What will or may fail once an edit is made, and does not now. Raises GladStackError."""
    before = proof_on_film(_on_film(work))
    (design, recipe), *_ = work.recipes
    after = proof_on_film(_on_film(replace(work, recipes=((design, apply_edit(recipe, edit)),))))
    return [WorseView(text=one.text, severity=one.severity, more=more) for one, more in worse(before, after)[:_MOST_WORSE]]


_MOST_WORSE = 12


def helping(work: JobWork, told: ToldPlace, edits: Sequence[Edit]) -> list[bool]:
    """Which edits, each made by itself, mend what is told and make nothing worse."""
    (design, recipe), *_ = work.recipes

    def after(edit: Edit) -> Sequence[Finding[Edit]]:
        return _told_of_design(replace(work, recipes=((design, apply_edit(recipe, edit)),)))

    before = _told_of_design(work)
    return _helping(told, partial(eased, told, before), [partial(after, edit) for edit in edits])


def _told_of_design(work: JobWork) -> Sequence[Finding[Edit]]:
    read = _on_film(work)
    return (*proof_of(read.built, read.stages), *proof_on_film(read))


def helping_on_sheets(work: JobWork, told: ToldPlace, edits: Sequence[JobEdit]) -> list[bool]:
    """The same for edits of the job; the plan of each is remembered, so that it is there once it is wanted."""

    def after(edit: JobEdit) -> Sequence[Finding[JobEdit]]:
        return told_of(replace(work, job=edit.apply(work.job)))

    # Another film for one that has to be bought may be far off, which is told in its turn: that is the maker's choice.
    return _helping(told, partial(no_worse, told_of(work)), [partial(after, edit) for edit in edits])


def _helping(
    told: ToldPlace,
    is_better: Callable[[Sequence[Finding[Any]]], bool],
    tries: Sequence[Callable[[], Sequence[Finding[Any]]]],
) -> list[bool]:
    out = []
    for tried in tries:
        try:
            after = tried()
        except GladStackError:
            out.append(False)
            continue
        gone = not still_told(told.code, told.about, told.at, told.figure, after)
        out.append(gone and is_better(after))
    return out
