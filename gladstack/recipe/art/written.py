"""Recipes written down as JSON, with their pictures as files beside them."""

from __future__ import annotations

import hashlib
import json
from pathlib import Path, PurePath

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.art.vectors import is_vector, picture_within
from gladstack.recipe.model.recipe import Recipe


def read_recipe(text: str, folder: Path) -> tuple[Recipe, dict[str, bytes]]:
    """A recipe, and the bytes of its pictures and vector files by hash.

    A picture or vector file is named by its `filename` in `folder`; its hash need not be given. Raises RecipeError for text
    that is no JSON or names what is not there, pydantic.ValidationError for JSON that is no recipe.
    """
    try:
        data = json.loads(text)
    except (ValueError, RecursionError) as fault:
        raise RecipeError("This file is not JSON.", "Give a picture, or a recipe as JSON.") from fault
    if not isinstance(data, dict) or not isinstance(data.get("arts", []), list):
        raise RecipeError("This file is not a recipe.", "A recipe has a name and a list of arts.")
    held: dict[str, bytes] = {}
    for art in data.get("arts", []):
        slot = _SLOTS.get(str(art.get("kind"))) if isinstance(art, dict) else None
        if slot is None:
            continue
        data_of = _beside(folder, str(art.get("filename", "")))
        if slot == "picture" and is_vector(data_of):
            data_of = picture_within(data_of) or data_of
        digest = hashlib.sha256(data_of).hexdigest()
        if art.setdefault(slot, digest) != digest:
            raise RecipeError(f"“{art['filename']}” is not the {slot} that this recipe was made with.", "Bring that one.")
        held[digest] = data_of
    recipe = Recipe.model_validate(data)
    if any(digest not in held for digest in recipe.picture_hashes()):
        raise RecipeError(
            "A film is patterned with a picture that does not lie beside the recipe.", "Choose another pattern."
        )
    return recipe, held


_SLOTS = {"picture": "picture", "line-art": "picture", "vector": "file"}


def _beside(folder: Path, filename: str) -> bytes:
    """A file that lies beside a recipe. Raises RecipeError."""
    name = PurePath(filename).name
    if not name:
        raise RecipeError("An art of this recipe names no file.", "Give its filename, and put the file beside the recipe.")
    try:
        return (folder / name).read_bytes()
    except (OSError, ValueError) as fault:
        raise RecipeError(f"“{name}” does not lie beside the recipe.", "Put it there, then try again.") from fault
