"""`make bench`: every figure that is promised, beside what it is held against. Ratios within one run; nothing is asserted.

python -m bench.run [--quick]
"""

from __future__ import annotations

import json
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np

from bench.drawings import drawings
from bench.lettering import exactness, typing
from bench.line_drawings import line_art
from bench.measure import Row, corner_distances, encode, measure
from bench.regions import many_regions, simplifying
from gladstack.warm import warm

CASES = ((512, None), (1024, None), (2048, None), (512, 75), (512, 60), (1024, 75))
LARGE_PX = 4096


def main() -> None:
    quick = "--quick" in sys.argv
    if "--memory" in sys.argv:
        return _memory()
    print(f"warm-up {warm():.1f} s; {len(drawings())} drawings, {[len(d.colours) for d in drawings()]} colours\n")
    print("Separation, number of colours known; ours / the tracer's")
    heads = f"{'wrong % mean':>16} {'median':>9} {'worst':>7} {'commands':>9} {'time':>6} {'count right':>11}"
    print(f"{'case':>10} {heads} {'cover':>6} {'none':>4} {'twice':>5}")
    for width, quality in CASES[: 1 if quick else None]:
        _case(width, quality)
    _corners()
    _rebuilds()
    _interactive()
    typing()
    exactness()
    line_art()
    simplifying()
    many_regions()
    if not quick:
        peak = subprocess.run([sys.executable, "-m", "bench.run", "--memory"], capture_output=True, text=True, check=True)
        print(peak.stdout)


def _case(width: int, quality: int | None) -> None:
    rows = [measure(d, width, quality) for d in drawings()]
    wrong = np.array([r.wrong for r in rows])
    kind = f"JPEG {quality}" if quality else "PNG"
    right = sum(r.proposed == r.true_colours for r in rows)
    ratio = sum(r.commands for r in rows) / sum(r.tracer_commands for r in rows)
    seconds = sum(r.seconds for r in rows) / sum(r.tracer_seconds for r in rows)
    print(
        f"{width:>5} {kind:<7}{wrong.mean():.3f} / {np.mean([r.tracer_wrong for r in rows]):.3f} {np.median(wrong):9.3f} "
        f"{wrong.max():7.3f} {ratio:8.0%} {seconds:6.2f}x {right:>7}/{len(rows)} {_all(rows):>6} "
        f"{sum(r.uncovered for r in rows):>4} {sum(r.doubled for r in rows):>4}"
    )
    worst = max(rows, key=lambda r: r.wrong)
    missed = [f"{r.name} {r.proposed} for {r.true_colours}" for r in rows if r.proposed != r.true_colours]
    print(f"           worst: {worst.name}" + (f"; counts missed: {', '.join(missed)}" if missed else ""))


def _all(rows: list[Row]) -> str:
    return "exact" if all(r.valid for r in rows) else "FAULT"


def _corners() -> None:
    for width in (512, 1024):
        found = [d for drawing in drawings() for d in corner_distances(drawing, width)]
        print(
            f"\nCorners at {width} px: {len(found)} true ones, {np.mean(np.array(found) <= 0.5):.0%} within 0.5 px, "
            f"mean {np.mean(found):.2f} px, farthest {max(found):.2f} px"
        )


def _rebuilds() -> None:
    from pydantic import TypeAdapter

    from gladstack.recipe.art.given import Assets
    from gladstack.recipe.build.build import build
    from gladstack.recipe.edit.edits import Edit, apply_edit
    from gladstack.recipe.model.arts import PictureArt
    from gladstack.recipe.model.recipe import Recipe
    from gladstack.stages.memo import Memo

    adapter: TypeAdapter[Edit] = TypeAdapter(Edit)
    edits = {
        "default joint": {"kind": "set-joint", "rule": {"kind": "lap", "mm": 0.4}},
        "one joint": {"kind": "set-pair-joint", "a": "#fff4d6", "b": "#14100c", "rule": {"kind": "full", "mm": 0.5}},
        "order": {"kind": "order-films", "order": ["#6b4226", "#f2b632"]},
        "film name": {"kind": "rename-film", "film": "#f2b632", "name": "Moon"},
    }
    owl = drawings()[0]
    for width in (1024, 2048):
        load = Assets(partial(_hand_over, encode(owl, width, None)))
        base = Recipe(name="Owl", arts=(PictureArt(id="picture", picture="a" * 64, width_mm=120),))
        base = apply_edit(base, adapter.validate_python({"kind": "set-joint", "rule": {"kind": "full", "mm": 0.5}}))
        full, shares = [], {name: [] for name in edits}
        for _ in range(5):
            memo = Memo()
            full.append(_timed(partial(build, base, load, memo)))
            for name, edit in edits.items():
                recipe = apply_edit(base, adapter.validate_python(edit))
                shares[name].append(_timed(partial(build, recipe, load, memo)))
        whole = float(np.median(full))
        told = ", ".join(f"{name} {np.median(spent) / whole:.1%}" for name, spent in shares.items())
        print(f"\nRebuild after an edit, as a share of the full build ({width} px, {whole * 1000:.0f} ms): {told}")


def _client(app: Any) -> Any:
    from fastapi.testclient import TestClient

    return TestClient(app, base_url="http://127.0.0.1", client=("127.0.0.1", 50_000))


def _interactive() -> None:

    from gladstack.api.app import create_app

    with tempfile.TemporaryDirectory() as folder, _client(create_app(Path(folder))) as client:
        spent = []
        for drawing in drawings():
            data = encode(drawing, 1024, None)
            files = {"picture": ("a.png", data)}
            spent.append(_timed(partial(client.post, "/api/designs", files=files)))
    told = f"median {np.median(spent):.2f} s, worst {max(spent):.2f} s"
    print(f"\nFrom a dropped 1024 px picture to its layers in the answer: {told}")


def _memory() -> None:
    from gladstack.recipe.art.given import Assets
    from gladstack.recipe.build.build import build
    from gladstack.recipe.model.arts import PictureArt
    from gladstack.recipe.model.recipe import JointRule, Recipe

    peaks = {}
    for quality in (None, 75):
        data = encode(drawings()[13], LARGE_PX, quality)
        recipe = Recipe(name="Large", arts=(PictureArt(picture="a" * 64, width_mm=300),), joint=JointRule(kind="lap"))
        before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        seconds = _timed(partial(build, recipe, Assets(partial(_hand_over, data))))
        peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        peaks[f"JPEG {quality}" if quality else "PNG"] = (
            f"{peak / 2**20:.2f} GiB (the process held {before / 2**20:.2f} before), {seconds:.1f} s"
        )
    print(f"\nPeak memory of the process at {LARGE_PX} x {LARGE_PX} px: {json.dumps(peaks)}")


def _hand_over(data: bytes, key: str) -> bytes:
    return data


def _timed(call: Callable[[], object]) -> float:
    begin = time.perf_counter()
    call()
    return time.perf_counter() - begin


if __name__ == "__main__":
    main()
