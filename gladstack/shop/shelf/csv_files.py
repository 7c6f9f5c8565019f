"""The shelf as a CSV file, out and in: one row a material."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from itertools import islice

from pydantic import ValidationError

from gladstack.core.base.errors import GladStackError
from gladstack.core.base.reading import reader
from gladstack.recipe.model.recipe import Finish
from gladstack.shop.shelf.kinds import BladeSetting, Kind, Press
from gladstack.shop.shelf.materials import Material

FIELDS = (
    "id", "name", "kind", "colour", "finish", "face", "cost_m2", "force_g", "speed_mm_s", "passes", "blade_deg",
    "blade_offset_mm", "spacing_mm", "margin_mm", "least_part_mm", "least_waste_mm", "lies_over", "lies_under", "most_films",
    "grain", "press_celsius",
    "press_bears_celsius", "press_tack_s", "press_full_s", "press_bears_s", "press_behind_s", "peel", "shrink_along",
    "shrink_across", "line_mm", "retired",
)  # fmt: skip
MOST_ROWS = 5000


class CsvError(GladStackError):
    """A CSV file cannot be read as a shelf."""

    code = "csv"


def written(materials: Sequence[Material]) -> str:
    """Materials as CSV text."""
    out = io.StringIO()
    writer = csv.DictWriter(out, FIELDS, lineterminator="\n")
    writer.writeheader()
    for m in materials:
        press = m.press
        writer.writerow(
            {
                "id": m.id, "name": _plain(m.name), "kind": m.kind, "colour": m.colour, "finish": m.finish.kind,
                "face": m.face, "cost_m2": m.cost_m2, "force_g": m.blade.force_g,
                "speed_mm_s": m.blade.speed_mm_s, "passes": m.blade.passes,
                "blade_deg": m.blade.angle_deg, "blade_offset_mm": m.blade.offset_mm, "spacing_mm": m.spacing_mm,
                "margin_mm": m.margin_mm, "least_part_mm": m.least_part_mm, "least_waste_mm": m.least_waste_mm,
                "lies_over": _kinds(m.lies_over), "lies_under": _kinds(m.lies_under),
                "most_films": "" if m.most_films is None else m.most_films, "grain": m.grain,
                "press_celsius": press.celsius if press else "",
                "press_tack_s": press.tack_s if press else "", "press_full_s": press.full_s if press else "",
                "press_bears_celsius": press.bears_celsius if press and press.bears_celsius is not None else "",
                "press_bears_s": press.bears_s if press and press.bears_s is not None else "",
                "press_behind_s": press.behind_s if press else "",
                "peel": press.peel if press else "", "shrink_along": m.shrink_along, "shrink_across": m.shrink_across,
                "line_mm": m.line_mm if m.is_pen else "",
                "retired": "yes" if m.retired else "no",
            }
        )  # fmt: skip
    return out.getvalue()


def _plain(name: str) -> str:
    """A name that no spreadsheet takes for a formula."""
    return f"'{name}" if name[:1] in "=+-@" else name


@reader(CsvError, "The file", "Write the shelf out once to see how it looks.")
def read(text: str) -> list[Material]:
    """Materials from CSV text; columns may stand in any order, and most may be missing. Raises CsvError with the row."""
    rows = csv.DictReader(io.StringIO(text.removeprefix("\ufeff")))
    try:
        heads, lines = set(rows.fieldnames or ()), list(islice(rows, MOST_ROWS + 1))
    except csv.Error as fault:
        raise CsvError(f"The file cannot be read: {fault}.", "Write the shelf out once to see how it looks.") from fault
    missing = {"id", "name", "colour"} - heads
    if missing:
        raise CsvError(f"The file has no column “{sorted(missing)[0]}”.", "Write the shelf out once to see how it looks.")
    out: list[Material] = []
    for row, line in enumerate(lines, 2):
        if len(out) >= MOST_ROWS:
            raise CsvError(f"The file has more than {MOST_ROWS} rows.", "Split it into several.")
        try:
            out.append(_material({k: (v or "").strip() for k, v in line.items() if k}))
        except ValidationError as fault:
            first = fault.errors()[0]
            field = " ".join(str(p) for p in first["loc"])
            raise CsvError(f"Row {row}: {field}: {first['msg']}.", "Mend the row, then read it in again.") from fault
    if len({m.id for m in out}) < len(out):
        raise CsvError("Two rows have the same id.", "Give each film an id of its own.")
    return out


_NOTHING = "nothing"


def _kinds(kinds: Sequence[Kind] | None) -> str:
    """Kinds of film in one cell; an empty one leaves it to the kind of the film itself."""
    return "" if kinds is None else " ".join(kinds) or _NOTHING


def _told_kinds(cell: str) -> tuple[str, ...] | None:
    return () if cell == _NOTHING else tuple(cell.split()) or None


def _material(row: dict[str, str]) -> Material:
    def told(*names: str, **renamed: str) -> dict[str, str]:
        found = {n: row[n] for n in names if row.get(n)}
        return found | {to: row[n] for to, n in renamed.items() if row.get(n)}

    press = told(
        "peel", celsius="press_celsius", tack_s="press_tack_s", full_s="press_full_s", bears_celsius="press_bears_celsius",
        bears_s="press_bears_s", behind_s="press_behind_s",
    )  # fmt: skip
    plain = told(
        "id", "kind", "colour", "face", "cost_m2", "spacing_mm", "margin_mm", "least_part_mm", "least_waste_mm", "grain",
        "shrink_along", "shrink_across", "line_mm", "most_films",
    )  # fmt: skip
    blade = told("force_g", "speed_mm_s", "passes", offset_mm="blade_offset_mm")
    angle = {"angle_deg": int(row["blade_deg"])} if row.get("blade_deg", "").isdigit() else {}
    return Material.model_validate(
        {
            **plain,
            "name": row.get("name", "").removeprefix("'"),
            "finish": Finish.model_validate(told(kind="finish")),
            "blade": BladeSetting.model_validate({**blade, **angle}),
            "press": Press.model_validate(press) if press else None,
            "lies_over": _told_kinds(row.get("lies_over", "")),
            "lies_under": _told_kinds(row.get("lies_under", "")),
            "retired": row.get("retired", "").lower() in ("yes", "true", "1"),
        }
    )
