"""The command line: the same build without a browser, and the server. A command loads what it needs once it is asked for."""

from __future__ import annotations

import argparse
import codecs
import sys
from pathlib import Path
from typing import NoReturn

from gladstack import __version__
from gladstack.recipe.model.uses import Use


def main(arguments: list[str] | None = None) -> int:
    """Runs a command; returns its exit code: 0 done, 1 a proof found what will fail, 2 the input was wrong."""
    options = _parser().parse_args(arguments)
    from gladstack import commands

    return commands.run(options)


class _Parser(argparse.ArgumentParser):
    """Says what is wrong with the options in one line."""

    def error(self, message: str) -> NoReturn:
        """Ends with exit code 2."""
        self.exit(2, f"gladstack: {message} (see {self.prog} --help)\n")


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="gladstack", description="From a picture to a stack of single-colour cut films.")
    parser.add_argument("--version", action="version", version=f"gladstack {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    make = commands.add_parser("build", help="separate a picture, or build a recipe, and write its sheets")
    make.add_argument(
        "source",
        type=Path,
        nargs="+",
        help="pictures, vector files (SVG, also compressed, DXF) or recipes (.json)",
    )
    make.add_argument("--width", help="width of the picture, margins included, e.g. 120mm or 4.5in; a recipe knows its own")
    make.add_argument(
        "--as", dest="taken_as", choices=("auto", "flat", "line-art"), default="auto",
        help="what a picture is taken for: flat colours, or lines on paper (auto: as it looks)",
    )  # fmt: skip
    make.add_argument("--decal-width", help="width of all that is cut of a picture or vector file, in place of --width")
    make.add_argument("--colors", "--colours", default="auto", metavar="N|auto", help="colours, background included")
    make.add_argument("--joint", default="butt", help="butt, full, lap:0.4mm or gap:1mm (default: butt)")
    make.add_argument("--method", choices=("adhesive", "heat-transfer"), default="adhesive")
    make.add_argument("--use", choices=[use.value for use in Use], help="what it is for (default: as --method says)")
    make.add_argument("--sheet", default="305x305mm", help="sheet size (default: 305x305mm)")
    make.add_argument("--margin", default="6mm", help="margin kept on every sheet (default: 6mm)")
    make.add_argument("--marks", action="store_true", help="registration marks on every sheet")
    make.add_argument(
        "--background", choices=("auto", "outside", "everywhere", "keep"), default="auto",
        help="where the background is dropped (auto: outside), or keep it as a film",
    )  # fmt: skip
    make.add_argument(
        "--no-drop-background", dest="background", action="store_const", const="keep", help="--background keep"
    )
    make.add_argument("--detail", default="0.02mm", help="largest deviation of a curve (default: 0.02mm)")
    make.add_argument("--smoothing", default="0mm", help="smoothing along edges (default: only the pixels' ripple)")
    make.add_argument("--speck", default="0.4mm", help="areas smaller than this across are merged (default: 0.4mm)")
    make.add_argument(
        "--out", type=Path, required=True, help="folder to write to, with one in it for each of several sources"
    )
    _add_deadline(make)
    make.set_defaults(command="build")
    _add_plan(commands)
    _add_proof(commands)
    _add_job_sheet(commands)
    _add_names(commands)
    _add_cut(commands)
    _add_cutter(commands)
    _add_serve(commands)
    _add_backup(commands)
    warm = commands.add_parser("warm", help="compile the inner loops ahead of the first picture")
    warm.set_defaults(command="warm")
    return parser


def _add_serve(commands: argparse._SubParsersAction[_Parser]) -> None:
    """What is not given here comes from the environment, then from the file of settings."""
    serve = commands.add_parser(
        "serve", help="serve the app on this machine",
        description="Every option may also stand in the environment (GLADSTACK_PORT) or in a file (port = 8737).",
    )  # fmt: skip
    serve.add_argument("--config", type=Path, help="a file of settings (TOML)")
    serve.add_argument("--port", type=int, help="port to listen on (8737)")
    serve.add_argument("--host", help="address to listen on (default: loopback only)")
    serve.add_argument("--data", type=Path, help="folder of the designs (data)")
    serve.add_argument(
        "--token-file", type=Path,
        help="a file with what the page asks for, needed where --host is not this machine's own address; it may also stand "
        "in GLADSTACK_TOKEN",
    )  # fmt: skip
    serve.add_argument("--token", help="the same here, where the list of processes shows it to others of this machine")
    serve.add_argument("--deadline", type=float, help="seconds one piece of work may take (30)")
    serve.add_argument("--memory", type=float, help="GB of memory that one piece of work may take (4)")
    serve.add_argument(
        "--log-level", choices=("debug", "info", "warning", "error"), help="what is logged (warning; info: each request)"
    )
    serve.add_argument("--demo", action="store_true", default=None, help="add the demo designs if they are not there yet")
    serve.set_defaults(command="serve")


def _add_backup(commands: argparse._SubParsersAction[_Parser]) -> None:
    for name, helps in (
        ("backup", "write all designs, jobs and the shelf to one file, also while they are served"),
        ("restore", "bring a backup back into an empty folder"),
    ):
        command = commands.add_parser(name, help=helps)
        command.add_argument("file", type=Path, help="the backup (.zip)")
        command.add_argument("--data", type=Path, default=Path("data"), help="folder of the designs (data)")
        command.set_defaults(command=name)


def _add_deadline(command: argparse.ArgumentParser, seconds: float = 30.0) -> None:
    command.add_argument(
        "--deadline", type=float, default=seconds, help=f"seconds that it may take ({seconds:g}); nothing is written after"
    )


def _encoding(text: str) -> str:
    try:
        return codecs.lookup(text).name
    except LookupError as fault:
        raise argparse.ArgumentTypeError(f"there is no encoding “{text}”") from fault


def _add_source(lay: argparse.ArgumentParser) -> None:
    """What is laid, and how."""
    lay.add_argument("source", type=Path, help="a job (.json), a recipe (.json), a picture or a vector file")
    lay.add_argument("--copies", type=int, help="how many copies of each design")
    lay.add_argument("--data", type=Path, help="folder whose shelf of films is used (default: the demo shelf)")
    lay.add_argument("--nest", action="store_true", help="move and turn parts to save film (else in register)")
    lay.add_argument("--cutter", help="the cutter: table-300 or bench-600")
    lay.add_argument("--seconds", type=int, default=None, help="how long to look for a shorter layout (10 when nested)")
    _add_reading(lay)


def _add_reading(lay: argparse.ArgumentParser) -> None:
    """How a picture is read that comes without a recipe."""
    lay.add_argument("--width", help="finished width of a picture, e.g. 120mm or 4.5in")
    lay.add_argument("--colors", "--colours", default="auto", metavar="N|auto", help="colours, background included")
    lay.add_argument("--joint", default="butt", help="butt, full, lap:0.4mm or gap:1mm (default: butt)")
    lay.add_argument("--method", choices=("adhesive", "heat-transfer"), default="adhesive")
    lay.add_argument("--use", choices=[use.value for use in Use], help="what it is for (default: as --method says)")
    lay.set_defaults(
        background="auto", detail="0.02mm", smoothing="0mm", speck="0.4mm",
    )  # fmt: skip


def _add_plan(commands: argparse._SubParsersAction[_Parser]) -> None:
    lay = commands.add_parser("plan", help="lay a job, or one design, on film, and write its sheets")
    _add_source(lay)
    lay.add_argument(
        "--formats", default="svg,dxf,hpgl", help="svg, svg-lines, dxf, pdf, hpgl, hpgl-blade, png, with commas between"
    )
    lay.add_argument("--paper", choices=("film", "A4", "Letter"), default="film", help="pages of PDF (film: as large as it)")
    lay.add_argument("--out", type=Path, required=True, help="folder to write to")
    _add_deadline(lay, 120.0)
    lay.set_defaults(command="plan")


def _add_proof(commands: argparse._SubParsersAction[_Parser]) -> None:
    proof = commands.add_parser(
        "proof", help="tell what will go wrong with a design on its film (exit code 1 if anything will)"
    )
    proof.add_argument("source", type=Path, help="a recipe (.json), a picture or a vector file")
    proof.add_argument("--material", help="the film of the shelf that all of it is cut from (default: as for plan)")
    proof.add_argument("--slip", help="how far a hand lays a film off its place, e.g. 0.5mm (default: by its use)")
    proof.add_argument("--json", action="store_true", help="write it as JSON")
    proof.add_argument("--data", type=Path, help="folder whose shelf of films is used (default: the demo shelf)")
    _add_reading(proof)
    _add_deadline(proof, 60.0)
    proof.set_defaults(command="proof")


def _add_job_sheet(commands: argparse._SubParsersAction[_Parser]) -> None:
    sheet = commands.add_parser("job-sheet", help="the page to pin over the press, as PDF")
    _add_source(sheet)
    sheet.add_argument("--paper", choices=("A4", "Letter"), default="A4")
    sheet.add_argument("--out", type=Path, required=True, help="the PDF to write")
    _add_deadline(sheet, 120.0)
    sheet.set_defaults(command="job-sheet")


def _add_names(commands: argparse._SubParsersAction[_Parser]) -> None:
    names = commands.add_parser("names", help="cut a design once for each name of a list")
    names.add_argument("source", type=Path, help="a recipe (.json) with fields in its lettering, such as {name=Ada}")
    names.add_argument("--csv", type=Path, required=True, help="the list: any delimiter, with a header or without")
    names.add_argument(
        "--encoding", type=_encoding, help="how the list is written, where it does not tell: cp932, gb18030 ..."
    )
    names.add_argument(
        "--fit",
        choices=("as-is", "narrower", "smaller", "two-lines", "alike"),
        help="what becomes of long names; alike: all as tall as each other, as is usual where a width is kept to",
    )
    names.add_argument("--formats", default="svg,dxf,hpgl", help="formats of the sheets, as for plan")
    names.add_argument("--seconds", type=int, default=0, help="how long to look for a shorter layout")
    names.add_argument("--data", type=Path, help="folder whose shelf of films is used (default: the demo shelf)")
    names.add_argument("--processes", type=int, default=None, help="how many names are built at once (one for each core)")
    names.add_argument("--out", type=Path, required=True, help="folder to write to")
    _add_deadline(names, 600.0)
    names.set_defaults(command="names")


def _add_cut(commands: argparse._SubParsersAction[_Parser]) -> None:
    cut = commands.add_parser("cut", help="cut a job on the simulated cutter, and compare what was cut with the plan")
    _add_source(cut)
    cut.add_argument("--simulate", action="store_true", required=True, help="on the cutter that ships with the app")
    cut.add_argument("--faults", type=int, default=None, metavar="SEED", help="let things go wrong, by this seed")
    cut.add_argument("--rate", type=float, default=0.0, help="times faster than in truth (0: as fast as it can)")
    cut.add_argument("--out", type=Path, required=True, help="folder to write to")
    _add_deadline(cut, 3600.0)
    cut.set_defaults(command="cut")


def _add_cutter(commands: argparse._SubParsersAction[_Parser]) -> None:
    from gladstack.cutter.__main__ import add_options

    cutter = commands.add_parser("cutter", help="serve a simulated cutter on this machine")
    add_options(cutter)
    cutter.set_defaults(command="cutter")


if __name__ == "__main__":
    sys.exit(main())
