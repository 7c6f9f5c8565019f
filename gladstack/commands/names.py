"""A list of names for a design: every row built, laid as a job, and written."""

from __future__ import annotations

import argparse
import codecs
import json
import multiprocessing
import os
import sys
import time
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from multiprocessing.pool import Pool
from pathlib import Path

from gladstack.commands.build import from_recipe, write_all
from gladstack.commands.jobs import formats_of, shop_of
from gladstack.core.write.pdf import pdf
from gladstack.proof.prove import proof_of_plan
from gladstack.recipe.art.fields import fields_of, usual_fit
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.fonts import page_type
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.files.job_files import plan_files, stack_file
from gladstack.shop.jobs.names import CheckedRow, NamesError, checked, decoded, names_job, read_rows
from gladstack.shop.papers.job_pages import job_pages
from gladstack.shop.papers.job_sheet import job_sheet
from gladstack.shop.plan.plan import plan
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo

_MEMO: Memo | None = None


def names(options: argparse.Namespace) -> int:
    """Reads a list, builds every row of it, lays all names on film, and writes sheets, job sheet and names.json."""
    recipe, held = from_recipe(options.source)
    rows = read_rows(_text(options.csv.read_bytes(), options.encoding), list(fields_of(recipe)))
    assets = Assets(picture=held.__getitem__, file=held.__getitem__)
    begin = time.perf_counter()
    found = checked(recipe, rows, [options.fit or usual_fit(recipe)] * len(rows), assets, Stages(Memo()))
    good = [(row, made) for row, made in found if row.problem not in ("empty", "glyph")]
    job = names_job(f"{recipe.name[:100]}: names", _key(options.source), None, [row for row, _ in good])
    first: float | None = None
    designs: dict[str, Built] = {}
    for one, made in zip(job.designs, built_all([r for _, r in good], held, options.processes), strict=True):
        designs[one.design] = made
        if first is None:
            first = time.perf_counter() - begin
        if sys.stderr.isatty():
            print(f"\r{len(designs)} of {len(good)}", end="", file=sys.stderr)
    built_s = time.perf_counter() - begin
    made_plan = plan(job, designs, shop_of(options.data), max(0, options.seconds))
    of_plan = proof_of_plan(made_plan, designs)
    files = plan_files(made_plan, of_plan, time.perf_counter() - begin, formats_of(options.formats), "film")
    pages = job_pages(job_sheet(made_plan, designs, of_plan), page_type())
    files["job-sheet.pdf"] = pdf(pages, page_type(), f"{job.name}: job sheet")
    by_row = {row.number: one for (row, _), one in zip(good, job.designs, strict=True)}
    for number, one in by_row.items():
        files[f"rows/{number + 1:03d}.svg"] = stack_file(designs[one.design]).encode()
    told = {
        "rows": [_row_json(row, by_row) for row, _ in found],
        "first_s": round(first or 0.0, 3),
        "built_s": round(built_s, 3),
    }
    files["names.json"] = (json.dumps(told, indent=1, ensure_ascii=False) + "\n").encode()
    write_all(options.out, files)
    for row, _ in found:
        if row.problem:
            print(f"gladstack: row {row.number + 1}: {row.told}", file=sys.stderr)
    print(f"{len(good)} of {len(found)} names on {len(made_plan.sheets)} sheets in {options.out} ({built_s:.2f} s)")
    return 0


def _text(data: bytes, encoding: str | None) -> str:
    """The text of a list, in the encoding given or the likeliest one, which is told. Raises NamesError."""
    found = decoded(data)
    if encoding is not None:
        found = [one for one in found if codecs.lookup(one.encoding).name == encoding]
        if not found:
            raise NamesError(f"The list cannot be read as {encoding}.", "Choose another encoding, or leave it out.")
    elif len(found) > 1:
        others = ", ".join(one.encoding for one in found[1:4])
        print(f"gladstack: note: the list was read as {found[0].name}; choose with --encoding ({others})", file=sys.stderr)
    return found[0].text


def built_all(recipes: Sequence[Recipe], held: Mapping[str, bytes], processes: int | None = None) -> Iterator[Built]:
    """All rows built, on as many cores as there are; each process remembers what its rows share."""
    count = min(len(recipes) - 1, processes or os.cpu_count() or 1)
    # The first is built here, while the other processes begin, so that it can be looked at soon.
    _begin(held)
    with ThreadPoolExecutor(1) as aside:
        begun = aside.submit(_pool, count, held) if count > 1 else None
        yield _built(recipes[0])
        if begun is None:
            yield from map(_built, recipes[1:])
            return
        with begun.result() as pool:
            # Ending the loop early ends the processes with it.
            yield from pool.imap(_built, recipes[1:], 4)


def _pool(count: int, held: Mapping[str, bytes]) -> Pool:
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(["gladstack.work.preload"])
    return context.Pool(count, _begin, (dict(held),))


_HELD: Mapping[str, bytes] = {}


def _begin(held: Mapping[str, bytes]) -> None:
    global _MEMO, _HELD
    _MEMO, _HELD = Memo(), held


def _built(recipe: Recipe) -> Built:
    return build(recipe, Assets(picture=_HELD.__getitem__, file=_HELD.__getitem__), _MEMO)


def _row_json(row: CheckedRow, by_row: Mapping[int, object]) -> dict[str, object]:
    return {
        "row": row.number + 1,
        "values": dict(row.row.values),
        "copies": row.row.copies,
        "fit": row.fit,
        "problem": row.problem,
        "told": row.told,
        "width_mm": round(row.width_mm, 3),
        "room_mm": round(row.room_mm, 3),
        "cut": row.number in by_row,
    }


def _key(source: Path) -> str:
    return "".join(c if c.isascii() and c.isalnum() else "-" for c in source.stem)[:50] or "design"
