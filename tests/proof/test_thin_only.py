"""Thin strokes of a JPEG that came out in another colour: told, and one film with what they are of at a click."""

from __future__ import annotations

import io
import re

import pytest
from PIL import Image, ImageDraw

from gladstack.proof.finding import Finding
from gladstack.proof.prove import proof_of
from gladstack.recipe.art.given import Assets, PictureFacts
from gladstack.recipe.build.build import build
from gladstack.recipe.edit.edits import Edit, apply_edit
from gladstack.recipe.edit.pictures import MergeColours
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import Memo

NAVY, GOLD = "#1d2b53", "#f2b632"


def poster(line: str, wide_px: int, kind: str) -> bytes:
    """A gold disc on a navy one beside three lines, made half as large as it was drawn: which leaves lines darker."""
    image = Image.new("RGB", (1400, 900), "white")
    draw = ImageDraw.Draw(image)
    draw.ellipse((100, 100, 700, 700), fill=NAVY)
    draw.ellipse((240, 170, 760, 670), fill=GOLD)
    for ends in ((40, 800, 1360, 800), (900, 100, 1000, 700), (1100, 100, 1000, 700)):
        draw.line(ends, fill=line, width=2 * wide_px)
    out = io.BytesIO()
    image.resize((700, 450), Image.Resampling.LANCZOS).save(out, kind, quality=80)
    return out.getvalue()


def told(data: bytes, recipe: Recipe | None = None) -> tuple[Recipe, list[Finding[Edit]], list[str]]:
    art = {
        "kind": "picture",
        "id": "p",
        "picture": "0" * 64,
        "filename": "poster",
        "width_mm": 200,
        "place": {"turn_deg": 30},
    }
    recipe = recipe or Recipe.model_validate({"name": "Poster", "arts": [art]})
    made = build(recipe, Assets(picture=lambda _: data), Memo())
    facts = made.arts[0].facts
    assert isinstance(facts, PictureFacts)
    films = [info.colour for info in facts.colours if info.role == "film"]
    return recipe, [found for found in proof_of(made) if found.code == "thin-only"], films


def near(colour: str, other: str) -> bool:
    return all(abs(int(colour[k : k + 2], 16) - int(other[k : k + 2], 16)) <= 3 for k in (1, 3, 5))


def test_strokes_that_came_out_darker_are_made_one_film_with_their_own() -> None:
    data = poster(NAVY, 2, "JPEG")
    recipe, (found,), films = told(data)
    assert len(films) == 3
    (fix,) = found.fixes
    (navy,) = [film for film in films if near(film, NAVY)]
    _, after, left = told(data, apply_edit(recipe, fix.edit))
    assert after == []
    assert fix.edit == MergeColours(art="p", colour=next(film for film in films if film not in left), into=navy)
    # Told by what the films are called: nobody knows a colour by its digits.
    assert fix.label == "Merge it with Navy"
    assert re.fullmatch(
        r"Navy 2 is 0\.\d % of the picture, all of it in strokes about 2 pixels wide: it may be Navy\.", found.text
    )
    assert found.place is not None
    assert len(found.place.outlines) >= 2
    assert left == [film for film in films if near(film, NAVY) or near(film, GOLD)]


@pytest.mark.parametrize(
    ("line", "wide_px", "kind"),
    [(NAVY, 12, "JPEG"), (NAVY, 2, "PNG"), ("#2b7fb8", 2, "JPEG"), ("#c0392b", 2, "JPEG")],
    ids=["wide enough", "without loss", "another blue", "a colour of its own"],
)
def test_nothing_is_told_of(line: str, wide_px: int, kind: str) -> None:
    _, found, films = told(poster(line, wide_px, kind))
    assert found == []
    assert len(films) == (2 if line == NAVY else 3)
