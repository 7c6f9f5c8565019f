"""What was put right in a picture, as the maker reads it: one line each, with its undo."""

from __future__ import annotations

import math
from collections.abc import Sequence

from gladstack.core.base.colour import to_hex
from gladstack.core.base.findings import Finding, Fix
from gladstack.core.picture.tidy import Done, Kind

_HELP: dict[Kind, str] = {
    "dither": "The picture was made of dots of a few colours; the dots were made into the colours they stand for.",
    "halftone": "The picture was printed in dots; they were made into the tones they stand for.",
    "light": "This looks like a photograph of a print. Its light was evened, so that one ink stays one colour.",
    "shadow": "A cutter cannot cut a soft shadow. A drop shadow of film can stand in for it.",
    "glow": "A cutter cannot cut a glow. An outline of film can stand in for it.",
    "grade": "The background goes from one colour to another. It is dropped whole, so that no film is spent on it.",
    "rims": "A line so thin that the picture hardly shows it was given to the colours on its sides. An outline of film can "
    "stand in for it.",
    "fills": "Areas that go from one colour to another are cut from one film each, or in bands.",
}
_LEAST_MM = 0.5
_EASY_MM = 0.8


def done_told(done: Sequence[Done], art: str, mm_per_px: float, bands: int) -> list[Finding]:
    """A finding for each thing done to a picture, with what takes it back."""
    return [
        Finding(f"put-right-{d.kind}", _line(d, bands), "note", helps=_HELP[d.kind], fixes=tuple(_fixes(d, art, mm_per_px)))
        for d in done
    ]


def rims_told(rims: Sequence[tuple[str, float]], art: str) -> list[Finding]:
    """What is told of whole thin rims, each a colour and a width in mm, if they are too thin to weed with ease."""
    thin = [(colour, mm) for colour, mm in rims if mm < _EASY_MM]
    if not thin:
        return []
    said = " and ".join(f"a line of {colour}, about {mm:.1f} mm wide," for colour, mm in thin[:2])
    more = f" and {len(thin) - 2} more" if len(thin) > 2 else ""
    runs = "runs" if len(thin) == 1 else "run"
    text = f"{said[0].upper()}{said[1:]}{more} {runs} between other films."
    fix = Fix("Give it to its neighbours", {"kind": "set-rims", "art": art, "rims": "all"})
    return [Finding("put-right-thin", text, "note", helps="So thin a line is hard to weed and lay.", fixes=(fix,))]


def _line(done: Done, bands: int) -> str:
    if done.kind == "fills":
        many = "1 graded fill" if done.count == 1 else f"{done.count} graded fills"
        each = "" if done.count == 1 else " each"
        return f"{many} made one colour{each}." if bands == 1 else f"{many} made {bands} bands{each}."
    return {
        "dither": "Dither undone.",
        "halftone": "Printed dots made into plain tones.",
        "light": "Uneven light evened.",
        "shadow": "Soft shadow taken off.",
        "glow": "Glow taken off.",
        "grade": "Background with a grade dropped.",
        "rims": "Thin rims given to their neighbours.",
    }[done.kind]


def _fixes(done: Done, art: str, mm_per_px: float) -> list[Fix]:
    out = [Fix("Leave it as it came", {"kind": "put-right", "art": art, "what": done.kind, "done": False})]
    if done.kind == "rims":
        thin: dict[str, object] = {
            "kind": "outline-shadow",
            "film": "new",
            "of": [art],
            "mm": max(_LEAST_MM, round(mm_per_px, 2)),
        }
        out.append(Fix("Cut an even outline instead", {"kind": "add-making", "making": thin, "colour": "#ffffff"}))
    if done.veil is None:
        return out
    veil = done.veil
    colour = to_hex(veil.colour)
    dx, dy = veil.dx_px * mm_per_px, veil.dy_px * mm_per_px
    if math.hypot(dx, dy) >= _LEAST_MM and done.kind == "shadow":
        making: dict[str, object] = {
            "kind": "drop-shadow",
            "film": "new",
            "of": [art],
            "angle_deg": round(math.degrees(math.atan2(dy, dx)), 1),
            "length_mm": round(math.hypot(dx, dy), 2),
            "style": "copy",
        }
        label = "Cut a shadow instead"
    else:
        making = {"kind": "outline-shadow", "film": "new", "of": [art], "mm": round(max(1.0, veil.soft_px * mm_per_px), 2)}
        label = "Cut an outline instead"
    out.append(Fix(label, {"kind": "add-making", "making": making, "colour": colour}))
    return out
