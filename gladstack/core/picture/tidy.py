"""What is put right in a picture before its colours are looked for, each told so that the maker can have it as it was."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, replace
from typing import Literal

from gladstack.core.picture import pixels
from gladstack.core.picture.decode import KEYS, Picture
from gladstack.core.picture.dither import dithered, undithered
from gladstack.core.picture.grades import Veil, flat_fills, flat_ground, is_drawn, key_for
from gladstack.core.picture.kinds import Look, PictureKind, kind_of, may_be_printed
from gladstack.core.picture.lossy_palette import DOTS, SOFT, Noise, noise_of
from gladstack.core.picture.prints import evened, undotted
from gladstack.core.picture.smooth import smooth_areas

Kind = Literal["dither", "halftone", "light", "shadow", "glow", "grade", "fills", "rims"]
NAMES: dict[Kind, str] = {
    "dither": "Dither",
    "halftone": "Printed dots",
    "light": "Uneven light",
    "shadow": "Soft shadow",
    "glow": "Glow",
    "grade": "Graded background",
    "fills": "Graded fills",
    "rims": "Thin rims",
}
"""Dither and printed dots made plain; uneven light evened; soft shadow or glow taken off; graded background
dropped; graded fills each in one colour."""
_SOME_SLOPE = 0.008
"""A picture without loss of which less than this slopes gently has neither shadow nor grade."""
_MOST_PX = 4_000_000


@dataclass(frozen=True)
class Done:
    """One thing that was put right: how many places it was done in, and for a shadow or glow what it was like."""

    kind: Kind
    count: int = 1
    veil: Veil | None = None


@dataclass(frozen=True)
class Tidied:
    """A picture put right, the noise it still has (None: as its pixels tell), what was done, and what it was taken for."""

    picture: Picture
    noise: Noise | None
    done: tuple[Done, ...]
    kind: PictureKind = "flat"


def tidied(picture: Picture, as_is: Collection[str] = (), bands: int = 1) -> Tidied:
    """`picture` without dither, soft shadow, graded background and graded fills, but for the kinds that stay `as_is`.

    Graded fills come out in so many `bands` of colour. A graded background becomes transparent.
    """
    rgb, key = picture.rgb, picture.key
    lossy = picture.format in ("JPEG", "WEBP")
    noise = noise_of(rgb, picture.format, picture.table) if lossy else None
    done: list[Done] = []
    areas = None
    where = None if lossy else dithered(rgb)
    dots = where is not None
    if where is not None and "dither" not in as_is:
        plain = undithered(rgb, where)
        areas = smooth_areas(plain, DOTS.strength)
        # Noise is made of dots as well, but they stand for nothing.
        if is_drawn(areas):
            rgb, noise = plain, DOTS
            done.append(Done("dither"))
    look = kind_of(rgb, lines=False) if key is None and not done and may_be_printed(rgb) else None
    kind: PictureKind = look.kind if look else "flat"
    if look and kind in ("halftone", "print") and not (dots and "dither" in as_is):
        return _printed(picture, noise, look, as_is)
    if rgb.size > 3 * _MOST_PX or not (lossy or done or pixels.sloping_share(rgb) > _SOME_SLOPE):
        return Tidied(replace(picture, rgb=rgb), noise, tuple(done), kind)
    strength = max((noise or noise_of(rgb, "", None)).strength, SOFT.strength)
    free = key_for(rgb, KEYS) if key is None else None
    areas = areas if areas is not None and done else smooth_areas(rgb, strength)
    if not is_drawn(areas):
        return Tidied(replace(picture, rgb=rgb), noise, tuple(done), kind)
    ground = flat_ground(areas, strength, free)
    left = None
    if ground is not None:
        laid: Kind = "grade" if ground.veil is None else "glow" if ground.veil.glow else "shadow"
        if laid in as_is:
            left = ground.mask
        else:
            rgb = ground.rgb
            areas = smooth_areas(rgb, strength)
            key = free if ground.veil is None else key
            done.append(Done(laid, veil=ground.veil))
    if "fills" not in as_is and (fills := flat_fills(areas, strength, bands, left)) is not None:
        rgb = fills.rgb
        done.append(Done("fills", fills.count))
    return Tidied(replace(picture, rgb=rgb, key=key), noise, tuple(done), kind)


def _printed(picture: Picture, noise: Noise | None, look: Look, as_is: Collection[str]) -> Tidied:
    """A print without its dots, or a photograph of one in even light."""
    if look.kind == "halftone" and "halftone" not in as_is:
        plain = undotted(picture.rgb, look.pitch_px)
        return Tidied(replace(picture, rgb=plain), DOTS, (Done("halftone"),), look.kind)
    if look.kind == "print" and "light" not in as_is and (even := evened(picture.rgb)) is not None:
        return Tidied(replace(picture, rgb=even), noise, (Done("light"),), look.kind)
    return Tidied(picture, noise, (), look.kind)
