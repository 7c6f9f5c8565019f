"""Building designs from pictures, vector files and recipes."""

from __future__ import annotations

import argparse
import hashlib
import json
import shutil
import signal
import sys
import tempfile
import time
from functools import partial
from pathlib import Path

from gladstack.commands import exit_code_of
from gladstack.core.base.errors import LengthError
from gladstack.core.base.units import parse_length, parse_size
from gladstack.core.films.joints import FORMS, JointKind
from gladstack.core.picture.carried import carried
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.lines import drawn_in_lines
from gladstack.proof.prove import proof_of, proof_of_plan
from gladstack.recipe.art.vectors import is_vector, looked_at, picture_within
from gladstack.recipe.art.written import assets_of, read_recipe
from gladstack.recipe.build.build import build
from gladstack.recipe.build.fitted import fitted
from gladstack.recipe.model.arts import NEW_GAP_MM, LineArt, PictureArt, Separation, VectorArt
from gladstack.recipe.model.recipe import JointRule, Recipe
from gladstack.recipe.model.uses import Use, usual_use
from gladstack.shop.files.design_files import design_files
from gladstack.shop.files.formats import OUTPUTS
from gladstack.shop.plan.given_sheets import GivenSheet, plan_on_sheets
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo

FULL_LAP_MM = 0.4


def parse_joint(text: str) -> JointRule:
    """The joint that `butt`, `full`, `lap:0.4mm` or `gap:1mm` means. Raises LengthError."""
    name, _, length = text.strip().lower().partition(":")
    form = FORMS[JointKind(name)] if name in set(JointKind) else None
    if form is None or (form.length == "never" and length) or (form.length == "must" and not length):
        raise LengthError(f"“{text}” is not a joint.", f"Write {joints_told()}.")
    mm = parse_length(length) if length else FULL_LAP_MM if form.length == "may" else 0.0
    return JointRule(kind=JointKind(name), mm=mm)


def joints_told() -> str:
    """How joints are written."""
    names = [f"{kind}:0.4mm" if form.length == "must" else str(kind) for kind, form in FORMS.items()]
    return f"{', '.join(names[:-1])} or {names[-1]}"


def _count(text: str) -> int | None:
    if text.strip().lower() == "auto":
        return None
    if not text.strip().isdigit() or int(text) < 1:
        raise LengthError(f"“{text}” is not a number of colours.", "Write a whole number from 1, or auto.")
    return int(text)


def build_all(options: argparse.Namespace) -> int:
    """Builds every source; one that cannot be built is told of, and the others are built all the same."""
    sources: list[Path] = options.source
    if len(sources) == 1:
        return _build_one(sources[0], options.out, options)
    stems = [source.stem for source in sources]
    if len(set(stems)) < len(stems):
        raise LengthError("Two of these files have the same name.", "Build them by themselves, each to a folder of its own.")
    return max(exit_code_of(partial(_build_one, source, options.out / source.stem, options)) for source in sources)


def _build_one(source: Path, out: Path, options: argparse.Namespace) -> int:
    written = source.suffix.lower() == ".json"
    recipe, pictures = from_recipe(source) if written else from_picture(source, options)
    given, marked = _sheet(source if written else None, options)
    begin = time.perf_counter()
    assets, memo = assets_of(pictures), Memo()
    if options.decal_width is not None:
        recipe = fitted(recipe, parse_length(options.decal_width), assets, memo)
    built = build(recipe, assets, memo)
    planned = plan_on_sheets(built, given, marks=options.marks or marked)
    designs = {entry.design: built for entry in planned.job.designs}
    told = (*proof_of(built, Stages(memo)), *proof_of_plan(planned, designs))
    files = design_files(built, planned, told)
    write_all(out, files)
    for found in told:
        print(f"gladstack: {found.severity}: {found.text} {found.helps}".rstrip(), file=sys.stderr)
    print(f"{len(built.layers)} films, {len(files)} files in {out} ({time.perf_counter() - begin:.2f} s)")
    return 0


