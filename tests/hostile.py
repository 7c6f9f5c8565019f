"""Files and edits as somebody hostile, careless or unlucky would send them: made by a script, from a seed."""

from __future__ import annotations

import io
import random
from collections.abc import Iterator
from typing import Any

import numpy as np
from PIL import Image

_HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="{w}" height="{h}" viewBox="{box}">'
_ODD = ("1e309", "-1e309", "1e-308", "nan", "inf", "50%", "calc(1px)", "", "-5", "0", "1e30", "abc", "٣", "5 5", "1e", "--1")


def files(seed: int, count: int) -> Iterator[tuple[str, bytes]]:
    """`count` named files, none of which may end or hold a server."""
    rng = random.Random(seed)
    makers = (_odd_svg, _heavy_svg, _broken_svg, _dxf, _noise, _cut_short, _bytes)
    for k in range(count):
        yield rng.choice(makers)(rng, k)


def _points(rng: random.Random, count: int) -> str:
    return " ".join(f"{rng.uniform(0, 200):.2f} {rng.uniform(0, 200):.2f}" for _ in range(count))


def _svg(body: str, w: str = "200mm", h: str = "200mm", box: str = "0 0 200 200") -> bytes:
    return (_HEAD.format(w=w, h=h, box=box) + body + "</svg>").encode()


def _odd_svg(rng: random.Random, k: int) -> tuple[str, bytes]:
    """Numbers, transforms and styles that cannot be read, in every place they may stand."""

    def odd() -> str:
        return rng.choice(_ODD)

    shapes = [
        f'<rect x="{odd()}" y="{odd()}" width="{odd()}" height="9" rx="{odd()}" transform="rotate({odd()})"/>',
        f'<circle cx="9" cy="{odd()}" r="{odd()}" stroke="red" stroke-width="{odd()}" stroke-dasharray="{odd()} {odd()}"/>',
        f'<path d="M0 0L{odd()} 9H{odd()}A{odd()} 5 0 0 1 9 9z" fill="{rng.choice(["rgba(1,2", "hsl(9", "#12", "lab(1 2 3)"])}"/>',
        f'<svg viewBox="0 0 {odd()} {odd()}" width="{odd()}"><rect width="9" height="9"/></svg>',
        f'<ellipse rx="{odd()}" ry="3" opacity="{odd()}" style="fill:{odd()} !important;stroke-miterlimit:{odd()}"/>',
        f'<polygon points="0 0 9 {odd()} {odd()} 9" stroke="blue" stroke-linejoin="{odd()}"/>',
        f"<style>@media all {{ rect:nth-child({odd()}) {{ fill: {odd()} }} }} .a > {{</style>",
    ]
    body = "".join(rng.sample(shapes, rng.randint(1, len(shapes)))) + '<rect width="20" height="20"/>' * rng.randint(0, 1)
    if rng.random() < 0.3:
        return f"odd-{k}.svg", _svg(body, odd() or "9", odd() or "9", f"0 0 {odd()} {odd()}")
    return f"odd-{k}.svg", _svg(body)


def _heavy_svg(rng: random.Random, k: int) -> tuple[str, bytes]:
    """Small files that ask for much."""
    size = rng.choice((30, 300, 3000))
    bodies = (
        lambda: f'<path d="M{_points(rng, 10 * size)}z"/>',
        lambda: f'<path fill="none" stroke="red" d="M{_points(rng, 6 * size)}"/>',
        lambda: f'<path d="M0 0H200" stroke="red" stroke-dasharray="{10.0 ** -rng.randint(1, 6)}"/>',
        lambda: "".join(f'<rect fill="#{j:06x}" x="{j % 60}" width="9" height="9"/>' for j in range(size)),
        lambda: '<path d="' + "".join(f"M{j % 99} {j // 99}h.5v.5z" for j in range(30 * size)) + '"/>',
        lambda: f'<rect width="5" height="5" transform="{rng.choice(("scale(", "rotate(1)", "skewX(")) * 10 * size}"/>',
        lambda: "<g>" * size + '<rect width="9" height="9"/>' + "</g>" * size,
        lambda: '<clipPath id="c" clipPathUnits="objectBoundingBox"><circle cx=".5" cy=".5" r=".5"/></clipPath>'
        + '<g clip-path="url(#c)">' * 30 + '<rect width="90" height="90"/>' + "</g>" * 30,
        lambda: "<style>" + "".join(f"g rect{{x:{j}}}" for j in range(size)) + "</style>" + "<g><rect/></g>" * size,
        lambda: '<g id="a"><rect width="9" height="9"/>' + '<use href="#a"/>' * 3 + "</g>",
        lambda: f'<rect width="{10.0 ** rng.randint(3, 300)}" height="9" stroke="red" stroke-width="1e{rng.randint(2, 9)}"/>',
    )  # fmt: skip
    return f"heavy-{k}.svg", _svg(rng.choice(bodies)())


def _broken_svg(rng: random.Random, k: int) -> tuple[str, bytes]:
    whole = bytearray(_svg('<g fill="#c0392b"><path d="M0 0h50v50H0z"/><circle cx="90" cy="90" r="30"/></g>'))
    for _ in range(rng.randint(1, 6)):
        whole[rng.randrange(len(whole))] = rng.randrange(256)
    return f"broken-{k}.svg", bytes(whole[: rng.randrange(40, len(whole))] if rng.random() < 0.3 else whole)


