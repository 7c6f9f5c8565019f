"""Small faults put into the code one at a time: how many do the tests find?

`python -m bench.mutants [minutes [seed]]` by itself. First all tests run once, and it is written down which lines each of
them reaches, and how long it takes. Then faults are drawn at random from the modules below, and put into a copy of the
project; the tests that reach the line are run on it, quick ones first, until one fails. What no test finds is printed.
"""

from __future__ import annotations

import ast
import json
import os
import random
import secrets
import shutil
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from coverage import CoverageData

ROOT = Path(__file__).parent.parent
PARTS = (
    "gladstack/core/films", "gladstack/core/plan", "gladstack/shop", "gladstack/store", "gladstack/recipe/edit",
    "gladstack/api/base/guard.py",
)  # fmt: skip
TESTS = (
    "tests/core", "tests/recipe", "tests/proof", "tests/shop", "tests/store", "tests/machine", "tests/cutter",
    "tests/api/test_api.py", "tests/api/test_cutting.py", "tests/api/test_door.py", "tests/api/test_list.py",
    "tests/api/test_proof.py", "tests/api/test_shop.py", "tests/api/test_versions.py", "tests/test_cli.py",
)  # fmt: skip
_COPIES = 2
_LATE_S = 300.0
_WORTH_S = 90.0
"""Tests that reach a line are run for about so long."""
_SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.GtE, ast.LtE: ast.Gt, ast.Gt: ast.LtE, ast.GtE: ast.Lt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.And: ast.Or, ast.Or: ast.And,
    ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In,
}  # fmt: skip


def sites(tree: ast.Module) -> Iterator[tuple[ast.AST, str]]:
    """Everything in a module that can be made wrong, and in what; compiled loops, types and messages are left alone.

    Comparisons are turned round: of two lengths none is ever just the other, so that to move the limit by nothing tells
    nothing. Axes, shapes of arrays and digits of rounding are left alone for the same reason.
    """
    idle = {id(part) for node in ast.walk(tree) for own in _idle(node) for part in ast.walk(own)}
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef):
            if any("jit" in ast.unparse(d) for d in node.decorator_list):
                continue
            for part in (p for line in node.body for p in ast.walk(line)):
                yield from ((part, how) for how in _ways(part) if id(part) not in idle)


def _idle(node: ast.AST) -> Iterator[ast.AST]:
    if isinstance(node, ast.Call):
        yield from (k.value for k in node.keywords if k.arg in ("axis", "ndmin", "decimals"))
        name = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
        yield from node.args if name == "reshape" else node.args[1:] if name == "round" else ()


def _ways(node: ast.AST) -> Iterator[str]:
    if isinstance(node, ast.Compare) and type(node.ops[0]) in _SWAPS:
        yield "compare"
    # Text is put together with + as well.
    if isinstance(node, ast.BinOp) and type(node.op) in _SWAPS and not isinstance(node.left, ast.JoinedStr):
        yield "operator"
    if isinstance(node, ast.BoolOp):
        yield "operator"
    if isinstance(node, ast.Constant) and type(node.value) in (int, float, bool):
        yield "number"
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
        yield "not"
    if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in ("min", "max", "any", "all"):
        yield "call"


def harm(node: ast.AST, how: str) -> None:
    """Makes one thing wrong, in place."""
    if how == "compare" and isinstance(node, ast.Compare):
        node.ops[0] = _SWAPS[type(node.ops[0])]()  # type: ignore[call-overload]
    elif how == "operator" and isinstance(node, ast.BinOp | ast.BoolOp):
        node.op = _SWAPS[type(node.op)]()  # type: ignore[assignment]
    elif how == "number" and isinstance(node, ast.Constant):
        value = node.value
        node.value = not value if isinstance(value, bool) else value + 1 if isinstance(value, int) else value * 2 + 1  # type: ignore[operator]
    elif how == "not" and isinstance(node, ast.UnaryOp):
        node.operand = ast.UnaryOp(ast.Not(), node.operand)
    elif how == "call" and isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
        node.func.id = {"min": "max", "max": "min", "any": "all", "all": "any"}[node.func.id]


@dataclass(frozen=True)
class Reached:
    """The tests that reach each line of each file, and how long every test takes."""

    by_file: dict[str, dict[int, list[str]]]
    seconds: dict[str, float]

    def of(self, path: str, lines: range) -> list[str]:
        """The tests that reach any of some lines, quick ones first, as many as are worth running."""
        tests = {test for line in lines for test in self.by_file[path].get(line, ()) if test}
        chosen, spent = [], 0.0
        for test in sorted(tests, key=lambda t: self.seconds[t]):
            if chosen and spent + self.seconds[test] > _WORTH_S:
                break
            chosen.append(test)
            spent += self.seconds[test]
        return chosen


