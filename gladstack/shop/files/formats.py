"""A plan's sheets in every format: what each file holds, what it is called, and how it is parted where a cutter needs it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from gladstack.core.geometry.curves import Chain, FloatArray, flatten_chain, line_chain, node_counts, transform_chain
from gladstack.core.plan.strokes import holder_strokes, strokes_of
from gladstack.core.write.dxf import DxfLayer, dxf
from gladstack.core.write.hpgl import TOLERANCE_MM, hpgl, noded
from gladstack.core.write.pages import DrawnItem
from gladstack.core.write.pdf import Paper, cut_pages, pdf
from gladstack.core.write.png import png
from gladstack.core.write.svg import SvgGroup, film_svg, number, path_data
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.fonts import page_type
from gladstack.shop.plan.furnish import box_chain
from gladstack.shop.plan.planned import PlacedPart, Plan, SheetPlan
from gladstack.shop.shelf.formats import Format


@dataclass(frozen=True)
class Share:
    """What of a sheet one file holds: parts, and whether marks and all else go with them."""

    parts: tuple[PlacedPart, ...]
    whole: bool = True
    first: bool = True


def sheet_files(plan: Plan, formats: Sequence[Format], paper: Paper = "film") -> dict[str, bytes]:
    """Every sheet in every format that is wanted, by relative path; parted where it has more nodes than the cutter takes."""
    files: dict[str, bytes] = {}
    for sheet in plan.sheets:
        for kind in formats:
            shares = shares_of(sheet, kind)
            for k, share in enumerate(shares):
                of = f"-{k + 1}-of-{len(shares)}" if len(shares) > 1 else ""
                files[f"sheets/{sheet.stem}{of}{OUTPUTS[kind].ending}"] = OUTPUTS[kind].write(plan, sheet, share, paper)
    return files


def shares_of(sheet: SheetPlan, kind: Format) -> list[Share]:
    """The parts of a sheet in files of no more nodes than the cutter takes, in the order of the blade; no part is split."""
    whole = [Share(sheet.parts)]
    if not OUTPUTS[kind].for_cutters:
        return whole
    if sheet.points <= sheet.cutter.most_nodes:
        return whole
    counts = node_counts([c for p in sheet.parts for c in (p.outline.shell, *p.outline.holes)], TOLERANCE_MM)
    sizes = np.add.reduceat(counts, np.cumsum([0, *(1 + len(p.outline.holes) for p in sheet.parts[:-1])])).tolist()
    furniture = int(node_counts(_furniture(sheet), TOLERANCE_MM).sum())
    most = sheet.cutter.most_nodes
    out: list[list[PlacedPart]] = [[]]
    held = furniture
    for k in _by_path(sheet):
        if out[-1] and held + sizes[k] > most:
            out.append([])
            held = 0
        out[-1].append(sheet.parts[k])
        held += sizes[k]
    return [Share(tuple(parts), whole=False, first=k == 0) for k, parts in enumerate(out)]


def _by_path(sheet: SheetPlan) -> list[int]:
    """The sheet's parts in the order their outlines are cut."""
    owners = [k for k, p in enumerate(sheet.parts) for _ in (p.outline.shell, *p.outline.holes)]
    return list(dict.fromkeys(owners[k] for k in sheet.path.order if k < len(owners)))


def _furniture(sheet: SheetPlan) -> list[Chain]:
    furniture = sheet.furniture
    return [*(box_chain(b) for b in furniture.boxes), *furniture.marks, *furniture.slug, *furniture.test]


def path_of(sheet: SheetPlan, share: Share) -> list[FloatArray]:
    """The contours of a file as polylines, in the order they are cut."""
    path = sheet.path
    held = {(p.bit.name, p.cluster) for p in share.parts}
    owners = [
        share.whole or (p.bit.name, p.cluster) in held for p in sheet.parts for _ in (p.outline.shell, *p.outline.holes)
    ]
    lines = [
        flatten_chain(c, TOLERANCE_MM)
        for c, k in zip(path.contours, path.order, strict=True)
        if (owners[k] if k < len(owners) else share.first)
    ]
    return noded(lines)


def pens_of(sheet: SheetPlan, share: Share) -> list[list[FloatArray]]:
    """What is drawn, pen by pen, as polylines."""
    return [[flatten_chain(c, TOLERANCE_MM) for c in pen.lines] for pen in sheet.pens] if share.first else []


def _svg(plan: Plan, sheet: SheetPlan, share: Share, paper: Paper, *, filled: bool = True) -> bytes:
    """One sheet as SVG text: what is cut in groups, parts a path each."""
    furniture = sheet.furniture
    groups = [
        SvgGroup(
            "parts",
            tuple(path_data((p.outline.shell, *p.outline.holes)) for p in share.parts),
            sheet.material.colour if filled else None,
        )
    ]
    if share.first:
        groups += [
            SvgGroup("weed-boxes", tuple(path_data((box_chain(b),)) for b in furniture.boxes)),
            SvgGroup(
                "weed-lines",
                tuple(f"M{number(a)} {number(b)}L{number(c)} {number(d)}" for (a, b), (c, d) in furniture.lines),
            ),
            SvgGroup("marks", tuple(path_data((c,)) for c in furniture.marks)),
            SvgGroup("slug", tuple(path_data((c,)) for c in (*furniture.slug, *furniture.test))),
        ]
        groups += [
            SvgGroup(f"pen-{k}", tuple(path_data((c,)).removesuffix("Z") for c in pen.lines), stroke=pen.colour)
            for k, pen in enumerate(sheet.pens, 1)
        ]
    notes = f"{sheet.material.name}" + (", mirrored" if sheet.mirrored else "")
    title = f"{plan.job.name}: {sheet.name}"
    return film_svg(title, notes, sheet.length_mm, sheet.width_mm, groups).encode()


