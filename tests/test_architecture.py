"""Imports run one way, and what is written down about the code is true."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent
LAYERS = {"core": 0, "recipe": 1, "store": 2, "work": 3, "demo": 3, "api": 4}
FILES = sorted((ROOT / "gladstack").rglob("*.py"))


def imports_of(path: Path) -> set[str]:
    tree = ast.parse(path.read_text())
    found = {n.module for n in ast.walk(tree) if isinstance(n, ast.ImportFrom) and n.module}
    return found | {a.name for n in ast.walk(tree) if isinstance(n, ast.Import) for a in n.names}


@pytest.mark.parametrize("path", FILES, ids=lambda p: str(p.relative_to(ROOT)))
def test_imports_point_one_way(path: Path) -> None:
    parts = path.relative_to(ROOT / "gladstack").parts
    own = LAYERS.get(parts[0], 9)
    for name in imports_of(path):
        if name.startswith("gladstack.") and (layer := name.split(".")[1]) in LAYERS:
            assert LAYERS[layer] <= own, f"{path.name} imports {name}"
    if own == 0:
        assert not {"fastapi", "sqlite3", "pydantic", "os", "time", "random", "subprocess"} & imports_of(path)


@pytest.mark.parametrize("path", FILES, ids=lambda p: str(p.relative_to(ROOT)))
def test_files_stay_small(path: Path) -> None:
    assert len(path.read_text().splitlines()) <= 430


def test_every_dependency_is_pinned_and_accounted_for() -> None:
    told = (ROOT / "docs" / "dependencies.md").read_text()
    for name in ("requirements.txt", "requirements-dev.txt"):
        for line in (ROOT / name).read_text().splitlines():
            if line and not line.startswith("-r"):
                assert re.fullmatch(r"[\w-]+==[\w.]+", line)
                assert f"**{line.split('==')[0]}**" in told


def test_the_readme_shows_every_screenshot() -> None:
    told = (ROOT / "README.md").read_text()
    for shot in (ROOT / "docs" / "screenshots").glob("*.png"):
        assert f"docs/screenshots/{shot.name}" in told
