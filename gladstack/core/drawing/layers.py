"""Layers of a vector file: its groups that have names, or the layers that its lines lie on."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from gladstack.core.base.colour import delta_e, from_hex, to_hex
from gladstack.core.base.text import readable_line

FilmsBy = Literal["colours", "layers"]
MOST_LAYERS = 64
_MOST_NAME, _MOST_FILMS = 60, 24
_APART, _INK = 8.0, 20.0
"""Layers are told apart by colours at least this delta-E apart; what is nearer to black than this is ink."""
_SPARE = (
    "#14100c", "#c0392b", "#1f5fa8", "#2e8b57", "#d9a441", "#7a3b8f", "#0f8b8d", "#d35400", "#8f897b", "#e58fb1",
    "#6b4423", "#a9c934", "#7fb2d6", "#56348c", "#f0d9a8", "#4a5a2a",
)  # fmt: skip
_MADE_UP = re.compile(r"^(g|group|path|svg|use|symbol|object|elem|shape|id|_?x)?[-_ ]?\d+([-_.]\d+)*$", re.IGNORECASE)
"""What programs call groups that nobody named."""
_ESCAPED = re.compile(r"_x([0-9A-Fa-f]{2,4})_")


@dataclass(frozen=True)
class Layer:
    """A layer by its name, and the colour that stands for it where each layer is a film."""

    name: str
    colour: str


@dataclass(frozen=True)
class Layering:
    """The layers of a file, bottom first, which of them each item is on (-1: none), and whether they are what its maker
    meant for films: layers, not just groups with an id, no more than can be kept in order, each of one colour alone.

    `names` are those of colours that are found on one layer each, where no layer has two.
    """

    layers: tuple[Layer, ...] = ()
    of_items: tuple[int, ...] = ()
    plain: bool = False
    names: tuple[tuple[str, str], ...] = ()

    def colour_of(self, item: int, own: str) -> str:
        """The colour of an item where each layer is a film; what is on none keeps its own."""
        layer = self.of_items[item]
        return own if layer < 0 else self.layers[layer].colour


NO_LAYERS = Layering()


def layer_name(text: str) -> str:
    """What a maker called a layer or group, as a line; empty where nobody did."""
    name = _ESCAPED.sub(lambda m: chr(int(m[1], 16)), text)
    name = readable_line(name.replace("_", " "))[:_MOST_NAME].strip()
    return "" if _MADE_UP.match(name) else name


def layers_of(groups: Sequence[Sequence[str]], colours: Sequence[str], labels: Collection[str]) -> Layering:
    """The layers that items are on: `groups` are the names round each, the outermost first, `colours` theirs; `labels` are
    the names that are known to be layers'.

    Groups that hold all there is say nothing: of the rest the outermost are the layers. With fewer than two there are none.
    """
    common = 0
    while groups and all(len(g) > common for g in groups) and len({g[common] for g in groups}) == 1:
        common += 1
    named = [g[common] if len(g) > common else "" for g in groups]
    order = [name for name in dict.fromkeys(named) if name]
    if not 2 <= len(order) <= MOST_LAYERS:
        return NO_LAYERS
    own = {name: Counter(c for n, c in zip(named, colours, strict=True) if n == name) for name in order}
    taken: list[str] = [c for n, c in zip(named, colours, strict=True) if not n]
    layers = []
    for name in order:
        wanted = [colour for colour, _ in own[name].most_common(1)]
        colour = next((c for c in (*wanted, *_shades(wanted[0]), *_SPARE) if _is_free(c, taken)), wanted[0])
        taken.append(colour)
        layers.append(Layer(name, colour))
    one_each = all(len(found) == 1 for found in own.values())
    plain = one_each and len(order) <= _MOST_FILMS and all(name in labels for name in order)
    on = Counter(colour for found in own.values() for colour in found)
    alone = one_each and all(count == 1 for count in on.values()) and "" not in named
    names = tuple((next(iter(own[name])), name) for name in order) if alone else ()
    return Layering(tuple(layers), tuple(order.index(n) if n else -1 for n in named), plain, names)


def _shades(colour: str) -> list[str]:
    """Colours that a layer may have where another has its own: a little lighter or darker; of ink any other colour."""
    if float(delta_e(from_hex(colour), (0, 0, 0))) < _INK:
        return []
    rgb = np.array(from_hex(colour), float)
    mixed = [rgb + (end - rgb) * share for share in (0.15, 0.3, 0.45) for end in (0.0, 255.0)]
    return [to_hex((int(r), int(g), int(b))) for r, g, b in np.rint(mixed)]


def _is_free(colour: str, taken: Sequence[str]) -> bool:
    return all(float(delta_e(from_hex(colour), from_hex(other))) >= _APART for other in taken)
