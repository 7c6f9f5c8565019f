"""A pytest plugin that writes down which lines of the app each test reaches, and how long it takes.

`pytest -p bench.reached`, with a folder for its two files in GLADSTACK_REACHED.
"""

from __future__ import annotations

import json
import os
import time
from collections.abc import Generator
from pathlib import Path

import pytest
from coverage import Coverage

_folder = Path(os.environ["GLADSTACK_REACHED"])
_coverage = Coverage(data_file=str(_folder / "lines"), source=["gladstack"], config_file=False)
_seconds: dict[str, float] = {}


def pytest_configure() -> None:
    _coverage.start()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_protocol(item: pytest.Item) -> Generator[None, object, object]:
    begin = time.monotonic()
    # What a test shares with others is counted to the first of them.
    _coverage.switch_context(item.nodeid)
    done = yield
    _coverage.switch_context("")
    _seconds[item.nodeid] = time.monotonic() - begin
    return done


def pytest_unconfigure() -> None:
    _coverage.stop()
    _coverage.save()
    (_folder / "seconds.json").write_text(json.dumps(_seconds))
