"""What a check is, and what each kind of check reads."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Generic, TypeVar

from shapely import MultiPolygon

from gladstack.core.films.drift import Drift, at_risk, faces_of, inner_of, worst
from gladstack.core.films.thickness import piled
from gladstack.core.geometry.outlines import Outline
from gladstack.core.geometry.widths import Run, narrow_runs
from gladstack.proof.finding import Beside, E, Finding, When
from gladstack.recipe.art.given import ArtPieces, FileFacts, LetterFacts, PictureFacts, PictureSeen
from gladstack.recipe.build.built import Built, BuiltLayer
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import AnyArt, PictureArt, VectorArt
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.planned import Plan
from gladstack.shop.plan.wanted import WantedFilm
from gladstack.shop.shelf.cutters import Cutter
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Keyed, key_of

R = TypeVar("R", contravariant=True)


@dataclass(frozen=True)
class Check(Generic[R, E]):
    """One check: its codes, what on the screen it stands beside, where its limit comes from, and what it tells.

    When what it tells of happens follows from where it stands, unless it is said.
    """

    codes: tuple[str, ...]
    findings: Callable[[R], Iterable[Finding[E]]]
    beside: Beside
    limit_from: str = ""
    when: When | None = None


@dataclass(frozen=True)
class ArtRead:
    """An art as the recipe has it and as it was built."""

    art: AnyArt
    pieces: ArtPieces
    stages: Stages

    @property
    def picture(self) -> tuple[PictureArt, PictureFacts, PictureSeen] | None:
        """The art as a picture, with what was seen in it."""
        facts = self.pieces.facts
        if not isinstance(self.art, PictureArt) or not isinstance(facts, PictureFacts):
            return None
        return self.art, facts, facts.seen

    @property
    def file(self) -> tuple[VectorArt, FileFacts] | None:
        """The art as a vector file."""
        facts = self.pieces.facts
        return (self.art, facts) if isinstance(self.art, VectorArt) and isinstance(facts, FileFacts) else None

    @property
    def letters(self) -> LetterFacts | None:
        """What is known of the art as lettering."""
        return self.pieces.facts if isinstance(self.pieces.facts, LetterFacts) else None


@dataclass(frozen=True)
class StackRead:
    """A stack as it was built."""

    built: Built
    stages: Stages


@dataclass(frozen=True)
class FilmRead:
    """A film of a stack."""

    layer: BuiltLayer
    built: Built


@dataclass(frozen=True)
class PlanRead:
    """A plan, and the designs of its job as built."""

    plan: Plan
    designs: Mapping[str, Built]


@dataclass(frozen=True)
class OnFilm:
    """A stack with the film that each of its films is cut from, from the ground up, the cutter, and the slip of a hand."""

    built: Built
    films: tuple[WantedFilm, ...]
    cutter: Cutter
    slip_mm: float
    stages: Stages

    @property
    def names(self) -> tuple[str, ...]:
        """What its films are called, from the ground up."""
        return tuple(film.layer.name for film in self.films)

    @cached_property
    def cuts(self) -> tuple[Keyed[MultiPolygon], ...]:
        """What is cut of each."""
        return tuple(Keyed.ready(key_of("cut", f.layer.key), f.layer.cut) for f in self.films)

    @cached_property
    def faces(self) -> Keyed[tuple[MultiPolygon, ...]]:
        """What is seen of each."""
        return self.stages.run("proof", faces_of, list(self.cuts))

    @cached_property
    def at_risk(self) -> tuple[Keyed[MultiPolygon], ...]:
        """What of each would show something wrong if it were bared by the slip."""
        faces, run = self.faces, self.stages.run
        inner = run("proof", inner_of, faces, self.slip_mm)
        return tuple(run("proof", at_risk, k, faces, list(self.cuts), inner, self.slip_mm) for k in range(len(self.films)))

    @cached_property
    def drift(self) -> tuple[Drift, ...]:
        """The worst that each bares if it slips."""
        run = self.stages.run
        return tuple(
            run("proof", worst, risk, cut, self.slip_mm).value for risk, cut in zip(self.at_risk, self.cuts, strict=True)
        )

    @cached_property
    def at_least(self) -> tuple[MultiPolygon, ...]:
        """Where at least one, two, three ... films lie on one another."""
        held: Keyed[tuple[MultiPolygon, ...]] = Keyed.ready(key_of("no films"), ())
        for cut in self.cuts:
            held = self.stages.run("proof", piled, held, cut)
        return held.value


@dataclass(frozen=True)
class CutRead:
    """One of these films."""

    film: WantedFilm
    whole: OnFilm

    @property
    def thin(self) -> tuple[Run, ...]:
        """The stretches of its parts that are narrower than its material bears."""
        return self.runs(self.film.material.least_part_mm, inside=True)

    @property
    def slits(self) -> tuple[Run, ...]:
        """The stretches of its waste that are narrower than its material bears."""
        return self.runs(self.film.material.least_waste_mm, inside=False)

    def runs(self, limit_mm: float, *, inside: bool) -> tuple[Run, ...]:
        """The stretches of its parts or waste that are narrower than a limit; remembered with what is cut."""
        layer = self.film.layer
        cut = Keyed.ready(key_of("cut", layer.key), layer.cut)
        return self.whole.stages.run("proof", parts_narrower if inside else waste_narrower, cut, limit_mm).value

    @property
    def outline(self) -> Outline:
        """Its curves."""
        return self.film.layer.outline


def parts_narrower(cut: MultiPolygon, limit_mm: float) -> tuple[Run, ...]:
    """The stretches of a film that are narrower than a limit."""
    return narrow_runs(cut, limit_mm)


def waste_narrower(cut: MultiPolygon, limit_mm: float) -> tuple[Run, ...]:
    """The stretches of a film's waste that are narrower than a limit."""
    return narrow_runs(cut, limit_mm, inside=False)


ArtCheck = Check[ArtRead, Edit]
FilmCheck = Check[FilmRead, Edit]
StackCheck = Check[StackRead, Edit]
CutCheck = Check[CutRead, Edit]
OnFilmCheck = Check[OnFilm, Edit]
PlanCheck = Check[PlanRead, JobEdit]
