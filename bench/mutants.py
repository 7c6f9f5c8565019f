"""Small faults put into the code one at a time: how many do the tests find?

`python -m bench.mutants [minutes [seed]]` by itself. Each fault is drawn at random from the modules below, and put into a
copy of the project; only the tests of its part are run on it, until one fails. What no test finds is printed.
"""

from __future__ import annotations

import ast
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
from pathlib import Path

ROOT = Path(__file__).parent.parent
_RECIPE = (
    "tests/recipe/test_edits.py",
    "tests/recipe/test_mends.py",
    "tests/recipe/test_meant.py",
    "tests/recipe/test_regions.py",
)
PARTS: dict[str, tuple[str, ...]] = {
    "gladstack/core/films": (
        "tests/core/films/test_joints.py", "tests/core/films/test_shadows.py", "tests/core/geometry/test_mending.py",
        "tests/core/films/test_needles.py", *_RECIPE, "tests/recipe/test_stack.py", "tests/recipe/test_build.py",
    ),
    "gladstack/core/plan": (
        "tests/core/plan/test_laying.py", "tests/core/plan/test_path.py", "tests/core/plan/test_strokes.py",
        "tests/core/drawing/test_packed.py",
        "tests/core/plan/test_compared.py", "tests/core/films/test_small_parts.py", "tests/shop",
    ),
    "gladstack/shop": ("tests/shop", "tests/store/test_shop.py", "tests/api/test_shop.py", "tests/machine"),
    "gladstack/store": ("tests/store", "tests/machine", "tests/api/test_list.py"),
    "gladstack/recipe/edit": (*_RECIPE, "tests/recipe/test_promise.py", "tests/api/test_api.py"),
    "gladstack/api/guard.py": ("tests/api/test_door.py", "tests/test_serve.py"),
}  # fmt: skip
_LATE_S = 400.0
_SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.And: ast.Or, ast.Or: ast.And,
    ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In,
}  # fmt: skip


def sites(tree: ast.Module) -> Iterator[tuple[ast.AST, str]]:
    """Everything in a module that can be made wrong, and in what; compiled loops, types and messages are left alone."""
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef):
            if any("compiled" in ast.unparse(d) for d in node.decorator_list):
                continue
            for part in (p for line in node.body for p in ast.walk(line)):
                yield from ((part, how) for how in _ways(part))


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


def found(folder: Path, tests: tuple[str, ...]) -> bool:
    """Whether a test fails."""
    env = {**os.environ, "PYTHONPATH": str(folder), "PYTHONDONTWRITEBYTECODE": "1"}
    command = [sys.executable, "-m", "pytest", "-q", "-x", "--no-header", *tests]
    try:
        done = subprocess.run(command, cwd=folder, env=env, capture_output=True, timeout=_LATE_S)
    except subprocess.TimeoutExpired:
        return True
    return done.returncode != 0


def main() -> None:
    """Prints the share found, part by part, and what was not."""
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else 60.0
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else secrets.randbelow(2**31)
    rng = random.Random(seed)
    files = {
        part: sorted(p for p in ([ROOT / part] if part.endswith(".py") else (ROOT / part).glob("*.py"))) for part in PARTS
    }
    told, killed = Counter[str](), Counter[str]()
    begin = time.monotonic()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for name_of in ("gladstack", "tests", "bench", "docs", "scripts", "examples"):
            shutil.copytree(ROOT / name_of, folder / name_of)
        for name_of in ("pyproject.toml", "requirements.txt", "requirements-dev.txt", "README.md", "Makefile"):
            shutil.copy2(ROOT / name_of, folder)
        for part, tests in PARTS.items():
            if found(folder, tests):
                sys.exit(f"The tests of {part} fail without any fault in it")
        while time.monotonic() < begin + 60 * minutes:
            part = rng.choice(list(PARTS))
            path = rng.choice(files[part])
            text = path.read_text()
            tree = ast.parse(text)
            places = list(sites(tree))
            if not places:
                continue
            node, how = rng.choice(places)
            before = ast.unparse(node)
            harm(node, how)
            target = folder / path.relative_to(ROOT)
            target.write_text(ast.unparse(tree))
            dead = found(folder, PARTS[part])
            target.write_text(text)
            told[part] += 1
            killed[part] += dead
            if not dead:
                line = getattr(node, "lineno", 0)
                print(f"  not found: {path.relative_to(ROOT)}:{line}: {before}  ->  {ast.unparse(node)}", flush=True)
    for part, count in told.items():
        print(f"{part}: {killed[part]} of {count}")
    print(f"Found {killed.total()} of {told.total()} ({killed.total() / max(1, told.total()):.0%}), seed {seed}")


if __name__ == "__main__":
    main()
