"""The small pictures that the demo designs come with are what would be made of them."""

from __future__ import annotations

import io
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from gladstack.api.tasks.designs import DesignWork, small_look
from gladstack.demo.designs import add_demo_designs
from gladstack.demo.looks import add_demo_looks
from gladstack.recipe.edit.designs import RenameDesign
from gladstack.store.database import DESIGNS, Database
from gladstack.store.designs import DesignBook
from gladstack.store.listing import Listing

BUILT = ("example-two-words", "demo-sticker", "example-window-banner")


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return tmp_path_factory.mktemp("demo")


@pytest.fixture(scope="module")
def database(folder: Path) -> Database:
    database = Database(folder / DESIGNS)
    store = DesignBook(database)
    add_demo_designs(store)
    # One that was changed before is not shown as it came.
    store.edit("demo-mug", store.get("demo-mug").revision.id, RenameDesign(name="My mug"))
    add_demo_looks(store, Listing(database))
    return database


def test_every_demo_design_as_it_came_has_its_picture(database: Database) -> None:
    listing = Listing(database)
    bare = [line.id for line in listing.lines() if listing.look(line.revision) is None]
    assert bare == ["demo-mug"]


@pytest.mark.parametrize("design", BUILT)
def test_the_picture_is_the_one_that_would_be_made(folder: Path, database: Database, design: str) -> None:
    listing = Listing(database)
    line = next(line for line in listing.lines() if line.id == design)
    made = small_look(DesignWork(folder, DesignBook(database).get(design).revision.recipe))
    assert line.films == made.films
    assert line.width_mm == pytest.approx(made.width_mm, abs=0.1)
    shipped, now = (
        np.asarray(Image.open(io.BytesIO(png)).convert("RGB"), dtype=int)
        for png in (listing.look(line.revision) or b"", made.png)
    )
    assert shipped.shape == now.shape
    # Edges may be off by a hair; areas may not.
    assert (np.abs(shipped - now).max(axis=2) > 40).mean() < 0.01