def _svg_lines(plan: Plan, sheet: SheetPlan, share: Share, paper: Paper) -> bytes:
    return _svg(plan, sheet, share, paper, filled=False)


def _dxf(plan: Plan, sheet: SheetPlan, share: Share, paper: Paper) -> bytes:
    """One sheet as DXF: a layer for the film, and one each for what helps weeding, for marks and numbers, for each pen."""
    furniture = sheet.furniture
    layers = [
        DxfLayer(
            sheet.name, sheet.material.colour, tuple(c for p in share.parts for c in (p.outline.shell, *p.outline.holes))
        )
    ]
    if share.first:
        layers += [
            DxfLayer("weeding", "#6d3468", tuple(box_chain(b) for b in furniture.boxes), furniture.lines),
            DxfLayer("marks", "#25231e", (*furniture.marks, *furniture.slug, *furniture.test)),
            *(DxfLayer(f"draw with {pen.name}", pen.colour, (), (), pen.lines) for pen in sheet.pens),
        ]
    return dxf([layer for layer in layers if layer.contours or layer.lines or layer.drawn], sheet.width_mm).encode()


def _pdf(plan: Plan, sheet: SheetPlan, share: Share, paper: Paper) -> bytes:
    contours = tuple(c for p in sheet.parts for c in (p.outline.shell, *p.outline.holes))
    lines = tuple(_line(line) for line in sheet.furniture.lines)
    drawn = [DrawnItem((*contours, *_furniture(sheet), *lines))]
    drawn += [DrawnItem(pen.lines, None, pen.colour, 0.2) for pen in sheet.pens]
    title = f"{plan.job.name}: {sheet.name}" + (", mirrored" if sheet.mirrored else "")
    return pdf(cut_pages(title, sheet.length_mm, sheet.width_mm, drawn, paper), page_type(), title)


def _line(line: tuple[tuple[float, float], tuple[float, float]]) -> Chain:
    return line_chain(np.array(line))


def _hpgl(plan: Plan, sheet: SheetPlan, share: Share, paper: Paper) -> bytes:
    """One sheet as HPGL, each contour once, in the order of the blade's path."""
    return _plot(sheet, path_of(sheet, share), share)


def _hpgl_blade(plan: Plan, sheet: SheetPlan, share: Share, paper: Paper) -> bytes:
    """One sheet as HPGL as the blade's holder is led: passes, overcut, and the way round for the blade that trails."""
    blade = sheet.material.blade
    strokes = strokes_of(path_of(sheet, share), sheet.cutter.overcut_mm, blade.passes)
    ways = [h.points for h in holder_strokes(strokes, blade.offset_mm)]
    return _plot(sheet, ways, share)


def _plot(sheet: SheetPlan, ways: Sequence[FloatArray], share: Share) -> bytes:
    speed, force = sheet.cutter.speed_for(sheet.material), sheet.cutter.force_for(sheet.material)
    return hpgl(ways, sheet.width_mm, speed, force, pens_of(sheet, share)).encode()


def _png(plan: Plan, sheet: SheetPlan, share: Share, paper: Paper) -> bytes:
    parts = [(sheet.material.colour, (p.outline.shell, *p.outline.holes)) for p in sheet.parts]
    box = (0.0, 0.0, sheet.length_mm, sheet.width_mm)
    lines = [*_furniture(sheet), *(_line(line) for line in sheet.furniture.lines), *sheet.drawn]
    outlines = [c for p in sheet.parts for c in (p.outline.shell, *p.outline.holes)]
    return png(box, parts, [*lines, *outlines, box_chain(box)])


def _decal_dxf(built: Built) -> bytes:
    layers = [DxfLayer(layer.name, layer.colour, layer.outline.rings) for layer in built.layers]
    return dxf(layers, built.frame[3]).encode()


def _decal_pdf(built: Built) -> bytes:
    left, top, right, bottom = built.frame
    drawn = [DrawnItem(layer.outline.rings, layer.colour) for layer in built.layers]
    moved = [
        replace(d, chains=tuple(transform_chain(c, (1.0, 0.0, 0.0, 1.0, -left, -top)) for c in d.chains)) for d in drawn
    ]
    return pdf(cut_pages(built.recipe.name, right - left, bottom - top, moved), page_type(), built.recipe.name)


def _decal_png(built: Built) -> bytes:
    return png(built.frame, [(layer.colour, layer.outline.rings) for layer in built.layers])


@dataclass(frozen=True)
class Output:
    """One format: what it is called, how its files end, what writes a sheet, and a whole decal layer by layer.

    Files that cutters read are parted where a cutter takes fewer nodes.
    """

    says: str
    ending: str
    write: Callable[[Plan, SheetPlan, Share, Paper], bytes]
    decal: Callable[[Built], bytes] | None = None
    for_cutters: bool = True


OUTPUTS = {
    Format.SVG: Output("SVG, filled", ".svg", _svg),
    Format.SVG_LINES: Output("SVG, cut lines only", "-lines.svg", _svg_lines),
    Format.DXF: Output("DXF", ".dxf", _dxf, _decal_dxf),
    Format.PDF: Output("PDF at true size", ".pdf", _pdf, _decal_pdf, for_cutters=False),
    Format.HPGL: Output("HPGL", ".hpgl", _hpgl),
    Format.HPGL_BLADE: Output("HPGL with the blade's offset", "-blade.hpgl", _hpgl_blade),
    Format.PNG: Output("PNG, to look at", ".png", _png, _decal_png, for_cutters=False),
}
"""All formats: HPGL has the contours as they are, or as the blade is led, with passes, overcut and offset."""
PLAIN = (Format.SVG, Format.DXF, Format.HPGL)
