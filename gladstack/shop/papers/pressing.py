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
    pressed in full, and as much longer as a film below it still lacks, but no film longer in all than it bears. A maker may
    press each in full instead, or finish all from behind; the maker's `own` seconds go before those of the films.
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
    behind = max(p.behind_s for _, p in held) if own.behind_s is None else own.behind_s
    if own.finish == "each":
        seconds = [p.full_s for _, p in held]
    elif own.finish == "behind":
        seconds = [p.tack_s for _, p in held]
        wanted = max(behind, max(p.full_s - s for (_, p), s in zip(held, _onward(seconds), strict=True)))
        behind, less = _borne(held, _onward(seconds), wanted)
        told += [f"{less} All are pressed {behind:g} s from behind instead of {wanted:g} s."] if less else []
    else:
        tacks = [p.tack_s for _, p in held[:-1]]
        before = _onward([*tacks, 0.0])
        wanted = max(p.full_s - b for (_, p), b in zip(held, before, strict=True))
        last, less = _borne(held, before, wanted)
        if less:
            instead = f"{held[-1][0]} is pressed {last:g} s instead of {wanted:g} s"
            told.append(f"{less} {instead}. Press it again from behind if it lifts.")
        seconds = [*tacks, last]
    full = {"front": len(held) - 1, "each": 0, "behind": len(held)}[own.finish]
    steps = [
        PressStep(k, name, time, k >= full, press.peel, k > 0)
        for k, ((name, press), time) in enumerate(zip(held, seconds, strict=True))
    ]
    totals = [t + (behind if own.finish == "behind" else 0.0) for t in _onward(seconds)]
    if own.finish == "each":
        told += [
            f"{name} is pressed {total:g} s in all and bears {press.most_s:g} s: only tack the films below."
            for (name, press), total in zip(held, totals, strict=True)
            if total > press.most_s
        ]
    return Schedule(celsius, PREHEAT_S, tuple(steps), behind, tuple(totals), tuple(told))


def _onward(seconds: Sequence[float]) -> list[float]:
    """How long each film is in the press: in its own press and in those of all that come after it."""
    return [sum(seconds[k:]) for k in range(len(seconds))]


def _borne(held: Sequence[tuple[str, Press]], before: Sequence[float], wanted: float) -> tuple[float, str]:
    """The longest last press, up to what is wanted, that all films bear after what they had; and who bears no more."""
    left = [press.most_s - had for (_, press), had in zip(held, before, strict=True)]
    least = max(0.0, min(left))
    if wanted <= least:
        return wanted, ""
    name, press = held[left.index(min(left))]
    return least, f"{name} bears {press.most_s:g} s in all:"


def _as_wanted(press: Press, own: Pressing) -> Press:
    """A film's press with the maker's own seconds; what it bears stays."""
    told = {"tack_s": own.tack_s, "full_s": own.full_s}
    return changed(press, bears_s=press.most_s, **{k: v for k, v in told.items() if v is not None})
