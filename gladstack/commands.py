"""What the commands do."""

from __future__ import annotations

import argparse
import hashlib
import os
import shutil
import sys
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

import shapely
from pydantic import ValidationError

from gladstack.core.base.errors import GladStackError, LengthError, RecipeError
from gladstack.core.base.units import parse_length, parse_size
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.vectors import is_vector, picture_within
from gladstack.recipe.art.written import read_recipe
from gladstack.recipe.build.build import build
from gladstack.recipe.model.arts import PictureArt, Separation, VectorArt
from gladstack.recipe.model.recipe import JointRule, Recipe, SheetChoice
from gladstack.shop.files import pack_files
from gladstack.shop.sheets import plan
from gladstack.stages.memo import Memo

if TYPE_CHECKING:
    from gladstack.shop.formats import Format

FULL_LAP_MM = 0.4


def run(options: argparse.Namespace) -> int:
    """Runs the command of some options; returns its exit code: 0 done, 2 the input was wrong."""
    command = {"build": _build, "plan": _plan, "serve": _serve, "warm": _warm}[options.command]
    return _told(lambda: command(options))


def _told(work: Callable[[], int]) -> int:
    """Does a piece of work; what goes wrong is told in one line."""
    try:
        return work()
    except ValidationError as fault:
        first = fault.errors()[0]
        where = " ".join(str(part) for part in first["loc"])
        return _fail(f"{where}: {first['msg']}")
    except GladStackError as fault:
        return _fail(str(fault))
    except OSError as fault:
        return _fail(f"{fault.filename or 'File'}: {fault.strerror or fault}")
    except (UnicodeDecodeError, RecursionError):
        return _fail("The file is not text that can be read. Give a picture, a vector file or a recipe.")
    except (MemoryError, shapely.GEOSException) as fault:
        return _fail(f"This asks for too much ({type(fault).__name__}). Bring in a smaller or simpler file.")


def _fail(text: str) -> int:
    print(f"gladstack: {' '.join(text.split())}", file=sys.stderr)
    return 2


def parse_joint(text: str) -> JointRule:
    """The joint that `butt`, `full`, `lap:0.4mm` or `gap:1mm` means. Raises LengthError."""
    kind, _, length = text.strip().lower().partition(":")
    if kind == "butt" and not length:
        return JointRule(kind="butt", mm=0.0)
    if kind == "full":
        return JointRule(kind="full", mm=parse_length(length) if length else FULL_LAP_MM)
    if kind == "lap" and length:
        return JointRule(kind="lap", mm=parse_length(length))
    if kind == "gap" and length:
        return JointRule(kind="gap", mm=parse_length(length))
    raise LengthError(f"“{text}” is not a joint.", "Write butt, full, lap:0.4mm or gap:1mm.")


def _count(text: str) -> int | None:
    if text.strip().lower() == "auto":
        return None
    if not text.strip().isdigit() or int(text) < 1:
        raise LengthError(f"“{text}” is not a number of colours.", "Write a whole number from 1, or auto.")
    return int(text)


def _build(options: argparse.Namespace) -> int:
    """Builds every source; one that cannot be built is told of, and the others are built all the same."""
    sources: list[Path] = options.source
    if len(sources) == 1:
        return _build_one(sources[0], options.out, options)
    stems = [source.stem for source in sources]
    if len(set(stems)) < len(stems):
        raise LengthError("Two of these files have the same name.", "Build them by themselves, each to a folder of its own.")
    return max(_told(partial(_build_one, source, options.out / source.stem, options)) for source in sources)


def _build_one(source: Path, out: Path, options: argparse.Namespace) -> int:
    recipe, pictures = _from_recipe(source) if source.suffix.lower() == ".json" else _from_picture(source, options)
    begin = time.perf_counter()
    built = build(recipe, Assets(picture=pictures.__getitem__, file=pictures.__getitem__), Memo())
    planned = plan(built)
    files = pack_files(planned, with_summary=True)
    _write_all(out, files)
    for found in (*built.findings, *planned.findings):
        print(f"gladstack: {found.severity}: {found.text} {found.helps}".rstrip(), file=sys.stderr)
    print(f"{len(built.layers)} films, {len(files)} files in {out} ({time.perf_counter() - begin:.2f} s)")
    return 0


