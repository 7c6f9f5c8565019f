"""Small pictures of the demo designs, made ahead: the first page has them at once, before anything was built."""

from __future__ import annotations

import hashlib
import json
from importlib import resources
from pathlib import Path
from typing import Any

from gladstack.recipe.model.recipe import Recipe
from gladstack.store.designs import DesignBook
from gladstack.store.listing import Listing, Look

LOOKS = Path(str(resources.files("gladstack.demo"))) / "looks"
_LIST = "looks.json"


def add_demo_looks(store: DesignBook, listing: Listing) -> None:
    """Gives the demo designs that are as they came their small pictures, where they have none."""
    known = json.loads((LOOKS / _LIST).read_text(encoding="utf-8"))
    for line in listing.lines():
        told = known.get(line.id)
        if told is None or line.films is not None or listing.look(line.revision) is not None:
            continue
        if told["recipe"] == recipe_key(store.get(line.id).revision.recipe):
            png = (LOOKS / f"{line.id}.png").read_bytes()
            listing.keep_look(line.revision, Look(png, told["films"], told["width_mm"], told["height_mm"]))


def write_looks(looks: dict[str, tuple[Recipe, Look]]) -> None:
    """Writes the small pictures that are shipped, by design."""
    LOOKS.mkdir(exist_ok=True)
    told: dict[str, Any] = {}
    for design, (recipe, look) in looks.items():
        (LOOKS / f"{design}.png").write_bytes(look.png)
        figures = {"films": look.films, "width_mm": look.width_mm, "height_mm": look.height_mm}
        told[design] = {"recipe": recipe_key(recipe), **figures}
    (LOOKS / _LIST).write_text(json.dumps(told, indent=1) + "\n", encoding="utf-8")


def recipe_key(recipe: Recipe) -> str:
    """A hash of what a recipe chooses; a choice that later versions add, and that it does not make, changes nothing."""
    return hashlib.sha256(recipe.model_dump_json(exclude_defaults=True).encode()).hexdigest()
