"""Each check is a file of its own, is asked, and has codes that no other has."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import gladstack.proof.checks
from gladstack.proof.registry import ART_CHECKS, CUT_CHECKS, FILM_CHECKS, ON_FILM_CHECKS, PLAN_CHECKS, STACK_CHECKS

CHECKS: tuple[Any, ...] = (*ART_CHECKS, *STACK_CHECKS, *FILM_CHECKS, *CUT_CHECKS, *ON_FILM_CHECKS, *PLAN_CHECKS)


def test_every_file_of_checks_is_in_the_registry() -> None:
    folder = Path(gladstack.proof.checks.__file__).parent
    files = {path.stem for path in folder.glob("*.py")} - {"__init__"}
    assert {check.findings.__module__.rsplit(".", 1)[-1] for check in CHECKS} == files


def test_no_two_checks_share_a_code() -> None:
    codes = [code for check in CHECKS for code in check.codes]
    assert len(set(codes)) == len(codes)
