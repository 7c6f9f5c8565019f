"""A design, or a job with its designs, as one file: a ZIP with a letter that says what is in it, to keep or hand on.

Everything in it is named by the hash of its contents, and the letter names all of it: what is missing, not named, changed or
larger than it says is refused before anything is kept.
"""

from __future__ import annotations

import hashlib
import io
import json
import re
import zipfile
import zlib
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from gladstack.core.base.errors import GladStackError
from gladstack.core.base.reading import reader
from gladstack.recipe.model.recipe import Recipe, upgraded
from gladstack.recipe.model.values import Frozen, Hash
from gladstack.shop.jobs.job import DesignRef, Job
from gladstack.shop.shelf.materials import Material

VERSION = 1
LETTER = "glad-stack.json"
ENDING = ".gladstack.zip"
MOST_BYTES = 200 * 2**20
_MOST_ENTRIES = 2000
_MOST_LETTER = 40 * 2**20
_DATE = (2000, 1, 1, 0, 0, 0)
_HASH = re.compile(r"^[0-9a-f]{64}$")

Kind = Literal["picture", "file", "font"]


class ParcelError(GladStackError):
    """The file is no parcel, or not as it was packed."""

    code = "parcel"


@dataclass(frozen=True)
class Asset:
    """A picture, vector file or font by its hash."""

    kind: Kind
    digest: str
    data: bytes


@dataclass(frozen=True)
class Parcel:
    """Designs by their key, what they are made of, and the job they belong to with the materials it names, if it is one."""

    designs: Mapping[str, Recipe]
    assets: tuple[Asset, ...]
    job: Job | None = None
    materials: tuple[Material, ...] = ()


class _Named(Frozen):
    kind: Kind
    sha256: Hash
    size: Annotated[int, Field(ge=0, le=MOST_BYTES)]


class _Letter(Frozen):
    format: Literal["glad-stack"]
    version: int
    recipes: Annotated[dict[DesignRef, Recipe], Field(min_length=1, max_length=500)]
    assets: Annotated[tuple[_Named, ...], Field(max_length=_MOST_ENTRIES)]
    job: Job | None = None
    materials: Annotated[tuple[Material, ...], Field(max_length=500)] = ()


def needed(recipe: Recipe) -> list[tuple[Kind, str]]:
    """What a recipe needs: its pictures, vector files, and fonts of the maker's own."""
    return [
        *(("picture", digest) for digest in recipe.picture_hashes()),
        *(("file", digest) for digest in recipe.file_hashes()),
        *(("font", key) for key in sorted(recipe.font_keys()) if _HASH.match(key)),
    ]  # type: ignore[list-item]


def packed(parcel: Parcel, preview: bytes) -> bytes:
    """A parcel as a ZIP; the same parcel always gives the same bytes."""
    letter = _Letter(
        format="glad-stack", version=VERSION, recipes=dict(parcel.designs), job=parcel.job, materials=parcel.materials,
        assets=tuple(_Named(kind=a.kind, sha256=a.digest, size=len(a.data)) for a in parcel.assets),
    )  # fmt: skip
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:

        def put(name: str, data: bytes) -> None:
            archive.writestr(zipfile.ZipInfo(name, _DATE), data, zipfile.ZIP_DEFLATED)

        put(LETTER, letter.model_dump_json(indent=1).encode())
        put("preview.png", preview)
        for asset in parcel.assets:
            put(f"{asset.kind}s/{asset.digest}", asset.data)
    return out.getvalue()


@reader(ParcelError, "This file", "Get the file again from where it was made.")
def unpacked(data: bytes) -> Parcel:
    """The parcel in a ZIP. Raises ParcelError."""
    if len(data) > MOST_BYTES:
        raise ParcelError(
            f"The file is larger than {MOST_BYTES >> 20} MB.", "Take pictures out of it, or make them smaller."
        )
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return _opened(archive)
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError, OSError) as fault:
        raise ParcelError(
            "This is not a whole design file: it cannot be unpacked.", "Get the file again from where it was made."
        ) from fault


