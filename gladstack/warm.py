"""Compiles every module and every inner loop once, so that neither a command nor the first picture waits for it."""

from __future__ import annotations

import compileall
import io
import time
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw

from gladstack.core.base.compiled import record
from gladstack.proof.on_film import on_film
from gladstack.proof.prove import proof_on_film
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.arts import LetteringArt, PictureArt, Separation
from gladstack.recipe.model.recipe import JointRule, Recipe
from gladstack.shop.jobs.job import Job
from gladstack.shop.plan.plan import plan
from gladstack.shop.shelf.shelf import Shop
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo

_ONE = {"design": "d", "name": "Warm"}
_PICTURES = Path(__file__).parent / "demo" / "pictures"


def warm() -> float:
    """Builds small pictures, clean, lossy, shadowed and dithered, lays their films and proves them; returns the seconds."""
    begin = time.perf_counter()
    # Also where Python is told not to write what it compiles by itself.
    compileall.compile_dir(str(Path(__file__).parent), quiet=1)
    picture = Image.new("RGB", (96, 96), "#f4f0e4")
    draw = ImageDraw.Draw(picture)
    draw.ellipse((10, 10, 70, 74), fill="#1d2b53")
    draw.polygon([(30, 80), (88, 40), (90, 90)], fill="#c0392b")
    draw.line((4, 88, 60, 86), fill="#f2b632", width=2)
    draw.point((80, 12), fill="#1d2b53")
    soft = Image.fromarray(np.asarray(picture.resize((192, 192), Image.Resampling.BICUBIC)))
    shaded = picture.copy()
    glow = Image.radial_gradient("L").resize((96, 96))
    shaded.paste("#8a8a8a", (0, 0), Image.eval(glow, lambda v: 255 - v))
    shaded.paste(picture.crop((20, 20, 60, 60)), (28, 28))
    dots = picture.quantize(8, dither=Image.Dither.NONE).convert("RGB")
    dots.putdata([c if (k + k // 96) % 2 else (255, 255, 255) for k, c in enumerate(dots.getdata())])
    owl = Image.open(_PICTURES / "night-owl.jpg")
    first: Built | None = None
    for image, form in (
        (picture, "PNG"), (soft, "PNG"), (soft, "JPEG"), (shaded, "PNG"), (dots, "PNG"), (owl.reduce(3), "JPEG"),
    ):  # fmt: skip
        data = io.BytesIO()
        image.save(data, form, **({"quality": 70} if form == "JPEG" else {}))
        for joint in ("butt", "lap") if image is picture else ("lap",):
            recipe = Recipe(
                name="Warm",
                arts=(
                    PictureArt(picture="0" * 64, width_mm=60.0, separation=Separation(count=2, background="keep")),
                    LetteringArt(id="words", text="Stack", height_mm=8.0),
                ),
                joint=JointRule(kind=joint, mm=0.4),
            )
            made = build(recipe, Assets(picture=lambda key, held=data: held.getvalue()))  # type: ignore[misc]
            first = first or made
    assert first
    for layout in ("register", "nested"):
        job = Job.model_validate(
            {
                "name": "Warm", "designs": [{"design": "d", "name": "Warm", "copies": 2}], "layout": layout, "slug": True,
                "weeding": {"box": "sheet", "lines": True, "strip_mm": 20}, "tiles": {"most_mm": 40},
            }
        )  # fmt: skip
        plan(job, {"d": first}, Shop())
    proof_on_film(on_film(first, Job.model_validate({"name": "Warm", "designs": [_ONE]}), Shop(), Stages(Memo())))
    record()
    return time.perf_counter() - begin
