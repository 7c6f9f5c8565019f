"""The demo designs and examples, added to a store that does not have them yet."""

from __future__ import annotations

from importlib import resources
from pathlib import Path

from gladstack.core.picture.decode import picture_header
from gladstack.recipe.art.written import read_recipe
from gladstack.recipe.model.arts import PictureArt, Separation
from gladstack.recipe.model.recipe import FilmChoice, JointRule, Recipe, SmallPieces
from gladstack.recipe.model.uses import Use
from gladstack.store.designs import Brought, DesignBook

_FOLDER = resources.files("gladstack.demo")
EXAMPLES = Path(str(_FOLDER / "examples"))
"""The recipes, jobs and lists of the examples."""


def _recipe(
    name: str, filename: str, width_mm: float, use: Use, joint: JointRule, count: int | None = None, **more: object
) -> Recipe:
    separation = Separation(count=count)
    art = PictureArt(id="picture", picture="0" * 64, filename=filename, width_mm=width_mm, separation=separation)
    return Recipe.model_validate({"name": name, "arts": (art,), "use": use, "joint": joint, **more})


def demo_recipes() -> dict[str, Recipe]:
    """Recipes by the ids of their designs; their picture hashes are filled in when they are added."""
    return {
        "demo-mug": _recipe(
            "Mug for the helpers at the eyepiece: a parade of wandering planets over the ridge at dusk",
            "wanderers.png", 190.0, Use.SURFACE, JointRule(kind="lap", mm=0.3),
        ),
        "demo-sticker": _recipe(
            "Night owl sticker", "night-owl.jpg", 80.0, Use.SURFACE, JointRule(kind="gap", mm=0.8),
            count=7,
        ),
        "demo-window": _recipe(
            "Hill-top window", "hill-top.png", 240.0, Use.SURFACE, JointRule(kind="lap", mm=0.5),
            films=(FilmChoice(film="#cfd6dd", small=SmallPieces(below_mm2=0.5, how="merge")),),
        ),
        "demo-badge": _recipe(
            "Badge of the open evening", "watch-badge.jpg", 90.0, Use.SURFACE, JointRule(kind="lap", mm=0.4),
            films=(FilmChoice(film="#6c974f", small=SmallPieces(below_mm2=0.5, how="merge")),),
        ),
        "demo-shirt": _recipe(
            "Open evening shirt", "night-owl.png", 230.0, Use.PRESSED, JointRule(kind="full", mm=0.6),
        ),
    }  # fmt: skip


def example_files() -> list[Path]:
    """The recipe files of the examples."""
    return sorted(f for f in EXAMPLES.glob("*.json") if not f.name.startswith("job-"))


def job_files() -> list[Path]:
    """The job files of the examples."""
    return sorted(EXAMPLES.glob("job-*.json"))


def add_demo_designs(store: DesignBook) -> None:
    """Adds those demo designs and examples that `store` does not have."""
    for file in reversed(example_files()):
        bring_demo(store, f"example-{file.stem}")
    for design in demo_recipes():
        bring_demo(store, design)


def bring_demo(store: DesignBook, design: str) -> None:
    """Adds a demo design or example by its id, unless `store` has it."""
    if store.has(design):
        return
    file = next((file for file in example_files() if f"example-{file.stem}" == design), None)
    if file is not None:
        recipe, held = read_recipe(file.read_text(encoding="utf-8"), file.parent)
        brought = [_picture(held[digest], file.name) for digest in recipe.picture_hashes()]
        brought += [Brought.file(held[digest], file.name) for digest in recipe.file_hashes()]
        store.create(recipe, id_=design, label="Opened the example", brought=brought)
        return
    recipe = demo_recipes()[design]
    (art,) = recipe.pictures()
    picture = _picture((_FOLDER / "pictures" / art.filename).read_bytes(), art.filename)
    arts = (art.model_copy(update={"picture": picture.digest}),)
    store.create(recipe.model_copy(update={"arts": arts}), id_=design, brought=[picture])


def _picture(data: bytes, filename: str) -> Brought:
    return Brought.picture(data, filename, *picture_header(data))
