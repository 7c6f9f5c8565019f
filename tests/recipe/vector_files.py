"""Vector files for tests, and designs made of them."""

from __future__ import annotations

from typing import Any

from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import Memo
from tests.recipe.stacks import no_picture

SVG = b'<svg xmlns="http://www.w3.org/2000/svg" %b>%b</svg>'
FUSED = b"""<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40">
<path fill-rule="evenodd" fill="#14100c" d="M0 0H60V40H0zM2 2V38H28V2zM32 2V38H58V2zM40 14H50V26H40z"/></svg>"""


def built(data: bytes, joint: str = "butt", order: tuple[str, ...] = (), **more: Any) -> Built:
    art = {"kind": "vector", "id": "file", "file": "a" * 64, **more}
    recipe = Recipe.model_validate({"name": "File", "arts": [art], "joint": {"kind": joint}, "order": order})
    return build(recipe, Assets(picture=no_picture, file=lambda digest: data), Memo())


def area(made: Built, film: str) -> float:
    return sum(item.cut.area for item in made.layers if item.film == film)


def rainbow(count: int) -> bytes:
    """So many squares side by side, no two of one colour."""
    squares = "".join(
        f'<rect x="{k}" width="1" height="10" fill="#{40 + 5 * k:02x}{(83 * k) % 256:02x}{250 - 5 * k:02x}"/>'
        for k in range(count)
    )
    return SVG % (f'width="{count}mm" height="10mm" viewBox="0 0 {count} 10"'.encode(), squares.encode())