def _dxf(rng: random.Random, k: int) -> tuple[str, bytes]:
    def number() -> str:
        return rng.choice((*_ODD, "5", "12.5", "-3", "1e308"))

    rows = ["  0", "SECTION", "  2", "ENTITIES"]
    for _ in range(rng.choice((1, 5, 400))):
        kind, codes = rng.choice((("LINE", (10, 20, 11, 21)), ("CIRCLE", (10, 20, 40)), ("ARC", (10, 20, 40, 50, 51)),
                                  ("ELLIPSE", (10, 20, 11, 21, 40, 41, 42)), ("INSERT", (10, 20, 41, 42))))  # fmt: skip
        rows += ["  0", kind, "  8", "0"]
        for code in codes:
            rows += [str(code), number() if rng.random() < 0.2 else f"{rng.uniform(0, 99):.3f}"]
    return f"lines-{k}.dxf", "\n".join([*rows, "  0", "ENDSEC", "  0", "EOF", ""]).encode()


def _noise(rng: random.Random, k: int) -> tuple[str, bytes]:
    """Chequers, dither, noise and grades: pictures without areas."""
    side = rng.choice((8, 33, 128, 300))
    values = np.random.default_rng(rng.randrange(10**6))
    y, x = np.indices((side, side))
    grade = np.stack([x * 255 // side, y * 255 // side, (x + y) * 127 // side], axis=2).astype(np.uint8)
    image = rng.choice(
        (
            lambda: Image.fromarray(((x + y) % 2 * 255).astype(np.uint8)),
            lambda: Image.fromarray(values.integers(0, 256, (side, side, 3), dtype=np.uint8)),
            lambda: Image.fromarray((values.integers(0, 2, (side, side)) * 255).astype(np.uint8)),
            lambda: Image.fromarray(grade).convert("1"),
            lambda: Image.fromarray(grade),
            lambda: Image.fromarray((x % 2 * 255).astype(np.uint8)),
            lambda: Image.new("RGBA", (side, side), (0, 0, 0, 0)),
        )
    )()
    out = io.BytesIO()
    form = rng.choice(("PNG", "GIF", "WEBP", "BMP", "JPEG"))
    image.convert("RGB" if form == "JPEG" else image.mode).save(out, form)
    return f"noise-{k}", out.getvalue()


def _cut_short(rng: random.Random, k: int) -> tuple[str, bytes]:
    _, whole = _noise(rng, k)
    spoilt = bytearray(whole)
    for _ in range(rng.randint(0, 8)):
        spoilt[rng.randrange(len(spoilt))] = rng.randrange(256)
    return f"short-{k}", bytes(spoilt[: rng.randrange(1, len(spoilt))])


def _bytes(rng: random.Random, k: int) -> tuple[str, bytes]:
    name = rng.choice(("a.png", "b\x00\ufffe.svg", "..\\..\\c.dxf", "d" * 500, ""))
    head = rng.choice((b"", b"<svg", b"\x89PNG\r\n\x1a\n", b"GIF89a", b"  0\nSECTION\n", b"\xff\xd8\xff", b"BM"))
    return name, head + rng.randbytes(rng.randrange(0, 400))


def edits(seed: int, count: int, films: list[str], arts: list[str]) -> Iterator[dict[str, Any]]:
    """Edits at and beyond the edge of what they may say, for a design of these films and arts."""
    rng = random.Random(seed)

    def film() -> str:
        return rng.choice([*films, "#000000", "nobody", "x\u0000y"])

    def number() -> Any:
        return rng.choice(
            [0, -1, 1e308, "1e309", float("1e-9"), 5, 199.9, "11/16in", "", None, [], 2000, True, "−3mm", 0.01]
        )

    for _ in range(count):
        art = rng.choice([*arts, "gone", "a b"])
        yield rng.choice(
            (
                {"kind": "rename-design", "name": rng.choice(["a\u0001b\ufffe", "\ud800", "x" * 5000, " ", "]]>&<"])},
                {"kind": "thicken-film", "film": film(), "mm": number()},
                {"kind": "set-joint", "rule": {"kind": rng.choice(["lap", "gap", "full", "glue"]), "mm": number()}},
                {"kind": "resize", "width_mm": number(), "art": art},
                {"kind": "scale-design", "factor": number()},
                {"kind": "turn-design", "turn_deg": number()},
                {"kind": "count-colours", "count": number()},
                {"kind": "order-films", "order": [film() for _ in range(rng.choice([0, 3, 300]))]},
                {"kind": "set-finish", "film": film(), "finish": {"kind": "patterned", "picture": "9" * 64}},
                {"kind": "scale-art", "art": art, "factor": number(), "x_mm": number(), "y_mm": 0},
                {"kind": "set-pair-joint", "a": film(), "b": film(), "rule": {"kind": "lap", "mm": number()}},
                {
                    "kind": "add-art",
                    "art": {"kind": "lettering", "text": rng.choice(["W" * 2000, "\u202e", "\u0000", "🦉" * 50])},
                },
                {"kind": "add-art", "art": {"kind": "picture", "picture": "8" * 64, "width_mm": 50}},
                {
                    "kind": "add-art",
                    "art": {"kind": "shape", "form": {"form": "star", "points": number(), "inner": number()}},
                },
                {"kind": "add-making", "making": {"kind": "outline-shadow", "film": "new", "mm": number(), "of": [film()]}},
                {
                    "kind": "add-making",
                    "making": {"kind": "stitch-line", "film": "new", "dash_mm": number(), "mm": number()},
                },
                {"kind": "claim-regions", "art": art, "pins": [{"x": number(), "y": 0.5, "film": film()}]},
                {"kind": rng.choice(["", "nonsense", "remove-art"]), "art": art},
            )
        )
