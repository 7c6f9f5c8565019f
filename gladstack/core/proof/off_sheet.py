"""Films that are larger than the sheet they are to be cut from."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Finding, Fix, Measure, Place
from gladstack.core.base.plane import Box
from gladstack.core.base.units import Unit, format_length
from gladstack.core.plan.placement import Placement, Sheet


def off_sheet(film: str, name: str, box: Box, sheet: Sheet, place: Placement, unit: Unit) -> Iterator[Finding]:
    """Tells of a film that does not fit between the margins of its sheet; `box` is where it lies on the stack."""
    if place.fits:
        return
    over = [
        f"{format_length(mm, unit)} too {word}"
        for mm, word in ((place.over_width_mm, "wide"), (place.over_height_mm, "high"))
        if mm > 0
    ]
    room = f"{format_length(sheet.width_mm, unit)} × {format_length(sheet.height_mm, unit)}"
    said = f"{name} does not fit its {room} sheet: {' and '.join(over)}."
    helps = "Take a larger sheet, or make the design smaller."
    fixes: tuple[Fix, ...] = ()
    if place.fits_turned:
        turned = {"width_mm": sheet.height_mm, "height_mm": sheet.width_mm, "margin_mm": sheet.margin_mm}
        helps = "It would fit with the sheet laid the other way round."
        fixes = (Fix("Lay the sheet the other way round", {"kind": "set-sheet", "film": film, "sheet": turned}),)
    wide = place.over_width_mm >= place.over_height_mm
    used, room_mm = (place.width_mm, sheet.width_mm) if wide else (place.height_mm, sheet.height_mm)
    measure = Measure(used, room_mm - 2 * sheet.margin_mm, "mm")
    yield Finding("off-sheet", said, "stop", film, Place(box=box), measure, helps, fixes)