def _sheet(recipe: Path | None, options: argparse.Namespace) -> tuple[GivenSheet, bool]:
    """The sheets that the options ask for, and whether they bear marks; an older recipe may tell them itself."""
    width_mm, height_mm = parse_size(options.sheet)
    asked = {"width_mm": width_mm, "height_mm": height_mm, "margin_mm": parse_length(options.margin)}
    told = json.loads(recipe.read_text(encoding="utf-8")) if recipe else {}
    return GivenSheet.model_validate(told.get("sheet") or asked), bool(told.get("marks"))


def from_picture(source: Path, options: argparse.Namespace) -> tuple[Recipe, dict[str, bytes]]:
    """The recipe that the options ask for, and its picture or vector file by hash.

    A vector file keeps its own size, unless it merely wraps a picture: then that is taken.
    """
    data = source.read_bytes()
    held = picture_within(data) if is_vector(data) else carried(data, source.name)
    digest = hashlib.sha256(held or data).hexdigest()
    if held is None:
        first = looked_at(data)
        art: PictureArt | VectorArt | LineArt = VectorArt(
            id="vector", file=digest, filename=source.name, page=first.page, gap_mm=NEW_GAP_MM,
            films_by=first.films_by, count=first.count,
        )  # fmt: skip
    elif (width := options.width or getattr(options, "decal_width", None)) is None:
        raise LengthError("A picture needs a width.", "Add --width, e.g. --width 120mm, or --decal-width.")
    elif _is_line_art(held, source.name, options):
        art = LineArt(
            id="picture",
            picture=digest,
            filename=source.name,
            width_mm=parse_length(width),
            detail_mm=parse_length(options.detail),
            smoothing_mm=parse_length(options.smoothing),
            speck_mm=parse_length(options.speck),
        )
    else:
        separation = Separation(
            count=_count(options.colors),
            background="drop" if options.background == "everywhere" else options.background,
            detail_mm=parse_length(options.detail),
            smoothing_mm=parse_length(options.smoothing),
            speck_mm=parse_length(options.speck),
        )
        art = PictureArt(
            id="picture",
            picture=digest,
            filename=source.name,
            width_mm=parse_length(width),
            separation=separation,
        )
    recipe = Recipe(
        name=source.stem[:120].strip() or "Design",
        arts=(art,),
        use=Use(options.use) if options.use else usual_use(options.method),
        joint=parse_joint(options.joint),
    )
    return recipe, {digest: held or data}


def _is_line_art(data: bytes, name: str, options: argparse.Namespace) -> bool:
    """Whether a picture is taken for line art: as asked for, else as it looks; one whose colours are counted is not."""
    taken = getattr(options, "taken_as", "flat")
    if taken != "auto" or options.colors.strip().lower() != "auto":
        return bool(taken == "line-art")
    return drawn_in_lines(decode_picture(data, name))


def from_recipe(source: Path) -> tuple[Recipe, dict[str, bytes]]:
    """A recipe file, and the pictures and fonts it names, which lie beside it."""
    return read_recipe(source.read_text(encoding="utf-8"), source.parent)


def write_all(folder: Path, files: dict[str, bytes]) -> None:
    """Writes all files or none: they are made beside the folder first, then moved in."""
    folder.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=folder.parent, prefix=".gladstack-") as draft:
        for path, data in files.items():
            target = Path(draft) / path
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_bytes(data)
        # From here on all is written, whatever the deadline.
        signal.setitimer(signal.ITIMER_REAL, 0)
        for kind in [f"sheets/[0-9][0-9]-*.{ending}" for ending in {one.ending.rsplit(".")[-1] for one in OUTPUTS.values()}]:
            for stale in folder.glob(kind):
                stale.unlink()
        for path in files:
            target = folder / path
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.move(Path(draft) / path, target)
