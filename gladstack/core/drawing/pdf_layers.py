"""Layers of a page of a PDF file (ISO 32000, optional content): what each thing on it belongs to, and what the file hides.

PDFium tells by which marks a thing is enclosed, but not whether these are switched on. It paints by that, though: what
paints nothing, even by itself on a page that is clear, is hidden.
"""

from __future__ import annotations

import ctypes
from typing import Any

import pypdfium2.raw as raw

from gladstack.core.drawing.layers import layer_name

_MOST_BYTES = 512
_LAYER = "OC\0".encode("utf-16-le")
_MOST_TRIED, _SIDE_PX = 80, 500


def layer_of(thing: Any) -> str:
    """The name of the layer that a thing on a page is on; empty for none."""
    for k in range(max(0, raw.FPDFPageObj_CountMarks(thing))):
        mark = raw.FPDFPageObj_GetMark(thing, k)
        kind, count = (ctypes.c_ushort * _MOST_BYTES)(), ctypes.c_ulong()
        if not raw.FPDFPageObjMark_GetName(mark, kind, 2 * _MOST_BYTES, count) or bytes(kind)[: count.value] != _LAYER:
            continue
        held = (ctypes.c_ubyte * _MOST_BYTES)()
        # As text PDFium would lose what is beyond ASCII.
        if raw.FPDFPageObjMark_GetParamBlobValue(mark, b"Name", held, _MOST_BYTES, count):
            return layer_name(_text(bytes(held)[: count.value]))
    return ""


def _text(held: bytes) -> str:
    """A text string of PDF: UTF-16 or UTF-8 by its first bytes, else one byte a letter."""
    if held.startswith(b"\xfe\xff"):
        return held[2:].decode("utf-16-be", "replace")
    return held[3:].decode("utf-8", "replace") if held.startswith(b"\xef\xbb\xbf") else held.decode("latin-1")


def hidden_on(page: Any) -> list[list[int]]:
    """The things on a page (by number) of each layer or group of theirs that its file hides."""
    things = [raw.FPDFPage_GetObject(page.raw, k) for k in range(raw.FPDFPage_CountObjects(page.raw))]
    groups: dict[str, list[int]] = {}
    for k, thing in enumerate(things):
        # Groups of their own may belong to a layer without any mark.
        held = layer_of(thing) or (f"\0{k}" if raw.FPDFPageObj_GetType(thing) == raw.FPDF_PAGEOBJ_FORM else "")
        if held:
            groups.setdefault(held, []).append(k)
    if not groups:
        return []
    hidden: list[list[int]] = []
    for thing in things:
        raw.FPDFPageObj_SetIsActive(thing, False)
    for own in list(groups.values())[:_MOST_TRIED]:
        for k in own:
            raw.FPDFPageObj_SetIsActive(things[k], True)
        if not _paints(page):
            hidden.append(own)
        for k in own:
            raw.FPDFPageObj_SetIsActive(things[k], False)
    for thing in things:
        raw.FPDFPageObj_SetIsActive(thing, True)
    return hidden


def _paints(page: Any) -> bool:
    """Whether what is switched on of a page paints anything."""
    scale = min(4.0, _SIDE_PX / max(*page.get_size(), 1.0))
    picture = page.render(scale=scale, fill_color=(0, 0, 0, 0), maybe_alpha=True).to_numpy()
    return bool(picture[..., -1].any())
