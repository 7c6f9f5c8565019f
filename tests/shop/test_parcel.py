"""Designs and jobs as files: out and in again the same, and nothing that was tampered with comes in."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.demo.designs import add_demo_designs, example_files
from gladstack.demo.shelf import add_demo_shelf
from gladstack.recipe.art.written import read_recipe
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.jobs.parcel import LETTER, Asset, Parcel, ParcelError, needed, packed, unpacked
from gladstack.store.database import Database
from gladstack.store.designs import Brought, DesignBook
from gladstack.store.jobs import JobBook
from gladstack.store.listing import Listing
from gladstack.store.parcels import ParcelBook
from gladstack.store.shelf import Shelf
from tests.examples import examples

FILE = next(f for f in example_files() if f.stem == "colouring-page")


def a_parcel() -> Parcel:
    recipe, held = read_recipe(FILE.read_text(encoding="utf-8"), FILE.parent)
    return Parcel({"one": recipe}, tuple(Asset("picture", d, data) for d, data in held.items()))


WHOLE = packed(a_parcel(), b"preview")


def changed_zip(**entries: bytes | None) -> bytes:
    """The parcel with entries replaced, added, or left out."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(WHOLE)) as old, zipfile.ZipFile(out, "w") as new:
        for name in {*old.namelist(), *entries}:
            data = entries[name] if name in entries else old.read(name)
            if data is not None:
                new.writestr(name, data)
    return out.getvalue()


def letter(**changes: Any) -> bytes:
    with zipfile.ZipFile(io.BytesIO(WHOLE)) as archive:
        told = json.loads(archive.read(LETTER))
    return json.dumps({**told, **changes}).encode()


def test_out_and_in_again_it_is_the_same() -> None:
    found = unpacked(WHOLE)
    assert found == a_parcel()
    assert packed(found, b"preview") == WHOLE


PICTURE = next(n for n in zipfile.ZipFile(io.BytesIO(WHOLE)).namelist() if n.startswith("pictures/"))
BOMB = bytes(8_000_000)

HOSTILE = {
    "not a zip": b"GIF89a",
    "nothing": b"",
    "cut short": WHOLE[: len(WHOLE) // 2],
    "no letter": changed_zip(**{LETTER: None}),
    "a letter that is no JSON": changed_zip(**{LETTER: b"{"}),
    "a letter of something else": changed_zip(**{LETTER: b'{"format": "other"}'}),
    "deep JSON": changed_zip(**{LETTER: b"[" * 100_000}),
    "newer": changed_zip(**{LETTER: letter(version=2)}),
    "no version": changed_zip(**{LETTER: letter(version=None)}),
    "a newer design": changed_zip(**{LETTER: letter(recipes={"one": {"version": 3, "name": "x"}})}),
    "no designs": changed_zip(**{LETTER: letter(recipes={})}),
    "unknown fields": changed_zip(**{LETTER: letter(more="x")}),
    "zip slip": changed_zip(**{"../../evil": b"x"}),
    "an absolute path": changed_zip(**{"/etc/evil": b"x"}),
    "something stray": changed_zip(**{"pictures/extra": b"x"}),
    "a picture missing": changed_zip(**{PICTURE: None}),
    "another picture": changed_zip(**{PICTURE: b"another"}),
    "a bomb": changed_zip(**{PICTURE: BOMB}),
    "a job without its designs": changed_zip(
        **{LETTER: letter(job={"name": "j", "designs": [{"design": "two", "name": "x"}]})}
    ),
    "an asset that is not named": changed_zip(**{LETTER: letter(assets=[])}),
}


@pytest.mark.parametrize("what", HOSTILE)
def test_what_is_no_whole_parcel_is_refused_with_a_word(what: str) -> None:
    with pytest.raises(ParcelError) as fault:
        unpacked(HOSTILE[what])
    assert fault.value.remedy


def test_an_entry_that_says_it_is_smaller_than_it_is() -> None:
    data = b"\0" * 100_000
    digest = hashlib.sha256(data).hexdigest()
    told = letter(assets=[{"kind": "picture", "sha256": digest, "size": 10}])
    with pytest.raises(ParcelError, match="larger"):
        unpacked(changed_zip(**{LETTER: told, PICTURE: None, f"pictures/{digest}": data}))


@settings(max_examples=examples(150))
@given(st.integers(0, len(WHOLE) - 1), st.integers(1, 255))
def test_a_byte_changed_anywhere_is_refused_or_harmless(at: int, by: int) -> None:
    hurt = bytearray(WHOLE)
    hurt[at] ^= by
    try:
        found = unpacked(bytes(hurt))
    except ParcelError:
        return
    assert found == a_parcel()


def test_an_older_design_comes_in_as_one_of_today() -> None:
    recipe, held = read_recipe(FILE.read_text(encoding="utf-8"), FILE.parent)
    (digest,) = held
    old = {
        "version": 1, "name": "Old", "method": "adhesive",
        "art": {"picture": digest, "filename": "a.jpg", "width_mm": 80.0, "kind": "picture"},
    }  # fmt: skip
    found = unpacked(changed_zip(**{LETTER: letter(recipes={"one": old})}))
    assert found.designs["one"].version == 2
    assert found.designs["one"].pictures()[0].width_mm == 80.0
    assert recipe.version == 2


def books(folder: Path) -> tuple[ParcelBook, DesignBook, JobBook, Shelf]:
    database = Database(folder / "designs.db")
    return ParcelBook(database), DesignBook(database), JobBook(database), Shelf(database)


def test_every_demo_job_moves_to_another_machine(tmp_path: Path) -> None:
    here, designs, jobs, shelf = books(tmp_path / "here")
    add_demo_designs(designs)
    add_demo_shelf(shelf, jobs, designs)
    there, other_designs, other_jobs, other_shelf = books(tmp_path / "there")
    for line in jobs.lines()[0]:
        kept = jobs.get(line.id)
        found = unpacked(packed(here.job(kept), b""))
        pictures = {a.digest: Brought.picture(a.data, "", "PNG", 1, 1) for a in found.assets if a.kind == "picture"}
        came = there.bring_in(found, pictures, [])
        assert came.job is not None
        job = other_jobs.get(came.job).job
        assert [d.words for d in job.designs] == [d.words for d in kept.job.designs]
        for one, old in zip(job.designs, kept.job.designs, strict=True):
            assert other_designs.revision(one.source, one.revision or 0).recipe == _recipe(designs, old.source)
    assert {m.id for m in other_shelf.materials()} <= {m.id for m in shelf.materials()}


def _recipe(designs: DesignBook, id_: str) -> Recipe:
    return designs.get(id_).revision.recipe


def test_nothing_comes_in_by_half(tmp_path: Path) -> None:
    there, *_ = books(tmp_path)
    parcel = a_parcel()
    lacking = Parcel({"one": parcel.designs["one"], "two": parcel.designs["one"]}, ())
    with pytest.raises(Exception, match="not here"):
        there.bring_in(lacking, {}, [])
    assert Listing(Database(tmp_path / "designs.db")).lines() == []
    assert needed(parcel.designs["one"])
