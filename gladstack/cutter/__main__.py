"""The simulated cutter by itself, without anything else of the app."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from gladstack.cutter.machine import Profile
from gladstack.cutter.serve import serve_cutter


def add_options(cutter: argparse.ArgumentParser) -> None:
    """What can be chosen for it."""
    cutter.add_argument("--port", type=int, default=8738, help="0 takes any that is free, and tells it")
    cutter.add_argument("--state", type=Path, default=Path("data/cutter-alone"), help="folder where its film is kept")
    cutter.add_argument("--rate", type=float, default=1.0, help="times faster than in truth; 0: as fast as it can")
    cutter.add_argument("--faults", type=int, default=None, metavar="SEED", help="let things go wrong at random")
    cutter.add_argument("--with-parent", action="store_true", help="stop when standard input is closed")
    for name, default, what in (
        ("film-width", 300.0, "widest film, mm"),
        ("film-length", 3000.0, "longest film, mm"),
        ("speed", 120.0, "mm/s"),
        ("acceleration", 900.0, "mm/s2"),
        ("lift", 0.15, "seconds to lift and lower"),
        ("offset", 0.25, "how far the blade trails, mm"),
    ):
        cutter.add_argument(f"--{name}", type=float, default=default, help=what)


def serve(options: argparse.Namespace) -> int:
    """Serves as the options say; returns the exit code."""
    profile = Profile(
        options.film_width, options.film_length, options.speed, options.acceleration, options.lift, options.offset
    )
    return serve_cutter(options.port, options.state, profile, options.rate, options.faults, parent=options.with_parent)


if __name__ == "__main__":
    parser = argparse.ArgumentParser(prog="gladstack cutter")
    add_options(parser)
    sys.exit(serve(parser.parse_args()))
