"""What the commands do; each loads what it needs once it is asked for."""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Callable

import shapely
from pydantic import ValidationError

from gladstack.core.base.errors import GladStackError
from gladstack.recipe.model.faults import said_plainly


def run(options: argparse.Namespace) -> int:
    """Runs the command of some options; returns its exit code: 0 done, 2 the input was wrong."""
    return told(lambda: _COMMANDS[options.command](options))


def told(work: Callable[[], int]) -> int:
    """Does a piece of work; what goes wrong is told in one line."""
    try:
        return work()
    except ValidationError as fault:
        return _fail(said_plainly(fault.errors()[0]))
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


def _build(options: argparse.Namespace) -> int:
    from gladstack.commands.build import build_all

    return build_all(options)


def _plan(options: argparse.Namespace) -> int:
    from gladstack.commands.jobs import plan

    return plan(options)


def _job_sheet(options: argparse.Namespace) -> int:
    from gladstack.commands.jobs import job_sheet

    return job_sheet(options)


def _names(options: argparse.Namespace) -> int:
    from gladstack.commands.names import names

    return names(options)


def _cut(options: argparse.Namespace) -> int:
    from gladstack.commands.cut import cut

    return cut(options)


def _cutter(options: argparse.Namespace) -> int:
    from gladstack.cutter.__main__ import serve

    return serve(options)


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


_COMMANDS: dict[str, Callable[[argparse.Namespace], int]] = {
    "build": _build, "plan": _plan, "cut": _cut, "job-sheet": _job_sheet, "names": _names,
    "cutter": _cutter, "serve": _serve, "warm": _warm,
}  # fmt: skip
