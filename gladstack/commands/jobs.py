"""Laying jobs and writing their files."""

from __future__ import annotations

import argparse
import sys
import time
from collections.abc import Mapping
from pathlib import Path

from gladstack.commands.build import from_picture, from_recipe, write_all
from gladstack.core.base.errors import RecipeError
from gladstack.core.write.pdf import pdf
from gladstack.demo.shelf import demo_shop
from gladstack.proof.prove import proof_of, proof_of_plan
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.fonts import page_type
from gladstack.shop.files.job_files import decal_files, plan_files
from gladstack.shop.jobs.job import Job, JobDesign
from gladstack.shop.jobs.read_job import is_job, read_job
from gladstack.shop.papers.job_pages import job_pages
from gladstack.shop.papers.job_sheet import job_sheet as sheet_of
from gladstack.shop.plan.plan import plan as lay
from gladstack.shop.plan.planned import Plan
from gladstack.shop.shelf.formats import Format
from gladstack.shop.shelf.shelf import Shop
from gladstack.stages.memo import Memo
from gladstack.store.database import DESIGNS, Database, StoreError
from gladstack.store.shelf import Shelf


def plan(options: argparse.Namespace) -> int:
    """Lays a job, or a job of one design, on the film of the demo shelf, and writes its files."""
    begin = time.perf_counter()
    made, designs = laid(options)
    spent = time.perf_counter() - begin
    told = proof_of_plan(made, designs)
    every = (*(found for d in made.job.designs for found in proof_of(designs[d.design])), *told)
    formats = formats_of(options.formats)
    files = plan_files(made, told, spent, formats, options.paper) | decal_files(made, designs, every, formats)
    write_all(options.out, files)
    for found in told:
        print(f"gladstack: {found.severity}: {found.text} {found.helps}".rstrip(), file=sys.stderr)
    used = sum(s.length_used_mm for s in made.sheets)
    print(f"{len(made.sheets)} sheets, {used:.0f} mm of film in {options.out} ({spent:.2f} s)")
    return 0


def job_sheet(options: argparse.Namespace) -> int:
    """Lays a job and writes its job sheet as PDF."""
    made, designs = laid(options)
    pages = job_pages(sheet_of(made, designs, proof_of_plan(made, designs)), page_type(), options.paper)
    options.out.parent.mkdir(parents=True, exist_ok=True)
    options.out.write_bytes(pdf(pages, page_type(), f"{made.job.name}: job sheet"))
    print(f"{len(pages)} pages in {options.out}")
    return 0


def laid(options: argparse.Namespace) -> tuple[Plan, Mapping[str, Built]]:
    """The plan of a source as the options want it, and its designs."""
    source: Path = options.source
    if source.suffix.lower() == ".json" and is_job(text := source.read_text(encoding="utf-8")):
        job, files = read_job(text, source.parent)
    else:
        key = "".join(c if c.isascii() and c.isalnum() else "-" for c in source.stem)[:60] or "design"
        job = Job(name=source.stem[:120] or "Job", designs=(JobDesign(design=key, name=source.stem[:120] or "Design"),))
        files = {key: source}
    changes: dict[str, object] = {}
    if options.copies is not None:
        changes["designs"] = tuple(d.model_copy(update={"copies": options.copies}) for d in job.designs)
    if options.nest:
        changes["layout"] = "nested"
    if options.cutter:
        changes["cutter"] = options.cutter
    job = Job.model_validate({**job.model_dump(), **{k: _dumped(v) for k, v in changes.items()}})
    memo = Memo()
    designs = {}
    for key, path in files.items():
        recipe, held = from_recipe(path) if path.suffix.lower() == ".json" else from_picture(path, options)
        designs[key] = build(recipe, Assets(picture=held.__getitem__, file=held.__getitem__), memo)
    nested = job.layout == "nested" or any(f.layout == "nested" for f in job.films)
    seconds = options.seconds if options.seconds is not None else (10 if nested else 0)
    return lay(job, designs, shop_of(options.data), max(0, seconds)), designs


def shop_of(folder: Path | None) -> Shop:
    """The shelf of a folder of designs, or the demo's. Raises StoreError."""
    if folder is None:
        return demo_shop()
    if not (folder / DESIGNS).is_file():
        raise StoreError(f"There are no designs in {folder}, and so no shelf.", "Name the folder that is served.")
    return Shelf(Database(folder / DESIGNS)).shop()


def formats_of(text: str) -> list[Format]:
    """The formats that a list of names means. Raises GladStackError."""
    named = [name.strip().lower() for name in text.split(",") if name.strip()]
    if wrong := [name for name in named if name not in set(Format)]:
        raise RecipeError(f"“{wrong[0]}” is not a format.", f"Choose from {', '.join(Format)}.")
    return [Format(name) for name in dict.fromkeys(named)]


def _dumped(value: object) -> object:
    return [v.model_dump() for v in value] if isinstance(value, tuple) else value
