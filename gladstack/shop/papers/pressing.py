"""The press schedule of a stack: how hot, how long each film, how its carrier comes off, and what is told of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import Pressing
from gladstack.shop.shelf.kinds import Press
from gladstack.shop.shelf.materials import Material

PREHEAT_S = 5.0
"""Drives the damp out of the cloth before the first film."""
Peel = Literal["hot", "warm", "cold"]
_WAITS_S: dict[Peel, float] = {"hot": 0.0, "warm": 15.0, "cold": 60.0}
HOW: dict[Peel, str] = {
    "hot": "at once, while it is hot, low and slowly",
    "warm": "after some 15 s, when it can just be touched",
    "cold": "only when it is quite cold",
}


@dataclass(frozen=True)
class PressStep:
    """One press: of which film (by its place from the ground up), how long, how it is peeled, whether it is covered."""

    film: int
    name: str
    seconds: float
    full: bool
    peel: Peel
    cover: bool


@dataclass(frozen=True)
class Schedule:
    """All presses in order. `totals_s` is how long each film is in the press in all; `told` what is to be minded."""

    celsius: int
    preheat_s: float
    steps: tuple[PressStep, ...]
    behind_s: float
    totals_s: tuple[float, ...]
    told: tuple[str, ...]

    @property
    def seconds(self) -> float:
        """The time it takes, with the waits before peeling."""
        return self.preheat_s + sum(s.seconds + _WAITS_S[s.peel] for s in self.steps) + self.behind_s


def schedule(films: Sequence[tuple[str, Material]], own: Pressing | None = None) -> Schedule | None:
    """The schedule for films (name, material) from the ground up; None if none of them is pressed.

    All are pressed at one temperature, the lowest that every film bonds at. Each but the last is only tacked; the last is
    pressed in full, and as much longer as a film below it still lacks, but no film longer in all than it bears. The maker's
    `own` seconds go before those of the films.
    """
    own = own or Pressing()
    held = [(name, _as_wanted(m.press or Press(), own)) for name, m in films if m.method == "heat-transfer"]
    if not held:
        return None
    told: list[str] = []
    celsius = max(p.celsius for _, p in held)
    hottest = next(name for name, p in held if p.celsius == celsius)
    for name, press in held:
        if celsius > press.most_celsius:
            told.append(
                f"{name} bears {press.most_celsius} °C at most, and {hottest} needs {celsius} °C: try both on a scrap, "
                "or take another film."
            )
        elif celsius > press.celsius:
            told.append(f"{name} is made for {press.celsius} °C; {hottest} needs {celsius} °C.")
    tacks = [p.tack_s for _, p in held[:-1]]
    before = [sum(tacks[k:]) for k in range(len(held))]
    lacking = max(p.full_s - b for (_, p), b in zip(held, before, strict=True))
    last = max(held[-1][1].full_s, lacking)
    bears = [p.most_s - b for (_, p), b in zip(held, before, strict=True)]
    least = min(bears)
    if last > least:
        weak = held[bears.index(least)][0]
        told.append(
            f"{weak} bears {held[bears.index(least)][1].most_s:g} s in all: {held[-1][0]} is pressed "
            f"{max(0.0, least):g} s instead of {last:g} s. Press it again from behind if it lifts."
        )
        last = max(0.0, least)
    steps = [
        PressStep(k, name, press.tack_s if k < len(held) - 1 else last, k == len(held) - 1, press.peel, k > 0)
        for k, (name, press) in enumerate(held)
    ]
    behind = max(p.behind_s for _, p in held) if own.behind_s is None else own.behind_s
    return Schedule(celsius, PREHEAT_S, tuple(steps), behind, tuple(b + last for b in before), tuple(told))


def _as_wanted(press: Press, own: Pressing) -> Press:
    """A film's press with the maker's own seconds; what it bears stays."""
    told = {"tack_s": own.tack_s, "full_s": own.full_s}
    return changed(press, bears_s=press.most_s, **{k: v for k, v in told.items() if v is not None})
