"""Reading HPGL as a cutter does: pen up and down, absolute and relative, tools, speed, force."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

UNIT_MM = 0.025
_COMMAND = re.compile(r"([A-Za-z]{2})([^A-Za-z;]*)")
MOST_POINTS = 4_000_000
MOST_COMMANDS = 400_000

XY = tuple[float, float]


class ProgramError(Exception):
    """A program the cutter does not take; the text says why."""


@dataclass
class PenStroke:
    """One way with the tool down, in mm on the film: along it x, across it y from the edge at the origin."""

    tool: int
    speed_mm_s: float | None
    force_g: int | None
    points: list[XY] = field(default_factory=list)


def read_program(text: str) -> list[PenStroke]:
    """The strokes of an HPGL program. Raises ProgramError."""
    strokes: list[PenStroke] = []
    tool, speed, force = 0, None, None
    down, relative = False, False
    here: XY = (0.0, 0.0)
    open_: PenStroke | None = None
    count = 0
    rest = _COMMAND.sub("", text).replace(";", "").strip()
    if rest:
        raise ProgramError(f"This is not a program for a cutter: “{rest[:20]}” means nothing to it.")
    for nth, found in enumerate(_COMMAND.finditer(text)):
        if nth >= MOST_COMMANDS:
            raise ProgramError(f"The program has more than {MOST_COMMANDS:,} commands, which is more than its memory holds.")
        name, given = found.groups()
        name, numbers = name.upper(), _numbers(name, given)
        if name == "IN":
            tool, speed, force, down, relative, open_ = 0, None, None, False, False, None
        elif name == "SP":
            tool, open_ = int(numbers[0]) if numbers else 0, None
        elif name == "VS":
            speed, open_ = (numbers[0] * 10 if numbers else None), None
        elif name == "FS":
            force, open_ = (int(numbers[0]) if numbers else None), None
        elif name in ("PU", "PD", "PA", "PR"):
            if name in ("PU", "PD"):
                down = name == "PD"
                open_ = open_ if down else None
            else:
                relative = name == "PR"
            if len(numbers) % 2:
                raise ProgramError(f"{name} has an odd number of coordinates.")
            for x, y in zip(numbers[::2], numbers[1::2], strict=True):
                there = (x * UNIT_MM, y * UNIT_MM)
                if relative:
                    there = (here[0] + there[0], here[1] + there[1])
                if down and tool and there != here:
                    if open_ is None:
                        open_ = PenStroke(tool, speed, force, [here])
                        strokes.append(open_)
                    open_.points.append(there)
                    count += 1
                    if count > MOST_POINTS:
                        raise ProgramError("The program is longer than the cutter's memory.")
                here = there
        else:
            raise ProgramError(f"The cutter does not know the command {name}.")
    return strokes


def _numbers(name: str, given: str) -> list[float]:
    try:
        numbers = [float(n) for n in re.split(r"[,\s]+", given.strip()) if n]
    except ValueError as fault:
        raise ProgramError(f"What follows {name} is not a list of numbers.") from fault
    if any(abs(n) > 1e9 for n in numbers):
        raise ProgramError(f"What follows {name} is farther than any film.")
    return numbers
