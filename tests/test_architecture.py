"""Imports run one way, and what is written down about the code is true."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent
ROWS = (
    ("core/base",),
    ("core/geometry",),
    ("core/picture", "core/drawing", "core/lettering"),
    ("core/films",),
    ("core/plan",),
    ("core/write",),
    ("stages",),
    ("recipe/model",),
    ("recipe/edit", "recipe/art"),
    ("recipe/build",),
    ("shop/shelf",),
    ("shop/jobs",),
    ("shop/plan",),
    ("shop/cut", "shop/papers"),
    ("shop/files",),
    ("proof",),
    ("store", "warm", "cutter", "settings"),
    ("work", "demo", "machine"),
    ("api/base",),
    ("api/views",),
    ("api/tasks",),
    ("api/desks",),
    ("api/routes",),
    ("api",),
    ("commands",),
    ("cli",),
)
"""Each row may import from the rows before it; packages of one row never import each other: docs/architecture.md."""
ROW = {package: k for k, row in enumerate(ROWS) for package in row}
PURE_FROM = ROW["stages"]
"""The rows before this one are the core: no interface, no files, no clock, no chance."""
IMPURE = {"fastapi", "sqlite3", "pydantic", "os", "time", "random", "subprocess", "threading", "logging"}
FILES = sorted((ROOT / "gladstack").rglob("*.py"))


def imports_of(path: Path) -> set[str]:
    tree = ast.parse(path.read_text())
    found = {n.module for n in ast.walk(tree) if isinstance(n, ast.ImportFrom) and n.module}
    return found | {a.name for n in ast.walk(tree) if isinstance(n, ast.Import) for a in n.names}


def package_of(name: str) -> str:
    """The package of the table that a module belongs to: `gladstack.core.films.joints` to `core/films`."""
    parts = name.split(".")[1:]
    two = "/".join(parts[:2])
    return two if two in ROW else parts[0]


WEB = ROOT / "web" / "src"
WEB_ROWS = (("geometry",), ("api",), ("state",), ("entry",), ("parts", "stage"), ("places",), ("pages",), ("",))
"""The front end's rows, as above; the last is the app itself. Pages have nothing of each other."""
WEB_ROW = {folder: k for k, row in enumerate(WEB_ROWS) for folder in row}
WEB_FILES = sorted(p for p in WEB.rglob("*.ts*") if p.name != "schema.ts")


def web_folder(path: Path) -> str:
    parts = path.relative_to(WEB).parts
    return parts[0] if len(parts) > 1 else ""


@pytest.mark.parametrize("path", WEB_FILES, ids=lambda p: str(p.relative_to(WEB)))
def test_imports_of_the_front_end_point_one_way(path: Path) -> None:
    own = web_folder(path)
    assert own in WEB_ROW, f"{own} is not in the table"
    for name in re.findall(r'(?:from|import\()\s*"(@/[^"]+|\.[^"]+)"', path.read_text()):
        target = WEB / name[2:] if name.startswith("@/") else (path.parent / name).resolve()
        if not target.is_relative_to(WEB):
            continue
        other = web_folder(target)
        assert other == own or WEB_ROW[other] < WEB_ROW[own], f"{path.relative_to(WEB)} imports {name}"
        if own == other == "pages":
            assert target.relative_to(WEB).parts[1] == path.relative_to(WEB).parts[1], f"one page imports {name} of another"


@pytest.mark.parametrize("path", WEB_FILES, ids=lambda p: str(p.relative_to(WEB)))
def test_files_of_the_front_end_stay_small(path: Path) -> None:
    assert len(path.read_text().splitlines()) <= 350


def test_the_simulated_cutter_shares_no_code_with_what_writes_for_cutters() -> None:
    for path in (ROOT / "gladstack/cutter").glob("*.py"):
        ours = {name for name in imports_of(path) if name.startswith("gladstack.")}
        assert all(name.startswith("gladstack.cutter") for name in ours), path


@pytest.mark.parametrize("path", [p for p in FILES if p.name != "__init__.py"], ids=lambda p: str(p.relative_to(ROOT)))
def test_imports_point_one_way(path: Path) -> None:
    own = package_of(".".join(path.relative_to(ROOT).with_suffix("").parts))
    assert own in ROW, f"{own} is not in the table"
    for name in imports_of(path):
        if name.startswith("gladstack."):
            other = package_of(name)
            assert other == own or ROW[other] < ROW[own], f"{own} imports {name}"
    if ROW[own] < PURE_FROM:
        assert not IMPURE & {name.split(".")[0] for name in imports_of(path)}


@pytest.mark.parametrize("path", FILES, ids=lambda p: str(p.relative_to(ROOT)))
def test_files_stay_small(path: Path) -> None:
    assert len(path.read_text().splitlines()) <= 350


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
