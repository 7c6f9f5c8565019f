"""The demo designs, added to a store that does not have them yet."""

from __future__ import annotations

from importlib import resources

from gladstack.recipe.models import (
    JointRule,
    Method,
    PictureArt,
    Recipe,
    Separation,
    SheetChoice,
)
from gladstack.store.designs import DesignBook

_SMALL_SHEET = SheetChoice(width_mm=210.0, height_mm=297.0)


def _recipe(name: str, filename: str, width_mm: float, method: Method, joint: JointRule, **more: object) -> Recipe:
    art = PictureArt(picture="0" * 64, filename=filename, width_mm=width_mm)
    return Recipe.model_validate({"name": name, "art": art, "method": method, "joint": joint, **more})


def demo_recipes() -> dict[str, Recipe]:
    """Recipes by the ids of their designs; their picture hashes are filled in when they are added."""
    return {
        "demo-mug": _recipe(
            "Mug for the helpers at the eyepiece: a parade of wandering planets over the ridge at dusk",
            "wanderers.png", 190.0, "adhesive", JointRule(kind="lap", mm=0.3), sheet=_SMALL_SHEET,
        ),
        "demo-sticker": _recipe(
            "Night owl sticker", "night-owl.jpg", 80.0, "adhesive", JointRule(kind="gap", mm=0.8),
            separation=Separation(count=7),
        ),
        "demo-window": _recipe(
            "Hill-top window", "hill-top.png", 240.0, "adhesive", JointRule(kind="lap", mm=0.5), marks=True,
        ),
        "demo-shirt": _recipe(
            "Open evening shirt", "night-owl.png", 230.0, "heat-transfer", JointRule(kind="full", mm=0.6),
        ),
    }  # fmt: skip


def add_demo_designs(store: DesignBook) -> None:
    """Adds those demo designs that `store` does not have."""
    folder = resources.files("gladstack.demo") / "pictures"
    for design, recipe in demo_recipes().items():
        if store.has(design):
            continue
        picture = store.add_picture((folder / recipe.art.filename).read_bytes(), recipe.art.filename)
        art = recipe.art.model_copy(update={"picture": picture})
        store.create(recipe.model_copy(update={"art": art}), id_=design)
