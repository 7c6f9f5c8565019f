"""A list of names for a design: read from pasted or loaded text, each row a copy with its own words."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import islice

from gladstack.core.base.errors import GladStackError
from gladstack.core.base.reading import reader
from gladstack.core.base.text import readable_line
from gladstack.recipe.art.fields import Fitting, blank_in, common_capitals, fields_of, filled
from gladstack.recipe.art.given import Assets
from gladstack.recipe.model.fields import Fit
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.jobs.encodings import Reading, readings
from gladstack.shop.jobs.job import Job, JobDesign, Weeding, Words
from gladstack.stages.engine import Stages

MOST_ROWS = 500
MOST_BYTES = 2_000_000
_COUNTS = {"copies", "count", "number", "how many"}
_HEADS = {"name", "names", "text", "word", "words", "line", "first name", "last name"} | _COUNTS
_COUNTING = re.compile(r"(?<![\d.])(\d{1,6})\.\.(\d{1,6})(?![\d.])")
_DELIMITERS = ("\t", ";", ",", "|")


class NamesError(GladStackError):
    """The list cannot be read, or the design has no fields."""

    code = "names"


@dataclass(frozen=True)
class Row:
    """A row of a list: what stands in each field, and how often it is cut."""

    values: tuple[tuple[str, str], ...]
    copies: int = 1


@dataclass(frozen=True)
class CheckedRow:
    """A row laid into the design: what is wrong with it ("": nothing), what is told of it in words, how wide it is of how
    much, and where all are alike, how tall the capitals of each field are.
    """

    number: int
    row: Row
    fit: Fit
    problem: str
    told: str
    width_mm: float
    room_mm: float
    capitals_mm: tuple[tuple[str, float], ...] = ()


@reader(NamesError, "The list", "Save it as CSV in UTF-8.")
def decoded(data: bytes) -> list[Reading]:
    """All that a file may read as, the likeliest first. Raises NamesError."""
    if len(data) > MOST_BYTES:
        raise NamesError("The list is larger than 2 MB.", "Split it into several.")
    return readings(data)


@reader(NamesError, "The list", "Save it as CSV.")
def read_rows(text: str, fields: Sequence[str]) -> list[Row]:
    """The rows of a list with any delimiter, with a header or without.

    A header names fields, in any order and case; without one, columns are the fields in their order. A column "copies" says
    how often. Raises NamesError.
    """
    if not fields:
        raise NamesError("This design has no fields.", "Mark a word of its lettering as a field: {name}.")
    if "\x00" in text:
        raise NamesError("The list is not text.", "Save it as CSV.")
    try:
        lines = [
            [readable_line(c).strip() for c in row] for row in csv.reader(io.StringIO(text), delimiter=_delimiter(text))
        ]
    except csv.Error as fault:
        raise NamesError(f"The list cannot be read: {fault}.", "Save it as CSV.") from fault
    # Empty lines at the end are nobody; in the midst they are rows to be told of.
    while lines and not any(lines[-1]):
        lines.pop()
    if not lines:
        raise NamesError("The list is empty.", "Paste names, one on each line.")
    columns = _columns(lines[0], fields)
    if columns is not None:
        lines = lines[1:]
    else:
        columns = {name: k for k, name in enumerate(fields)}
    # A short list may count far: no more rows are made than can be told to be too many.
    lines = list(islice((row for line in lines for row in _counted(line)), MOST_ROWS + 1))
    if len(lines) > MOST_ROWS:
        raise NamesError(f"The list has too many rows; at most {MOST_ROWS} go into one job.", "Split it into several.")
    return [_row(cells, columns, fields) for cells in lines]


def _counted(cells: list[str]) -> list[list[str]]:
    """A row for each number where a cell counts, as "1..50" or "Table 01..12" does; else the row itself."""
    at, found = next(((k, m) for k, cell in enumerate(cells) if (m := _COUNTING.search(cell))), (0, None))
    if found is None:
        return [cells]
    first, last, digits = int(found[1]), int(found[2]), len(found[1])
    numbers = range(first, min(last, first + MOST_ROWS) + 1)
    cell = cells[at]
    return [
        [*cells[:at], f"{cell[: found.start()]}{n:0{digits}d}{cell[found.end() :]}", *cells[at + 1 :]] for n in numbers
    ] or [cells]


def _row(cells: Sequence[str], columns: dict[str, int], fields: Sequence[str]) -> Row:
    def cell(name: str) -> str:
        return cells[columns[name]][:200] if name in columns and columns[name] < len(cells) else ""

    copies = cell("copies")
    return Row(tuple((name, cell(name)) for name in fields), max(1, min(500, int(copies))) if copies.isdigit() else 1)


def _columns(head: Sequence[str], fields: Sequence[str]) -> dict[str, int] | None:
    """Which column holds which field, if the first line is a header."""
    low = [c.casefold() for c in head]
    named = {f: low.index(f.casefold()) for f in fields if f.casefold() in low}
    if not named and not (low and all(c in _HEADS for c in low if c)):
        return None
    counted = next((k for k, c in enumerate(low) if c in _COUNTS), None)
    if not named:
        free = [k for k in range(len(low)) if k != counted]
        named = dict(zip(fields, free, strict=False))
    return named if counted is None else {**named, "copies": counted}


def _delimiter(text: str) -> str:
    """The delimiter that parts most lines into the same number of cells, more than one."""
    lines = [line for line in text.splitlines()[:50] if line.strip()]

    def even(delimiter: str) -> tuple[int, int]:
        counts = [line.count(delimiter) for line in lines]
        most = max(set(counts), key=counts.count, default=0)
        return (counts.count(most) if most else 0, most)

    best = max(_DELIMITERS, key=even)
    return best if even(best)[0] > len(lines) / 2 else ","


def checked(
    recipe: Recipe, rows: Sequence[Row], fits: Sequence[Fit], assets: Assets, stages: Stages
) -> list[tuple[CheckedRow, Recipe]]:
    """Every row laid into the design, made to fit as is wanted for it. Raises FontError."""
    fields = fields_of(recipe)
    alike = [dict(row.values) for row, fit in zip(rows, fits, strict=True) if fit == "alike"]
    tall = common_capitals(recipe, alike, assets, stages) if alike else {}
    out = []
    for k, (row, fit) in enumerate(zip(rows, fits, strict=True)):
        values = dict(row.values)
        own = tall if fit == "alike" else {}
        fittings = {name: Fitting(fit, own.get(name)) for name in fields}
        made, checks = filled(recipe, values, fittings, assets, stages)
        empty = [name for name, text in row.values if not text]
        missing = "".join(dict.fromkeys("".join(c.missing for c in checks)))
        wide = next((c for c in checks if c.wide), None)
        problem, told = "", ""
        if empty and blank_in(recipe, values):
            problem, told = "empty", f"Nothing is given for {' and '.join(empty)}."
        elif missing:
            letters = ", ".join(f"“{c}”" for c in missing)
            problem, told = "glyph", f"The font has no {letters}."
        elif wide:
            problem, told = "wide", f"{wide.width_mm:.1f} mm wide, and there is room for {wide.room_mm:.1f} mm."
        elif empty:
            told = f"Nothing is given for {' and '.join(empty)}, which is left out."
        widest = max(checks, key=lambda c: c.width_mm / max(c.room_mm, 1e-9), default=None)
        width, room = (widest.width_mm, widest.room_mm) if widest else (0.0, 0.0)
        out.append((CheckedRow(k, row, fit, problem, told, width, room, tuple(own.items())), made))
    return out


def names_job(name: str, design: str, revision: int | None, rows: Sequence[CheckedRow]) -> Job:
    """A job of all rows that have no fault left: each name is a cluster of its own, in a box of its own to weed by.

    Raises NamesError if there is none.
    """
    good = [r for r in rows if r.problem not in ("empty", "glyph")]
    if not good:
        raise NamesError("No row of the list can be cut.", "Correct the rows that are named here.")
    designs = tuple(
        JobDesign(
            design=f"{design[:50]}--{r.number + 1}", of=design, revision=revision, copies=r.row.copies,
            name=" ".join(text for _, text in r.row.values if text)[:120],
            words=tuple(
                Words(field=field, text=text, fit=r.fit, capitals_mm=dict(r.capitals_mm).get(field))
                for field, text in r.row.values
            ),
        )
        for r in good
    )  # fmt: skip
    return Job(name=name, designs=designs, layout="nested", together="copy", weeding=Weeding(box="copy", distance_mm=2.0))


def filled_for(recipe: Recipe, one: JobDesign, assets: Assets, stages: Stages) -> Recipe:
    """The recipe of an entry of a job: with its words, if it has any of its own."""
    if not one.words:
        return recipe
    fits = {w.field: Fitting(w.fit, w.capitals_mm) for w in one.words}
    made, _ = filled(recipe, {w.field: w.text for w in one.words}, fits, assets, stages)
    return made
