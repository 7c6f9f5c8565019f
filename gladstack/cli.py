"""The command line: the same build without a browser, and the server."""

from __future__ import annotations

import argparse
import hashlib
import os
import shutil
import sys
import tempfile
import time
from pathlib import Path
from typing import NoReturn

import shapely
from pydantic import ValidationError

from gladstack.core.base.errors import GladStackError, LengthError
from gladstack.core.base.units import parse_length, parse_size
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.vectors import is_vector, picture_within
from gladstack.recipe.art.written import read_recipe
from gladstack.recipe.build.build import build
from gladstack.recipe.model.arts import PictureArt, Separation, VectorArt
from gladstack.recipe.model.recipe import JointRule, Recipe, SheetChoice
from gladstack.shop.files import pack_files
from gladstack.shop.plan import plan
from gladstack.stages.memo import Memo
from gladstack.work.crew import Limits

FULL_LAP_MM = 0.4


def main(arguments: list[str] | None = None) -> int:
    """Runs a command; returns its exit code: 0 done, 2 the input was wrong."""
    options = _parser().parse_args(arguments)
    try:
        return int(options.run(options))
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


class _Parser(argparse.ArgumentParser):
    """Says what is wrong with the options in one line."""

    def error(self, message: str) -> NoReturn:
        """Ends with exit code 2."""
        self.exit(_fail(f"{message} (see {self.prog} --help)"))


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="gladstack", description="From a picture to a stack of single-colour cut films.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    make = commands.add_parser("build", help="separate a picture, or build a recipe, and write its sheets")
    make.add_argument("source", type=Path, help="a picture, a vector file (SVG, DXF) or a recipe (.json)")
    make.add_argument("--width", help="finished width of the picture, e.g. 120mm or 4.5in; a recipe knows its own size")
    make.add_argument("--colors", "--colours", default="auto", metavar="N|auto", help="colours, background included")
    make.add_argument("--joint", default="butt", help="butt, full, lap:0.4mm or gap:1mm (default: butt)")
    make.add_argument("--method", choices=("adhesive", "heat-transfer"), default="adhesive")
    make.add_argument("--sheet", default="305x305mm", help="sheet size (default: 305x305mm)")
    make.add_argument("--margin", default="6mm", help="margin kept on every sheet (default: 6mm)")
    make.add_argument("--marks", action="store_true", help="registration marks on every sheet")
    make.add_argument("--no-drop-background", action="store_true", help="keep the background as a layer")
    make.add_argument("--detail", default="0.02mm", help="largest deviation of a curve (default: 0.02mm)")
    make.add_argument("--smoothing", default="0mm", help="smoothing along edges (default: only the pixels' ripple)")
    make.add_argument("--speck", default="0.4mm", help="areas smaller than this across are merged (default: 0.4mm)")
    make.add_argument("--out", type=Path, required=True, help="folder to write to")
    make.set_defaults(run=_build)
    serve = commands.add_parser("serve", help="serve the app on this machine")
    serve.add_argument("--port", type=int, default=8737)
    serve.add_argument("--host", default="127.0.0.1", help="address to listen on (default: loopback only)")
    serve.add_argument("--data", type=Path, default=Path("data"), help="folder of the designs")
    serve.add_argument("--token", help="what the page asks for, needed where --host is not this machine's own address")
    serve.add_argument("--deadline", type=float, default=Limits.deadline_s, help="seconds one piece of work may take (30)")
    serve.add_argument("--memory", type=float, default=4.0, help="GB of memory that one piece of work may take (4)")
    serve.add_argument("--demo", action="store_true", help="add the demo designs if they are not there yet")
    serve.set_defaults(run=_serve)
    warm = commands.add_parser("warm", help="compile the inner loops ahead of the first picture")
    warm.set_defaults(run=_warm)
    return parser


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
    recipe, pictures = _from_recipe(options) if options.source.suffix.lower() == ".json" else _from_picture(options)
    begin = time.perf_counter()
    built = build(recipe, Assets(picture=pictures.__getitem__, file=pictures.__getitem__), Memo())
    planned = plan(built)
    files = pack_files(planned, with_summary=True)
    _write_all(options.out, files)
    for found in (*built.findings, *planned.findings):
        print(f"gladstack: {found.severity}: {found.text} {found.helps}".rstrip(), file=sys.stderr)
    print(f"{len(built.layers)} films, {len(files)} files in {options.out} ({time.perf_counter() - begin:.2f} s)")
    return 0


def _from_picture(options: argparse.Namespace) -> tuple[Recipe, dict[str, bytes]]:
    """The recipe that the options ask for, and its picture or vector file by hash.

    A vector file keeps its own size, unless it merely wraps a picture: then that is taken.
    """
    data = options.source.read_bytes()
    held = picture_within(data) if is_vector(data) else data
    digest = hashlib.sha256(held or data).hexdigest()
    if held is None:
        art: PictureArt | VectorArt = VectorArt(id="vector", file=digest, filename=options.source.name)
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
            filename=options.source.name,
            width_mm=parse_length(options.width),
            separation=separation,
        )
    width_mm, height_mm = parse_size(options.sheet)
    recipe = Recipe(
        name=options.source.stem[:120].strip() or "Design",
        arts=(art,),
        method=options.method,
        joint=parse_joint(options.joint),
        sheet=SheetChoice(width_mm=width_mm, height_mm=height_mm, margin_mm=parse_length(options.margin)),
        marks=options.marks,
    )
    return recipe, {digest: held or data}


def _from_recipe(options: argparse.Namespace) -> tuple[Recipe, dict[str, bytes]]:
    """A recipe file, and the pictures it names, which lie beside it."""
    return read_recipe(options.source.read_text(encoding="utf-8"), options.source.parent)


def _write_all(folder: Path, files: dict[str, bytes]) -> None:
    """Writes all files or none: they are made beside the folder first, then moved in."""
    folder.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=folder.parent, prefix=".gladstack-") as draft:
        for path, data in files.items():
            target = Path(draft) / path
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_bytes(data)
        old = folder / "sheets"
        if old.is_dir():
            for stale in old.glob("[0-9][0-9]-*.svg"):
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

    token = options.token or os.environ.get("GLADSTACK_TOKEN")
    limits = Limits(deadline_s=options.deadline, memory_bytes=int(options.memory * 2**30))
    return serve(options.host, options.port, options.data, demo=options.demo, token=token, limits=limits)


if __name__ == "__main__":
    sys.exit(main())