def _plan(options: argparse.Namespace) -> int:
    """Lays a job, or a job of one design, on the film of the demo shelf."""
    from gladstack.demo.shelf import demo_shop
    from gladstack.shop.job import Job, JobDesign
    from gladstack.shop.job_files import decal_files, plan_files
    from gladstack.shop.plan import plan as lay
    from gladstack.shop.read_job import is_job, read_job

    source: Path = options.source
    begin = time.perf_counter()
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
        recipe, held = _from_recipe(path) if path.suffix.lower() == ".json" else _from_picture(path, options)
        designs[key] = build(recipe, Assets(picture=held.__getitem__, file=held.__getitem__), memo)
    nested = job.layout == "nested" or any(f.layout == "nested" for f in job.films)
    seconds = options.seconds if options.seconds is not None else (10 if nested else 0)
    made = lay(job, designs, demo_shop(), max(0, seconds))
    spent = time.perf_counter() - begin
    formats = _formats(options.formats)
    _write_all(options.out, {**plan_files(made, spent, formats, options.paper), **decal_files(made, designs, formats)})
    for found in made.findings:
        print(f"gladstack: {found.severity}: {found.text} {found.helps}".rstrip(), file=sys.stderr)
    used = sum(s.length_used_mm for s in made.sheets)
    print(f"{len(made.sheets)} sheets, {used:.0f} mm of film in {options.out} ({spent:.2f} s)")
    return 0


def _formats(text: str) -> list[Format]:
    """The formats that a list of names means. Raises GladStackError."""
    from gladstack.shop.formats import FORMATS

    named = [name.strip().lower() for name in text.split(",") if name.strip()]
    known: dict[str, Format] = {name: name for name in FORMATS}
    if wrong := [name for name in named if name not in known]:
        raise RecipeError(f"“{wrong[0]}” is not a format.", f"Choose from {', '.join(FORMATS)}.")
    return [known[name] for name in dict.fromkeys(named)]


def _dumped(value: object) -> object:
    return [v.model_dump() for v in value] if isinstance(value, tuple) else value


def _from_picture(source: Path, options: argparse.Namespace) -> tuple[Recipe, dict[str, bytes]]:
    """The recipe that the options ask for, and its picture or vector file by hash.

    A vector file keeps its own size, unless it merely wraps a picture: then that is taken.
    """
    data = source.read_bytes()
    held = picture_within(data) if is_vector(data) else data
    digest = hashlib.sha256(held or data).hexdigest()
    if held is None:
        art: PictureArt | VectorArt = VectorArt(id="vector", file=digest, filename=source.name)
    elif options.width is None:
        raise LengthError("A picture needs a width.", "Add --width, e.g. --width 120mm.")
    else:
        separation = Separation(
            count=_count(options.colors),
            background="keep" if options.no_drop_background else "drop",
            detail_mm=parse_length(options.detail),
            smoothing_mm=parse_length(options.smoothing),
            speck_mm=parse_length(options.speck),
        )
        art = PictureArt(
            id="picture",
            picture=digest,
            filename=source.name,
            width_mm=parse_length(options.width),
            separation=separation,
        )
    width_mm, height_mm = parse_size(options.sheet)
    recipe = Recipe(
        name=source.stem[:120].strip() or "Design",
        arts=(art,),
        method=options.method,
        joint=parse_joint(options.joint),
        sheet=SheetChoice(width_mm=width_mm, height_mm=height_mm, margin_mm=parse_length(options.margin)),
        marks=options.marks,
    )
    return recipe, {digest: held or data}


def _from_recipe(source: Path) -> tuple[Recipe, dict[str, bytes]]:
    """A recipe file, and the pictures it names, which lie beside it."""
    return read_recipe(source.read_text(encoding="utf-8"), source.parent)


def _write_all(folder: Path, files: dict[str, bytes]) -> None:
    """Writes all files or none: they are made beside the folder first, then moved in."""
    folder.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=folder.parent, prefix=".gladstack-") as draft:
        for path, data in files.items():
            target = Path(draft) / path
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_bytes(data)
        for kind in [f"sheets/[0-9][0-9]-*.{ending}" for ending in ("svg", "dxf", "pdf", "hpgl", "png")]:
            for stale in folder.glob(kind):
                stale.unlink()
        for path in files:
            target = folder / path
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.move(Path(draft) / path, target)


def _warm(options: argparse.Namespace) -> int:
    from gladstack.warm import warm

    print(f"compiled in {warm():.1f} s")
    return 0


def _serve(options: argparse.Namespace) -> int:
    from gladstack.api.serve import serve
    from gladstack.work.crew import Limits

    token = options.token or os.environ.get("GLADSTACK_TOKEN")
    limits = Limits(deadline_s=options.deadline, memory_bytes=int(options.memory * 2**30))
    return serve(options.host, options.port, options.data, demo=options.demo, token=token, limits=limits)
