"""Random stacks judged from their written files, each format by a reader that is not ours: does the film give the picture?

`python -m bench.written [stacks [seed]]` by itself.
"""

from __future__ import annotations

import multiprocessing
import random
import secrets
import sys
import time

import numpy as np
import shapely
from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from bench.robust import random_stack
from gladstack.core.base import tolerances
from gladstack.core.base.errors import GladStackError
from gladstack.core.geometry import overlay
from gladstack.demo.shelf import demo_shop
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.measured import wrong_area_ratio
from gladstack.shop.files.formats import sheet_files
from gladstack.shop.jobs.job import Job
from gladstack.shop.plan.plan import plan
from gladstack.shop.plan.planned import SheetPlan
from gladstack.stages.memo import Memo
from tests import readers
from tests.readers import Points

STACKS = 2_000
FORMATS = {
    ".svg": lambda data, height: readers.svg_lines(data),
    ".dxf": readers.dxf_lines,
    ".pdf": lambda data, height: readers.pdf_lines(data),
    ".hpgl": readers.hpgl_lines,
}
_OFF_MM = {".svg": 0.02, ".dxf": 0.02, ".pdf": 0.02, ".hpgl": 0.045}
"""How far a written edge may be off: what a curve is fitted within, and half a step of a plotter besides."""


def covered(lines: list[Points]) -> BaseGeometry:
    """What closed lines enclose, by even and odd."""
    rings = [line for line in lines if len(line) > 3 and np.hypot(*(line[0] - line[-1])) < 1e-6]
    whole: BaseGeometry = MultiPolygon()
    for ring in rings:
        whole = shapely.symmetric_difference(whole, shapely.make_valid(shapely.Polygon(ring)))
    return whole


def wrong_share(wanted: BaseGeometry, found: BaseGeometry, lines: list[Points], off_mm: float) -> float:
    """How much of the wanted area is missing or too much, beyond edges that are off by so much.

    A tip thinner than a plotter's step encloses nothing any more, yet the blade goes along it: it is there.
    """
    cut = shapely.union_all([found, *(shapely.LineString(line) for line in lines)])
    missing = shapely.difference(wanted, cut.buffer(off_mm)).area
    extra = shapely.difference(found, wanted.buffer(off_mm)).area
    return float((missing + extra) / max(wanted.area, 1e-9))


def _made_valid(shape: BaseGeometry) -> BaseGeometry:
    """Where two lobes of a part meet, or a hole and its edge, moving it may leave them crossing by the last bit.

    One way of making it valid loses a lobe then, another a hole, or both do: that is right which keeps the area.
    """
    if shape.is_valid:
        return shape
    ways = (
        shapely.make_valid(shape),
        shapely.make_valid(shape, method="structure", keep_collapsed=False),
        *(shapely.set_precision(shape, grid) for grid in (1e-9, 1e-7, 1e-6)),
    )
    return min(ways, key=lambda way: abs(way.area - shape.area))


def judged(sheet: SheetPlan, data: bytes, ending: str) -> float:
    """How wrong one written sheet is."""
    wanted = shapely.union_all([_made_valid(p.shape) for p in sheet.parts])
    lines = FORMATS[ending](data, sheet.width_mm)
    return wrong_share(wanted, covered(lines), lines, _OFF_MM[ending])


def one(seed: int) -> dict[str, float]:
    """A random stack: the worst wrong share by format, of the build itself, needles, and overlap where all is butt."""
    rng = random.Random(seed)
    recipe = random_stack(rng)
    out = dict.fromkeys((*FORMATS, "build", "needles", "overlap mm2"), 0.0)
    try:
        made = build(recipe, Assets(picture=lambda key: b""), Memo())
        tiles = {"most_mm": rng.choice([30, 300])}
        job = {"name": "Stack", "designs": [{"design": "d", "name": "Stack"}], "tiles": tiles, "weeding": {"box": "none"}}
        laid = plan(Job.model_validate(job | {"slug": False, "marks": {"count": 0}}), {"d": made}, demo_shop())
    except GladStackError:
        return out
    out["build"] = wrong_area_ratio(made)
    cuts = [layer.cut for layer in made.layers]
    rings = [ring for cut in cuts for ring in shapely.get_rings(cut.geoms)]
    step = tolerances.RESOLVED_MM
    out["needles"] = float(sum(shapely.Polygon(ring).area < step * step for ring in rings))
    if recipe.joint.kind == "butt":
        pairs = [overlay.intersection(a, b).area for k, a in enumerate(cuts) for b in cuts[k + 1 :]]
        out["overlap mm2"] = max(pairs, default=0.0)
    files = sheet_files(laid, ["svg", "dxf", "hpgl", "pdf"])
    for sheet in laid.sheets:
        for ending in FORMATS:
            worst = judged(sheet, files[f"sheets/{sheet.stem}{ending}"], ending)
            out[ending] = max(out[ending], worst)
    return out


def main() -> None:
    """Prints how many stacks are wrong in each way."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else STACKS
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else secrets.randbelow(2**31)
    begin = time.perf_counter()
    wrong: dict[str, list[tuple[float, int]]] = {}
    with multiprocessing.get_context("forkserver").Pool(2) as pool:
        for k, found in enumerate(pool.imap(one, range(seed, seed + count))):
            for what, figure in found.items():
                if figure > tolerances.WRONG_AREA_RATIO:
                    wrong.setdefault(what, []).append((figure, seed + k))
    told = [f"{what} {len(found)} (worst {max(found)[0]:.2g}, seed {max(found)[1]})" for what, found in wrong.items()]
    spent = time.perf_counter() - begin
    print(f"{count} stacks from seed {seed}, written and read back: wrong {', '.join(told) or 'none'}; {spent:.0f} s")


if __name__ == "__main__":
    main()
