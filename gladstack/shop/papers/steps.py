"""The order of work of one decal, step by step: what is done with each film, from how it is made, lies and was laid on film.

Films are named by their places in the stack, from the ground up. What is in register, or kept together, is lifted as one;
what was scattered over the film is laid part by part, by the placement map. What is read through glass goes down the other
way round: the film that is seen on top touches the glass.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import groupby
from typing import Literal

from gladstack.core.base.units import Unit, format_length, temperature
from gladstack.core.geometry.curves import Matrix
from gladstack.recipe.model.uses import USES
from gladstack.recipe.model.values import Method
from gladstack.shop.jobs.job import Job
from gladstack.shop.papers.pressing import HOW, PressStep, Schedule, schedule
from gladstack.shop.plan.planned import Plan
from gladstack.shop.plan.wanted import WantedFilm
from gladstack.shop.shelf.kinds import Kind

Does = Literal["draw", "ready", "press", "turn", "lift", "gather", "lay", "place", "stencil", "glue", "note"]
"""What a step does: a film is pressed, lifted with tape, gathered under what hangs on the tape, laid down with all that
does, placed by itself (whole or part by part), painted through, or glued; the rest gets ready, turns, draws or tells.
"""


@dataclass(frozen=True)
class WorkStep:
    """One step: what it does, to which film (by its place from the ground up), in words; `parts`: part by part."""

    does: Does
    text: str
    film: int | None = None
    parts: bool = False


@dataclass(frozen=True)
class Work:
    """How a decal is put together: in one line, step by step, and how it is pressed."""

    heading: str
    steps: tuple[WorkStep, ...]
    schedule: Schedule | None


@dataclass(frozen=True)
class Lying:
    """How films lie on their sheets: those whose parts do not all lie as in the decal, by design and film, and in how many
    tiles a design comes that is divided alike in all films.
    """

    loose: frozenset[tuple[str, str]]
    tiles: Mapping[str, int]


def lying(plan: Plan) -> Lying:
    """How the films of a plan lie, told by where each part was really put."""
    first: dict[tuple[str, str, int], tuple[int, Matrix]] = {}
    loose: set[tuple[str, str]] = set()
    for sheet in plan.sheets:
        for p in sheet.parts:
            film = p.bit.film
            at = (sheet.number, p.matrix)
            if first.setdefault((film.design, film.film, p.bit.copy), at) != at:
                loose.add((film.design, film.film))
    tiles: dict[str, int] = {}
    for (design, film_key), register in plan.registers.items():
        seams = register.seams.get(film_key)
        if seams is not None and all(own == seams for own in register.seams.values()):
            tiles[design] = (len(seams.x) + 1) * (len(seams.y) + 1)
            loose.discard((design, film_key))
    return Lying(frozenset(loose), tiles)


def work(films: Sequence[WantedFilm], job: Job, unit: Unit, how: Lying, numbers: Mapping[int, str] | None = None) -> Work:
    """The order of work for the films of a design from the ground up, as they lie; `numbers` says which numbers the parts of
    a film bear on the map.
    """
    made = _Work(films, job, unit, how, numbers or {})
    through = bool(films) and USES[films[0].use].seen_through
    pressing = schedule([(f.said, f.material) for f in films], job.pressing)
    presses = iter(pressing.steps if pressing else ())
    out = [*made.drawn(), *made.larger(), *made.tiled()]
    runs = [(key, list(own)) for key, own in groupby(range(len(films)), key=lambda k: made.way(k))]
    headings = []
    for way, own in runs[::-1] if through else runs:
        order = own[::-1] if through else own
        headings.append(made.heading(way, order))
        out += made.run(way, order, pressing, presses)
    return Work(", then ".join(headings), tuple(out), pressing)


Way = Method | Literal["stencil"]


@dataclass(frozen=True)
class _Work:
    films: Sequence[WantedFilm]
    job: Job
    unit: Unit
    how: Lying
    numbers: Mapping[int, str]

    def way(self, k: int) -> Way:
        film = self.films[k]
        if USES[film.use].parts_go:
            return "stencil"
        method = film.material.method
        assert method != "drawn"  # No film is cut from a pen.
        return method

    def heading(self, way: Way, order: Sequence[int]) -> str:
        """What a run of films that are put together alike is called; `order` begins with what touches the ground."""
        if way == "heat-transfer":
            return "Press, bottom film first"
        if way == "stencil":
            return "One stencil after another"
        if way == "glued":
            return "Glue, bottom first"
        if self._loose(order):
            return "Lay one film after another"
        return f"Gather on transfer tape, {self.films[order[-1]].said} first"

    def run(
        self, way: Way, order: Sequence[int], pressing: Schedule | None, presses: Iterator[PressStep]
    ) -> Iterator[WorkStep]:
        """The steps of such a run."""
        if way == "heat-transfer":
            assert pressing is not None
            yield from self._pressed(order, pressing, presses)
        elif way == "stencil":
            for k in order:
                yield self._stencil(k)
        elif way == "glued":
            for n, k in enumerate(order):
                yield self._glued(k, first=n == 0 and k == 0)
        elif self._loose(order):
            yield from self._ground()
            for k in order:
                yield self._placed(k)
        else:
            yield from self._gathered(order)

    def drawn(self) -> Iterator[WorkStep]:
        """What pens draw comes before the blade."""
        for k, film in enumerate(self.films):
            if film.pens:
                pens = ", then ".join(pen.name for pen in film.pens)
                yield WorkStep("draw", f"Put {pens} in, and draw the lines on {film.said}; then the blade, and cut it.", k)

    def larger(self) -> Iterator[WorkStep]:
        """What is cut larger, for it shrinks in the press."""
        for film in self.films:
            along, _, _, across, _, _ = film.onto_film
            left, top, right, bottom = film.layer.cut.bounds
            sizes = [
                f"{format_length(size, self.unit)} is cut {format_length(size * factor, self.unit)}"
                for size, factor in ((right - left, abs(along)), (bottom - top, across))
                if abs(factor - 1) > 1e-9
            ]
            if sizes:
                yield WorkStep("note", f"{film.said} shrinks in the press, and is cut larger: {', '.join(sizes)}.")

    def tiled(self) -> Iterator[WorkStep]:
        """What is divided alike in all films is put together tile by tile."""
        count = self.how.tiles.get(self.films[0].design, 1) if self.films else 1
        if count > 1:
            yield WorkStep(
                "note", f"It comes in {count} tiles: do what follows tile by tile, and lay each where the map has it."
            )

    def _apart(self, k: int) -> bool:
        return (self.films[k].design, self.films[k].film) in self.how.loose

    def _loose(self, order: Sequence[int]) -> bool:
        return any(self._apart(k) for k in order)

    def _parts(self, k: int) -> str:
        return f"parts {self.numbers[k]}" if k in self.numbers else "its parts"

    def _pressed(self, order: Sequence[int], pressing: Schedule, presses: Iterator[PressStep]) -> Iterator[WorkStep]:
        heat = temperature(pressing.celsius, self.unit)
        yield WorkStep("ready", f"Set the press to {heat}. Press the bare cloth for {pressing.preheat_s:g} s to dry it.")
        for k in order:
            film, step = self.films[k], next(presses)
            apart = self._apart(k)
            how = "in full" if step.full else "only to tack it"
            laid = f"Lay {film.said} down, its film on the cloth"
            if apart:
                by_map = f"and lay them by the placement map: {self._parts(k)}"
                laid = f"Cut the parts of {film.said} apart with their carrier, {by_map}"
            elif step.cover:
                laid = f"Lay {film.said} down in register"
            cover = ", cover it with a cover sheet" if step.cover else ""
            press = f"{laid}{cover}, and press {step.seconds:g} s, {how}. Peel {step.peel}: {HOW[step.peel]}."
            yield WorkStep("press", press, k, apart)
        if pressing.behind_s:
            full = ", in full" if self.job.pressing.finish == "behind" else ""
            yield WorkStep("turn", f"Turn it over, cover it, and press {pressing.behind_s:g} s from behind{full}.")

    def _gathered(self, order: Sequence[int]) -> Iterator[WorkStep]:
        """Gathered on tape, what ends farthest from the ground first."""
        marks = " so that its marks cover theirs" if any(self.films[k].marks(self.job) for k in order) else ""
        for n, k in enumerate(reversed(order)):
            name = self.films[k].said
            if n == 0:
                yield WorkStep("lift", f"Lay transfer tape on {name}, rub it down, and lift the film off its liner.", k)
            else:
                text = f"Lay the tape with its films in register on {name}{marks}, rub it down, and lift all."
                yield WorkStep("gather", text, k)
        yield from self._ground()
        yield WorkStep("lay", self._laid())
        peel = (
            "Press the water out, and wait an hour before you peel the tape."
            if self.job.laying_down == "wet"
            else "Peel the tape flat back on itself."
        )
        yield WorkStep("note", peel)

    def _ground(self) -> Iterator[WorkStep]:
        what = "the inside of the glass" if self._through else "the ground"
        if self.job.laying_down == "wet":
            yield WorkStep("ready", f"Wash {what}, and wet it with water and a drop of soap.")
        else:
            yield WorkStep("ready", f"Clean {what} with alcohol and let it dry.")

    @property
    def _through(self) -> bool:
        return USES[self.films[0].use].seen_through

    def _laid(self) -> str:
        seen = " From the other side it reads right." if self._through else ""
        if self.job.hinge:
            return (
                "Put it where it goes, and fix it with a strip of masking tape across its middle as a hinge. Fold one half "
                f"up, take its liner away, and rub it down from the hinge outwards; then the other half.{seen}"
            )
        return f"Take the liner away, lay the films down from one edge, and rub outwards from the middle.{seen}"

    def _placed(self, k: int) -> WorkStep:
        name = self.films[k].said
        if self._apart(k):
            how = "one by one with transfer tape, and lay each where the placement map has it"
            worded = self.job.keeps == "word" and any(word is not None for word in self.films[k].words)
            what = "words and other parts" if worded else "parts"
            return WorkStep("place", f"Lift the {what} of {name} {how}: {self._parts(k)}.", k, True)
        return WorkStep(
            "place", f"Lift {name} as one with transfer tape, lay it where the placement map has it, and peel the tape.", k
        )

    def _stencil(self, k: int) -> WorkStep:
        name = self.films[k].said
        return WorkStep(
            "stencil",
            f"Take the parts out of {name}, so that their openings stay. Lay the film down with transfer tape, put its "
            "colour on through the openings, let it dry, and take the stencil off.",
            k,
        )

    def _glued(self, k: int, *, first: bool) -> WorkStep:
        film = self.films[k]
        apart = self._apart(k)
        if first and not apart:
            return WorkStep("glue", f"Lay {film.said} down as the base.", k)
        glue = _GLUES.get(film.material.kind, "a thin line of craft glue")
        where = (
            f"part by part, where the placement map has them: {self._parts(k)}"
            if apart
            else "where the placement map has it"
        )
        return WorkStep("glue", f"Glue {film.said} {where}; take {glue}.", k, apart)


_GLUES = {
    Kind.CARD: "a thin line of craft glue, or foam pads where it is to stand off",
    Kind.PAPER: "a glue stick, up to the edges",
}