def copied(folder: Path) -> Path:
    """A copy of the project, with what has been compiled."""
    for name in ("gladstack", "tests", "bench", "docs", "scripts", "examples"):
        shutil.copytree(ROOT / name, folder / name)
    for name in ("pyproject.toml", "requirements.txt", "requirements-dev.txt", "README.md", "Makefile"):
        shutil.copy2(ROOT / name, folder)
    return folder


def run(folder: Path, *arguments: str, **more: str) -> int:
    """pytest in a copy of the project: how it ended."""
    env = {**os.environ, "PYTHONPATH": str(folder), "PYTHONDONTWRITEBYTECODE": "1", **more}
    command = [sys.executable, "-m", "pytest", "-q", "-x", "--no-header", *arguments]
    late = None if more else _LATE_S
    return subprocess.run(command, cwd=folder, env=env, capture_output=True, timeout=late).returncode


def reached(folder: Path) -> Reached:
    """Runs all tests once."""
    with tempfile.TemporaryDirectory() as name:
        if run(folder, "-p", "bench.reached", *TESTS, GLADSTACK_REACHED=name):
            sys.exit("The tests fail without any fault in the code")
        data = CoverageData(str(Path(name) / "lines"))
        data.read()
        by_file = {str(Path(file).relative_to(folder)): data.contexts_by_lineno(file) for file in data.measured_files()}
        return Reached(by_file, json.loads((Path(name) / "seconds.json").read_text()))


@dataclass(frozen=True)
class Fault:
    """One thing made wrong: the whole text of the file with it, where, and how it reads."""

    path: str
    lines: range
    text: str
    says: str


def faults() -> list[tuple[str, int]]:
    """Every fault there could be: a file, and the how-manieth of it."""
    paths = [p for part in PARTS for p in ([ROOT / part] if part.endswith(".py") else sorted((ROOT / part).rglob("*.py")))]
    return [(str(p.relative_to(ROOT)), k) for p in paths for k in range(len(list(sites(ast.parse(p.read_text())))))]


def fault(path: str, number: int) -> Fault:
    tree = ast.parse((ROOT / path).read_text())
    node, how = list(sites(tree))[number]
    line, last = getattr(node, "lineno", 0), getattr(node, "end_lineno", 0)
    before = ast.unparse(node)
    harm(node, how)
    return Fault(path, range(line, last + 1), ast.unparse(tree), f"{path}:{line}: {before}  ->  {ast.unparse(node)}")


def found(folder: Path, what: Fault, tests: list[str]) -> bool:
    """Whether a test fails with a fault in the code."""
    if not tests:
        return False
    target = folder / what.path
    target.write_text(what.text)
    try:
        return run(folder, *tests) != 0
    except subprocess.TimeoutExpired:
        return True
    finally:
        shutil.copy2(ROOT / what.path, target)
        # Loops compiled from the fault go as well.
        for kept in (ROOT / what.path).parent.glob(f"__pycache__/{target.stem}.*.nb?"):
            shutil.copy2(kept, target.parent / "__pycache__")


def main() -> None:
    """Prints the share found, part by part, and what was not."""
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else 60.0
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else secrets.randbelow(2**31)
    drawn = faults()
    random.Random(seed).shuffle(drawn)
    told, killed = Counter[str](), Counter[str]()
    with tempfile.TemporaryDirectory() as name:
        folders = [copied(Path(name) / str(k)) for k in range(_COPIES)]
        reach = reached(folders[0])
        end = time.monotonic() + 60 * minutes

        def work(folder: Path) -> None:
            while drawn and time.monotonic() < end:
                what = fault(*drawn.pop())
                part = next(p for p in PARTS if what.path.startswith(p))
                dead = found(folder, what, reach.of(what.path, what.lines))
                told[part] += 1
                killed[part] += dead
                if not dead:
                    print(f"  not found: {what.says}", flush=True)

        with ThreadPoolExecutor(_COPIES) as pool:
            list(pool.map(work, folders))
    for part, count in told.items():
        print(f"{part}: {killed[part]} of {count}")
    print(f"Found {killed.total()} of {told.total()} ({killed.total() / max(1, told.total()):.0%}), seed {seed}")


if __name__ == "__main__":
    main()
