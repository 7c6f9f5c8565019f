"""Pages made at random as PDF, and how far what is read of one is off what another program paints."""

from __future__ import annotations

import io
import random

import numpy as np
import numpy.typing as npt
import pypdfium2 as pdfium
import resvg_py
from PIL import Image
from reportlab.lib.units import mm
from reportlab.pdfgen import canvas
from scipy.ndimage import minimum_filter
from shapely import MultiPolygon

from gladstack.recipe.art.vectors import HowRead, read_and_seen

_FONTS = ("Helvetica", "Times-Bold", "Courier-Oblique")
_LEVELS = 60


def pdf_of(seed: int, pages: int = 1) -> bytes:
    """Pages of filled and stroked shapes, dashes, clips and words, some turned."""
    rng, out = random.Random(seed), io.BytesIO()
    pen = canvas.Canvas(out)
    for _ in range(pages):
        width, height = rng.uniform(80, 200) * mm, rng.uniform(80, 200) * mm
        pen.setPageSize((width, height))
        pen.setPageRotation(rng.choice([0, 0, 90, 180, 270]))
        for _ in range(rng.randint(3, 9)):
            _thing(pen, rng, width, height)
        pen.showPage()
    pen.save()
    return out.getvalue()


def _thing(pen: canvas.Canvas, rng: random.Random, width: float, height: float) -> None:
    pen.saveState()
    pen.setFillColorRGB(*[round(rng.random(), 1) for _ in range(3)])
    pen.setStrokeColorRGB(*[round(rng.random(), 1) for _ in range(3)])
    pen.setLineWidth(rng.uniform(0.5, 9))
    pen.setLineCap(rng.randrange(3))
    pen.setLineJoin(rng.randrange(3))
    if rng.random() < 0.3:
        pen.setDash([rng.uniform(4, 15), rng.uniform(4, 12)], rng.uniform(0, 5))
    pen.translate(rng.uniform(0, width), rng.uniform(0, height))
    pen.rotate(rng.uniform(0, 360))
    pen.scale(rng.uniform(0.4, 1.3), rng.uniform(0.4, 1.3))
    if rng.random() < 0.3:
        clip = pen.beginPath()
        clip.circle(0, 0, rng.uniform(30, 90))
        pen.clipPath(clip, stroke=0, fill=0)
    kind = rng.randrange(5)
    if kind == 0:
        pen.rect(-40, -20, rng.uniform(20, 120), rng.uniform(20, 80), stroke=rng.randrange(2), fill=1)
    elif kind == 1:
        pen.ellipse(-50, -20, 60, 40, stroke=1, fill=rng.randrange(2))
    elif kind == 2:
        path = pen.beginPath()
        path.moveTo(-60, 0)
        for _ in range(4):
            path.curveTo(*[rng.uniform(-80, 80) for _ in range(6)])
        if rng.random() < 0.5:
            path.close()
        pen.drawPath(path, stroke=1, fill=rng.randrange(2), fillMode=rng.randrange(2))
    elif kind == 3:
        pen.setFont(rng.choice(_FONTS), rng.uniform(12, 60))
        pen.drawString(-60, 0, "Open evening")
    else:
        pen.roundRect(-50, -50, rng.uniform(20, 120), rng.uniform(20, 120), 8, stroke=1, fill=1)
    pen.restoreState()


def share_off(data: bytes, page: int = 1, side_px: int = 1000) -> float:
    """The share of a page's pixels that differ, more than a pixel from any edge, from what PDFium paints."""
    document = pdfium.PdfDocument(data)
    sheet = document[page - 1]
    scale = side_px / max(sheet.get_width(), sheet.get_height())
    wanted = np.asarray(sheet.render(scale=scale, draw_annots=False).to_pil().convert("RGB"), np.int64)
    read = read_and_seen(data, HowRead(tints="mixed", page=page))
    got = painted(read.seen, wanted.shape[1] / read.size_mm[0], wanted.shape[1], wanted.shape[0])
    off = np.abs(got - wanted).max(axis=2) > _LEVELS
    return float(minimum_filter(off, 3).mean())


def painted(seen: tuple[tuple[str, MultiPolygon], ...], px_per_mm: float, width: int, height: int) -> npt.NDArray[np.int64]:
    """Areas of colours on white, as pixels (height, width, 3)."""
    paths = []
    for colour, shape in seen:
        rings = [np.array(ring.coords) * px_per_mm for p in shape.geoms for ring in (p.exterior, *p.interiors)]
        data = "".join("M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in ring) + "Z" for ring in rings)
        paths.append(f'<path d="{data}" fill="{colour}" fill-rule="evenodd"/>')
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}">'
        f'<rect width="{width}" height="{height}" fill="#fff"/>{"".join(paths)}</svg>'
    )
    png = bytes(resvg_py.svg_to_bytes(svg_string=svg))
    return np.asarray(Image.open(io.BytesIO(png)).convert("RGB"), np.int64)
