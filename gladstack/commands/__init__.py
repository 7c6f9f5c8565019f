"""What the commands do; each loads what it needs once it is asked for."""

from __future__ import annotations

import argparse
import logging
import multiprocessing
import os
import signal
import sys
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager

import shapely
from pydantic import ValidationError

from gladstack.core.base.errors import GladStackError
from gladstack.recipe.model.faults import said_plainly
from gladstack.work import forks

_UNBOUNDED = ("serve", "cutter", "warm", "backup", "restore")
_FAREWELL_S = 5.0
_LOG = logging.getLogger("gladstack.commands")


class DeadlineError(GladStackError):
    """The command took longer than it may."""

    code = "too-much"


def run(options: argparse.Namespace) -> int:
    """Runs the command of some options; returns its exit code: 0 done, 1 something will fail, 2 the input was wrong."""
    if options.command in _UNBOUNDED:
        return exit_code_of(lambda: _COMMANDS[options.command](options))
    # Several sources are built one after another, each in its own time.
    with _deadline(options.deadline * (len(options.source) if options.command == "build" else 1)):
        return exit_code_of(lambda: _COMMANDS[options.command](options))


@contextmanager
def _deadline(seconds: float) -> Iterator[None]:
    """Ends what is done within after so many seconds: between two steps of Python if it comes to one soon, else outright."""
    late = f"This asks for too much: it was not done within {seconds:g} s."
    helps = "Bring in something smaller or simpler, or give it more time with --deadline."

    def end(*_: object) -> None:
        raise DeadlineError(late, helps)

    def end_outright() -> None:
        _fail(f"{late} {helps}")
        for child in multiprocessing.active_children():
            child.kill()
        os._exit(2)

    outright = threading.Timer(seconds + _FAREWELL_S, end_outright)
    outright.daemon = True
    before = signal.signal(signal.SIGALRM, end) if threading.current_thread() is threading.main_thread() else None
    if before is not None:
        signal.setitimer(signal.ITIMER_REAL, seconds)
    outright.start()
    try:
        yield
    finally:
        outright.cancel()
        if before is not None:
            signal.setitimer(signal.ITIMER_REAL, 0)
            signal.signal(signal.SIGALRM, before)


def exit_code_of(work: Callable[[], int]) -> int:
    """Does a piece of work; what goes wrong is told in one line."""
    try:
        return work()
    except ValidationError as fault:
        return _fail(said_plainly(fault.errors()[0]))
    except GladStackError as fault:
        if fault.trace:
            _LOG.error(fault.trace)
        return _fail(str(fault))
    except OSError as fault:
        return _fail(f"{fault.filename or 'File'}: {fault.strerror or fault}")
    except (UnicodeError, RecursionError):
        return _fail("The file is not text that can be read. Give a picture, a vector file or a recipe.")
    except (MemoryError, shapely.GEOSException) as fault:
        return _fail(f"This asks for too much ({type(fault).__name__}). Bring in a smaller or simpler file.")
    except Exception:
        _LOG.exception("this was not foreseen")
        return _fail(
            "This could not be worked out: it holds something that was not foreseen. Save it again, or try another."
        )


def _fail(text: str) -> int:
    print(f"gladstack: {' '.join(text.split())}", file=sys.stderr)
    return 2


def _build(options: argparse.Namespace) -> int:
    from gladstack.commands.build import build_all

    return build_all(options)


def _plan(options: argparse.Namespace) -> int:
    from gladstack.commands.jobs import plan

    return plan(options)


def _proof(options: argparse.Namespace) -> int:
    from gladstack.commands.proof import proof

    return proof(options)


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
    from gladstack.api.place import take_place
    from gladstack.settings import settings_of

    settings = settings_of(vars(options), config=options.config)
    place = take_place(settings)
    # Workers load what they need while the server does.
    forks.begin(*(f"gladstack.api.tasks.{name}" for name in ("designs", "jobs", "outcomes", "sources")))
    from gladstack.api.serve import serve

    return serve(settings, place)


def _backup(options: argparse.Namespace) -> int:
    from gladstack.store.backup import back_up

    print(f"{back_up(options.data, options.file) / 2**20:.1f} MB in {options.file}")
    return 0


def _restore(options: argparse.Namespace) -> int:
    from gladstack.store.backup import restore

    restore(options.file, options.data)
    print(f"The designs of {options.file} are in {options.data}.")
    return 0


_COMMANDS: dict[str, Callable[[argparse.Namespace], int]] = {
    "build": _build, "plan": _plan, "proof": _proof, "cut": _cut, "job-sheet": _job_sheet, "names": _names,
    "cutter": _cutter, "serve": _serve, "warm": _warm, "backup": _backup, "restore": _restore,
}  # fmt: skip
