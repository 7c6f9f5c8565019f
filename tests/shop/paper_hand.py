"""A hand that knows only the paper: it does what the order of work says, step by step."""

from __future__ import annotations

from gladstack.recipe.model.uses import USES
from gladstack.shop.papers.steps import WorkStep
from gladstack.shop.plan.wanted import WantedFilm


def carried_out(steps: tuple[WorkStep, ...]) -> list[tuple[int, bool]]:
    """The films as they lie at last, what touches the ground first, each with whether it was turned face down."""
    tape: list[int] = []
    ground: list[tuple[int, bool]] = []
    for step in steps:
        k = -1 if step.film is None else step.film
        match step.does:
            case "lift":
                assert not tape
                tape = [k]
            case "gather":
                assert tape
                tape.append(k)
            case "lay":
                ground += [(film, False) for film in reversed(tape)]
                tape = []
            case "press":
                ground.append((k, True))
            case "place" | "glue" | "stencil":
                ground.append((k, False))
            case "draw":
                assert (k, False) not in ground
                assert (k, True) not in ground
            case "ready" | "turn" | "note":
                pass
    assert not tape
    return ground


def seen(ground: list[tuple[int, bool]], films: list[WantedFilm]) -> list[tuple[int, bool]]:
    """The films as they are seen, from the lowest up, each with whether it reads right."""
    through = USES[films[0].use].seen_through
    order = ground[::-1] if through else ground
    return [(k, (films[k].mirrored != turned) == through) for k, turned in order]
