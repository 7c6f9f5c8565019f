"""What makers bring to the jobs of the trade: pictures and files of the open evening, drawn here."""

from __future__ import annotations

from pathlib import Path

from gladstack.core.write.svg import path_data
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.pieces import pieces_of
from gladstack.recipe.model.arts import LetteringArt, Place
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo
from tests.pictures import encode, render

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {w} {h}">'


def _picture(path: Path, body: str, w: int, h: int, px: int, form: str = "PNG", **options: object) -> Path:
    image = render(HEAD.format(w=w, h=h) + body + "</svg>", px).convert("RGB")
    path.write_bytes(encode(image, form, **options))
    return path


def cartoon(folder: Path) -> Path:
    """A moth in flat colours with dark outlines on a white page with a wide margin."""
    wing = "M100 100C60 40 20 60 30 100C36 130 70 130 100 104z"
    spot = '<circle cx="55" cy="88" r="9" fill="#f2b632"/>'
    other = f'<g transform="matrix(-1 0 0 1 200 0)"><path d="{wing}" fill="#2f8f8b"/>{spot}</g>'
    body = (
        '<rect width="200" height="200" fill="#fff"/><g stroke="#1b1a22" stroke-width="5" stroke-linejoin="round">'
        f'<path d="{wing}" fill="#2f8f8b"/>{spot}{other}'
        '<ellipse cx="100" cy="104" rx="11" ry="34" fill="#fff4d6"/></g>'
    )
    return _picture(folder / "moth.png", body, 200, 200, 600)


def six_colours(folder: Path) -> Path:
    """A comet in six colours on white."""
    body = (
        '<rect width="240" height="160" fill="#fff"/><path d="M10 30L150 70L150 110z" fill="#1d2b53"/>'
        '<path d="M40 45L150 76L150 104z" fill="#2f8f8b"/><path d="M80 66L150 82L150 98z" fill="#a8c686"/>'
        '<circle cx="170" cy="90" r="40" fill="#f2b632"/><circle cx="176" cy="86" r="24" fill="#c0392b"/>'
        '<circle cx="184" cy="80" r="9" fill="#fff4d6"/>'
    )
    return _picture(folder / "comet.png", body, 240, 160, 720)


def colouring_page(folder: Path) -> Path:
    """A quilt of twenty areas in black lines."""
    lines = "".join(f'<path d="M{10 + 36 * k} 10V154M10 {10 + 36 * k}H190"/>' for k in range(6) if k < 5)
    body = (
        '<rect width="200" height="164" fill="#fff"/><g fill="none" stroke="#111" stroke-width="2.4">'
        f'{lines}<path d="M190 10V154"/></g>'
    )
    return _picture(folder / "quilt.jpg", body, 200, 164, 900, "JPEG", quality=88)


def fused(folder: Path) -> Path:
    """One fused outline: a plaque with a moon, a star and a bar let into it as holes."""
    star = "M140 30l6 13 14 2-10 10 2 14-12-7-12 7 2-14-10-10 14-2z"
    path = f"M5 5H195V95H5z M50 25a22 22 0 1 0 .1 0z {star} M110 75H170V85H110z"
    text = (
        '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 100">'
        f'<path fill="#14100c" fill-rule="evenodd" d="{path}"/></svg>'
    )
    (folder / "plaque.svg").write_text(text)
    return folder / "plaque.svg"


def odd_file(folder: Path) -> Path:
    """A file with bare units and a wide empty margin round its shapes."""
    text = (
        '<svg xmlns="http://www.w3.org/2000/svg" width="500" height="400" viewBox="0 0 500 400">'
        '<path fill="#1d2b53" d="M60 120H420L380 300H100z"/><circle cx="240" cy="200" r="50" fill="#f2b632"/></svg>'
    )
    (folder / "hat.svg").write_text(text)
    return folder / "hat.svg"


def leaf(folder: Path) -> Path:
    """A leaf in two colours, as a vector file."""
    text = (
        '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60">'
        '<path fill="#2f8f8b" d="M30 2C58 16 58 44 30 58C2 44 2 16 30 2z"/>'
        '<path fill="#fff4d6" d="M28 10H32V50H28z"/></svg>'
    )
    (folder / "leaf.svg").write_text(text)
    return folder / "leaf.svg"


def poster(folder: Path, word: str = "ORBIT", font: str = "roboto-slab") -> Path:
    """A screenshot of a badge with a word on it, saved small and soft."""
    art = LetteringArt(id="w", text=word, font=font, fit_width_mm=120.0, place=Place(x_mm=100.0, y_mm=112.0))
    recipe = Recipe(name="Word", arts=(art,))
    pieces = pieces_of(recipe.arts[0], Assets(picture=lambda digest: b""), Stages(Memo(), lambda group: None))
    ink = path_data([c.chain for c in pieces.curves.value])
    body = (
        '<rect width="200" height="200" fill="#fff"/><circle cx="100" cy="100" r="92" fill="#1d2b53"/>'
        '<circle cx="100" cy="52" r="18" fill="#f2b632"/>'
        f'<path fill="#fff4d6" d="{ink}"/>'
    )
    return _picture(folder / "orbit.png", body, 200, 200, 420)


def ring(folder: Path) -> Path:
    """A thick dark ring on white: as a stencil, what is inside it would fall out."""
    body = (
        '<rect width="200" height="200" fill="#ffffff"/><circle cx="100" cy="100" r="80" fill="#1d2b53"/>'
        '<circle cx="100" cy="100" r="45" fill="#ffffff"/>'
    )
    return _picture(folder / "ring.png", body, 200, 200, 600)