def _opened(archive: zipfile.ZipFile) -> Parcel:
    infos = archive.infolist()
    names = [i.filename for i in infos]
    if len(infos) > _MOST_ENTRIES + 2 or len(set(names)) < len(names):
        raise ParcelError("The file holds things that no design file has.", "Only design files made by Glad Stack come in.")
    if LETTER not in names:
        raise ParcelError("This ZIP is not a design file: it has no list of what is in it.", "Choose another file.")
    if sum(i.file_size for i in infos) > MOST_BYTES:
        raise ParcelError("Unpacked, the file would be larger than it may.", "Only design files made by Glad Stack come in.")
    letter = _letter(_read(archive, LETTER, _MOST_LETTER))
    expected = {LETTER, "preview.png", *(f"{a.kind}s/{a.sha256}" for a in letter.assets)}
    if stray := sorted(set(names) - expected):
        raise ParcelError(
            f"The file holds “{stray[0][:60]}”, which is not in its list of contents.", "It was changed since it was made."
        )
    assets = []
    for named in letter.assets:
        name = f"{named.kind}s/{named.sha256}"
        if name not in names:
            raise ParcelError(f"A {named.kind} is missing in the file.", "Get the file again from where it was made.")
        held = _read(archive, name, named.size)
        if hashlib.sha256(held).hexdigest() != named.sha256:
            raise ParcelError(f"A {named.kind} in the file is not the one it was made with.", "It was changed or damaged.")
        assets.append(Asset(named.kind, named.sha256, held))
    held_keys = {(a.kind, a.digest) for a in assets}
    for recipe in letter.recipes.values():
        if missing := [kind for kind, digest in needed(recipe) if (kind, digest) not in held_keys]:
            raise ParcelError(
                f"The design “{recipe.name}” needs a {missing[0]} that is not in the file.",
                "Download it again where it was made.",
            )
    if letter.job is not None and {d.source for d in letter.job.designs} != set(letter.recipes):
        raise ParcelError(
            "The job in the file and its designs do not belong together.", "Download it again where it was made."
        )
    return Parcel(letter.recipes, tuple(assets), letter.job, letter.materials)


def _read(archive: zipfile.ZipFile, name: str, most: int) -> bytes:
    """An entry's contents, read no further than it may be long, whatever it says of itself."""
    with archive.open(name) as entry:
        data = entry.read(most + 1)
    if len(data) > most:
        raise ParcelError(
            "Something in the file is larger than its list of contents says.", "It was changed since it was made."
        )
    return data


def _letter(text: bytes) -> _Letter:
    try:
        told: Any = json.loads(text)
    except (ValueError, RecursionError) as fault:
        raise ParcelError("The file's list of contents cannot be read.", "It was changed or damaged.") from fault
    if not isinstance(told, dict) or told.get("format") != "glad-stack":
        raise ParcelError("This ZIP is not a design file.", "Choose another file.")
    version = told.get("version")
    if isinstance(version, int) and version > VERSION:
        raise ParcelError("The file was made by a newer Glad Stack.", "Bring Glad Stack up to date, then try again.")
    if version != VERSION:
        raise ParcelError("The file was made by another version of Glad Stack.", "Download it again where it was made.")
    recipes = told.get("recipes")
    if isinstance(recipes, dict):
        for key, recipe in recipes.items():
            if isinstance(recipe, dict) and isinstance(recipe.get("version"), int) and recipe["version"] > 2:
                raise ParcelError("A design in the file was made by a newer Glad Stack.", "Bring Glad Stack up to date.")
            if isinstance(recipe, dict) and recipe.get("version") == 1 and "art" in recipe:
                recipes[key] = upgraded(recipe)
    try:
        return _Letter.model_validate(told)
    except ValidationError as fault:
        where = ".".join(str(part) for part in fault.errors()[0]["loc"])
        raise ParcelError(f"The file's list of contents is wrong at {where[:80]}.", "It was changed or damaged.") from fault
