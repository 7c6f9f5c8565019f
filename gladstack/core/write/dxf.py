"""DXF R2010 in millimetres: a layer for each film, its contours as closed polylines within a tolerance."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass

from ezdxf import units
from ezdxf._options import options
from ezdxf.document import Drawing
from ezdxf.math import Vec2

from gladstack.core.geometry.curves import Chain, flatten_chain

_TOLERANCE_MM = 0.01


@dataclass(frozen=True)
class DxfLayer:
    """What is cut of one film: the layer's name, its colour (#rrggbb), closed contours, lines, and what a pen draws."""

    name: str
    colour: str
    contours: tuple[Chain, ...]
    lines: tuple[tuple[tuple[float, float], tuple[float, float]], ...] = ()
    drawn: tuple[Chain, ...] = ()


def dxf(layers: Sequence[DxfLayer], height_mm: float) -> str:
    """Layers as DXF text; y counts upwards from `height_mm`, as drawing programs count it."""
    # No date and no chance goes into the file: the same films always give the same text, the first as well.
    options.write_fixed_meta_data_for_testing = True
    document = Drawing.new("R2010")
    document.units = units.MM
    document.header["$MEASUREMENT"] = 1
    space = document.modelspace()
    for k, layer in enumerate(layers):
        name = f"{k + 1:02d} " + "".join(c if c.isalnum() or c in " -_" else " " for c in layer.name).strip()[:80]
        made = document.layers.add(name)
        red, green, blue = (int(layer.colour[k : k + 2], 16) for k in (1, 3, 5))
        made.rgb = (red, green, blue)
        for chain in layer.contours:
            points = flatten_chain(chain, _TOLERANCE_MM)[:-1]
            corners = [Vec2(x, height_mm - y) for x, y in points.tolist()]
            if len(corners) > 1:
                space.add_lwpolyline(corners, close=True, dxfattribs={"layer": name})
        for chain in layer.drawn:
            way = [Vec2(x, height_mm - y) for x, y in flatten_chain(chain, _TOLERANCE_MM).tolist()]
            space.add_lwpolyline(way, dxfattribs={"layer": name})
        for (ax, ay), (bx, by) in layer.lines:
            space.add_line((ax, height_mm - ay), (bx, height_mm - by), dxfattribs={"layer": name})
    out = io.StringIO()
    document.write(out)
    return out.getvalue()
