"""The shelf of fonts."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, Query, UploadFile
from fastapi.responses import Response

from gladstack.api.desks.fonts import FontChoicesView, FontView, FontWords
from gladstack.api.routes.depends import Fonts
from gladstack.core.lettering.faces import MAX_FONT_BYTES
from gladstack.recipe.model.arts import FontKey

ROUTER = APIRouter()


@ROUTER.get("/api/fonts", operation_id="listFonts")
async def list_fonts(desk: Fonts) -> list[FontView]:
    """All fonts of the shelf, the maker's own first."""
    return await desk.fonts()


@ROUTER.get("/api/fonts/{font}/choices", operation_id="fontChoices")
async def font_choices(
    desk: Fonts, font: FontKey, text: Annotated[str, Query(min_length=1, max_length=24, pattern=r"\S")]
) -> FontChoicesView:
    """How a font can be varied, and the other forms it has for some letters, drawn."""
    return await desk.choices(font, text)


@ROUTER.get("/api/fonts/{font}/designs", operation_id="designsOfFont")
async def designs_of_font(desk: Fonts, font: FontKey) -> list[str]:
    """The names of the designs that are set in a font."""
    return await desk.used_in(font)


@ROUTER.put("/api/fonts/{font}", operation_id="changeFont")
async def change_font(desk: Fonts, font: FontKey, words: FontWords) -> FontView:
    """Gives a font of the maker's own a name and tags."""
    return await desk.change(font, words)


@ROUTER.delete("/api/fonts/{font}", operation_id="removeFont", status_code=204, response_class=Response)
async def remove_font(desk: Fonts, font: FontKey) -> Response:
    """Takes a font of the maker's own off the shelf; designs that are set in it keep it."""
    await desk.remove(font)
    return Response(status_code=204)


@ROUTER.post("/api/fonts", operation_id="addFont", status_code=201)
async def add_font(desk: Fonts, font: Annotated[UploadFile, File()]) -> FontView:
    """Puts a TTF, OTF, WOFF or WOFF2 font on the shelf."""
    return await desk.add(await font.read(MAX_FONT_BYTES + 1))
