"""Random jobs for tests: designs of lettering and shapes, on shelves with rolls, sheets and offcuts."""

from __future__ import annotations

import random
from typing import Any, get_args

from gladstack.demo.shelf import demo_shop
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.uses import Use
from gladstack.shop.jobs.job import Finishing, Job, JobDesign
from gladstack.shop.plan.plan import plan
from gladstack.shop.plan.planned import Plan
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Piece
from gladstack.stages.memo import Memo

RED, NAVY, GOLD, BRASS = "#c0392b", "#1d2b53", "#f2b632", "#c99a2e"
MEMO = Memo()


def no_picture(digest: str) -> bytes:
    raise AssertionError(digest)


def built(recipe: dict[str, Any]) -> Built:
    return build(Recipe.model_validate({"name": "Design", **recipe}), Assets(picture=no_picture), MEMO)


def squares(colours: list[str], use: str = "surface", joint: str = "full", **more: Any) -> Built:
    """Squares of some colours, each smaller one on a larger."""
    arts = [
        {
            "kind": "shape", "id": f"s{k}", "film": colour,
            "form": {"form": "rectangle", "width_mm": 60 - 8 * k, "height_mm": 60 - 8 * k},
        }
        for k, colour in enumerate(dict.fromkeys(colours))
    ]  # fmt: skip
    return built({"arts": arts, "use": use, "joint": {"kind": joint, "mm": 0.4}, **more})


def random_design(rng: random.Random) -> Built:
    """Two to four pieces of art of up to three films."""
    arts: list[dict[str, Any]] = []
    for k in range(rng.randint(2, 4)):
        place = {"x_mm": rng.uniform(-30, 30), "y_mm": rng.uniform(-20, 20), "turn_deg": rng.choice([0, 17, 90])}
        art: dict[str, Any] = {"id": f"art{k}", "film": (RED, NAVY, GOLD)[k % 3], "place": place}
        if rng.random() < 0.5:
            art |= {
                "kind": "lettering",
                "text": rng.choice(["OWL", "8", "Rad"]),
                "font": "inter-black",
                "height_mm": rng.choice([8, 20]),
            }
        else:
            size = {"width_mm": rng.uniform(20, 90), "height_mm": rng.uniform(10, 60)}
            forms = [{"form": "star"}, {"form": "ring"}, {"form": "rectangle", **size}]
            art |= {"kind": "shape", "form": rng.choice(forms)}
        arts.append(art)
    joint = {"kind": rng.choice(["butt", "lap", "full"]), "mm": 0.4}
    return built({"arts": arts, "joint": joint, "use": rng.choice([use.value for use in Use])})


def random_shop(rng: random.Random) -> Shop:
    """A film of each colour for either method, with a roll, sheets, and perhaps an offcut."""
    materials, pieces = [], []
    for k, colour in enumerate((RED, NAVY, GOLD)):
        for pressed in (False, True):
            id_ = f"film-{k}{'p' if pressed else ''}"
            shrink = rng.choice([0.0, 0.004]) if pressed else 0.0
            materials.append(
                Material.model_validate(
                    {
                        "id": id_, "name": id_, "colour": colour, "kind": "smooth" if pressed else "adhesive",
                        "face": "back" if pressed else "front", "grain": rng.choice(["free", "half", "none"]),
                        "spacing_mm": rng.choice([1.0, 2.0, 4.0]), "margin_mm": rng.choice([3.0, 9.0]),
                        "shrink_along": shrink, "shrink_across": rng.choice([shrink, 0.0]), "cost_m2": 10.0,
                    }
                )
            )  # fmt: skip
            pieces.append(
                Piece(
                    id=f"{id_}-roll", material=id_, kind="roll", width_mm=rng.choice([210, 310]), length_mm=9000, left=9000
                )
            )
            if rng.random() < 0.4:
                pieces.append(Piece(id=f"{id_}-sheets", material=id_, kind="sheet", width_mm=300, length_mm=400, left=3))
            if rng.random() < 0.5:
                width, length = rng.uniform(60, 200), rng.uniform(60, 300)
                pieces.append(
                    Piece(id=f"{id_}-offcut", material=id_, kind="offcut", width_mm=width, length_mm=length, left=1)
                )
    return Shop(materials=tuple(materials), pieces=tuple(pieces))


def random_job(rng: random.Random) -> tuple[Job, dict[str, Built], Shop]:
    designs = {f"d{k}": random_design(rng) for k in range(rng.randint(1, 2))}
    boxes, kinds = ["none", "sheet", "copy", "word", "part"], ["crosses", "circles", "squares", "corners"]
    job = Job.model_validate(
        {
            "name": "Job",
            "designs": [{"design": k, "name": k, "copies": rng.randint(1, 4)} for k in designs],
            "layout": rng.choice(["register", "nested"]),
            "together": rng.choice([None, "parts", "word", "within", "copy"]),
            "weeding": {"box": rng.choice(boxes), "lines": rng.random() < 0.6, "strip_mm": rng.choice([30, 80])},
            "marks": {"kind": rng.choice(kinds), "count": rng.choice([0, 3, 4]), "inside": rng.random() < 0.5},
            "tiles": {
                "most_mm": rng.choice([None, 60.0]),
                "each_film": rng.random() < 0.5,
                "overlap_mm": rng.choice([None, 0.0, 3.0]),
            },
            "share": rng.random() < 0.3,
            "slug": rng.random() < 0.5,
            "test_cut": rng.random() < 0.5,
            "pressing": {"finish": rng.choice(get_args(Finishing))},
        }
    )
    return job, designs, random_shop(rng)


def drawn_design(*, fill: float = 0.5, pen: str | None = None) -> Built:
    """A red square that a blue star and a golden ellipse are drawn on, the star filled in by a pen with lines of a width."""
    arts = [
        {"kind": "shape", "id": "a", "film": RED, "form": {"form": "rectangle", "width_mm": 90, "height_mm": 60}},
        {"kind": "shape", "id": "b", "film": NAVY, "form": {"form": "star", "across_mm": 20}},
        {"kind": "shape", "id": "c", "film": BRASS, "form": {"form": "ellipse", "width_mm": 30, "height_mm": 20}},
    ]
    films = [
        {"film": NAVY, "drawn": "filled", "drawn_on": RED, "pen": pen, "line_mm": fill},
        {"film": BRASS, "drawn": "outlines", "drawn_on": RED, "pen": "gold-pen", "line_mm": 0.8},
    ]
    return built({"arts": arts, "films": films})


def two_pens(design: Built | None = None) -> Plan:
    """The sheet of such a design."""
    job = Job(name="Pens", designs=(JobDesign(design="d", name="Pens"),))
    return plan(job, {"d": design or drawn_design()}, demo_shop())
