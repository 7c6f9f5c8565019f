"""Recipes written down as JSON, with their pictures, vector files and fonts as files beside them."""

from __future__ import annotations

import base64
import hashlib
import json
from collections.abc import Mapping
from pathlib import Path, PurePath
from typing import Any

from gladstack.core.base.errors import RecipeError
from gladstack.core.lettering.faces import open_face
from gladstack.core.picture.carried import carried
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.vectors import is_vector, picture_within
from gladstack.recipe.model.fonts import shipped_font
from gladstack.recipe.model.recipe import Recipe


def read_recipe(text: str, folder: Path) -> tuple[Recipe, dict[str, bytes]]:
    """A recipe, and the bytes of its pictures, vector files and own fonts by hash.

    A picture or vector file is named by its `filename` in `folder`; its hash need not be given. A font is a font's key, the
    name of a font file in `folder`, its hash if such a file lies there, or itself ("data:font/ttf;base64,..."). Raises
    RecipeError for text that is no JSON or names what is not there, pydantic.ValidationError for JSON that is no recipe.
    """
    try:
        data = json.loads(text)
    except (ValueError, RecursionError) as fault:
        raise RecipeError("This file is not JSON.", "Give a picture, or a recipe as JSON.") from fault
    if not isinstance(data, dict) or not isinstance(data.get("arts", []), list):
        raise RecipeError("This file is not a recipe.", "A recipe has a name and a list of arts.")
    held: dict[str, bytes] = {}
    for art in data.get("arts", []):
        if isinstance(art, dict) and art.get("kind") == "lettering":
            lines = art.get("lines")
            for of in [art, *(lines if isinstance(lines, list) else [])]:
                _take_font(of, folder, held)
        slot = _SLOTS.get(str(art.get("kind"))) if isinstance(art, dict) else None
        if slot is None:
            continue
        data_of = _beside(folder, str(art.get("filename", "")))
        if slot == "picture":
            data_of = picture_within(data_of) or data_of if is_vector(data_of) else carried(data_of, str(art["filename"]))
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


def assets_of(held: Mapping[str, bytes]) -> Assets:
    """The assets of a recipe that was read, with the fonts that ship with the app."""
    return Assets(held.__getitem__, lambda key: held[key] if key in held else shipped_font(key), held.__getitem__)


def _take_font(of: Any, folder: Path, held: dict[str, bytes]) -> None:
    """Puts a font that lies beside a recipe, or within it, in the place of its name. Raises RecipeError, FontError."""
    told = of.get("font") if isinstance(of, dict) else None
    if not isinstance(told, str):
        return
    if told.startswith("data:"):
        try:
            data = base64.b64decode(told.partition(",")[2], validate=True)
        except ValueError as fault:
            raise RecipeError(
                "A font within this recipe is not written as base64.", "Put its file beside the recipe."
            ) from fault
    elif PurePath(told).suffix.lower() in _FONT_FILES:
        data = _beside(folder, told)
    elif len(told) == _HASH_LENGTH:
        files = [p for p in sorted(folder.iterdir()) if p.suffix.lower() in _FONT_FILES]
        found = (p.read_bytes() for p in files[:_MOST_FONTS])
        data = next((d for d in found if hashlib.sha256(d).hexdigest() == told), b"")
    else:
        return
    if data:
        open_face(data)
        of["font"] = hashlib.sha256(data).hexdigest()
        held[of["font"]] = data


_FONT_FILES = (".ttf", ".otf", ".woff", ".woff2")
_HASH_LENGTH, _MOST_FONTS = 64, 200
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
