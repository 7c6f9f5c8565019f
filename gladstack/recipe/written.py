"""Recipes written down as JSON, with their pictures as files beside them."""

from __future__ import annotations

import hashlib
import json
from pathlib import Path, PurePath

from gladstack.core.errors import RecipeError
from gladstack.recipe.models import Recipe
from gladstack.recipe.vectors import is_vector, picture_within


def read_recipe(text: str, folder: Path) -> tuple[Recipe, dict[str, bytes]]:
    """A recipe, and the bytes of its pictures and vector files by hash.

    A picture or vector file is named by its `filename` in `folder`; its hash need not be given. Raises
    RecipeError for text that is no JSON, pydantic.ValidationError for JSON that is no recipe, OSError for a missing picture.
    """
    try:
        data = json.loads(text)
    except ValueError as fault:
        raise RecipeError("This file is not JSON.", "Give a picture, or a recipe as JSON.") from fault
    if not isinstance(data, dict) or not isinstance(data.get("arts", []), list):
        raise RecipeError("This file is not a recipe.", "A recipe has a name and a list of arts.")
    pictures = {}
    for art in data.get("arts", []):
        if isinstance(art, dict) and art.get("kind") in ("picture", "line-art") and "picture" not in art:
            bytes_ = (folder / PurePath(str(art.get("filename", ""))).name).read_bytes()
            bytes_ = (picture_within(bytes_) if is_vector(bytes_) else None) or bytes_
            art["picture"] = hashlib.sha256(bytes_).hexdigest()
            pictures[art["picture"]] = bytes_
        if isinstance(art, dict) and art.get("kind") == "vector" and "file" not in art:
            bytes_ = (folder / PurePath(str(art.get("filename", ""))).name).read_bytes()
            art["file"] = hashlib.sha256(bytes_).hexdigest()
            pictures[art["file"]] = bytes_
    return Recipe.model_validate(data), pictures
