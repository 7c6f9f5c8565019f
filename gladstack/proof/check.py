"""What a check is, and what each kind of check reads."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from functools import cache, cached_property
from typing import Any, Generic, TypeVar

from shapely import MultiPolygon

from gladstack.core.films.borders import borders
from gladstack.core.films.drift import Drift, at_risk, inner_of, worst
from gladstack.core.films.thickness import GROUND, Piled, piled
from gladstack.core.geometry.curves import IDENTITY, Matrix
from gladstack.core.geometry.outlines import Outline
from gladstack.core.geometry.runs import Runs, both_runs
from gladstack.core.geometry.shapes import near_boxes, placed
from gladstack.proof.finding import Beside, E, Finding, When
from gladstack.proof.places import laid_drift, laid_runs
from gladstack.recipe.art.given import ArtPieces, FileFacts, LetterFacts, PictureFacts, PictureSeen
from gladstack.recipe.build.built import Built, BuiltLayer
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import AnyArt, PictureArt, VectorArt
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.planned import Plan
from gladstack.shop.plan.wanted import WantedFilm
from gladstack.shop.shelf.cutters import Cutter
from gladstack.stages.engine import Stages, constant
from gladstack.stages.laid import Laid, Shape, as_drawn, how_laid, laid, run_alike, unlaid
from gladstack.stages.memo import Keyed

R = TypeVar("R", contravariant=True)
T = TypeVar("T")


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
    """An art as the recipe has it and as it was built, and what the films of its stack are called."""

    art: AnyArt
    pieces: ArtPieces
    stages: Stages
    names: Mapping[str, str]

    def name_of(self, film: str) -> str:
        """What a maker knows a film by: its name, or what stands for it where it is not cut."""
        return self.names.get(film, film)

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
    stages: Stages


@dataclass(frozen=True)
class PlanRead:
    """A plan, and the designs of its job as built."""

    plan: Plan
    designs: Mapping[str, Built]
    stages: Stages


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
    def cuts(self) -> tuple[Shape, ...]:
        """What is cut of each, known by just that and how it lies: an edit elsewhere leaves what is told of it as it is."""
        return tuple(_known_by_itself(f.layer.laid, self.stages) for f in self.films)

    @cached_property
    def reads(self) -> tuple[CutRead, ...]:
        """Each of its films by itself."""
        return tuple(CutRead(film, self, cut) for film, cut in zip(self.films, self.cuts, strict=True))

    @cached_property
    def _by(self) -> Matrix | None:
        """How all are laid."""
        return how_laid(self.cuts)

    @cached_property
    def _piled(self) -> Keyed[Piled]:
        """How they lie on one another, before they are laid."""
        return self.stages.run("proof", piled, list(unlaid(self.cuts, self._by)))

    @cached_property
    def seen_mm2(self) -> tuple[float, ...]:
        """How much is seen of each."""
        return tuple(face.area for face in self._piled.value.faces)

    @cached_property
    def faces(self) -> tuple[MultiPolygon, ...]:
        """What is seen of each."""
        return tuple(placed(face, self._by or IDENTITY) for face in self._piled.value.faces)

    @cached_property
    def at_risk(self) -> tuple[Shape, ...]:
        """What of each would show something wrong if it were bared by the slip."""
        by, found = self._by, self._piled.value
        # What films are known by are their own points: an edit elsewhere leaves what is told of them as it is.
        face_of = cache(lambda k: constant(found.faces[k] if k != GROUND else MultiPolygon()))
        all_cuts = unlaid(self.cuts, by)
        all_borders = self.stages.run("proof", borders, self._piled, self.slip_mm).value
        inner = cache(lambda: self.stages.run("proof", inner_of, self._piled, self.slip_mm).value)

        def of(k: int) -> Shape:
            own = all_borders[k]
            if not own:
                return constant(MultiPolygon())
            bare = [border.upon for border in own if border.lower == GROUND]
            inside = near_boxes(inner(), bare[0]) if bare else MultiPolygon()
            under = [face_of(border.lower) for border in own]
            risk = self.stages.run("proof", at_risk, own, all_cuts[k], under, inside, self.slip_mm)
            return laid(risk, by, self.stages)

        return tuple(of(k) for k in range(len(self.films)))

    @cached_property
    def drift(self) -> tuple[Drift, ...]:
        """The worst that each bares if it slips."""
        found = [
            run_alike(self.stages, "proof", worst, risk, cut, self.slip_mm)
            for risk, cut in zip(self.at_risk, self.cuts, strict=True)
        ]
        return tuple(laid_drift(one.value, by) for one, by in found)

    @cached_property
    def at_least(self) -> tuple[MultiPolygon, ...]:
        """Where at least one, two, three ... films lie on one another."""
        return tuple(placed(shape, self._by or IDENTITY) for shape in self._piled.value.at_least)


def _known_by_itself(cut: Shape, stages: Stages) -> Shape:
    """A cut shape known by its points before it was laid, and by how it is."""
    return laid(constant(as_drawn(cut).value), cut.by if isinstance(cut, Laid) else None, stages)


@dataclass(frozen=True)
class CutRead:
    """One of these films, and what is cut of it."""

    film: WantedFilm
    whole: OnFilm
    cut: Shape

    @cached_property
    def narrow(self) -> tuple[Runs, Runs]:
        """The stretches of its parts and of its waste that are narrower than its material bears."""
        return self.narrower_than(1.0)

    def narrower_than(self, times: float) -> tuple[Runs, Runs]:
        """The stretches of its parts and of its waste that are narrower than so many times what its material bears."""
        return self.measured(_laid_both, both_runs, *(times * limit for limit in self.limits))

    @property
    def limits(self) -> tuple[float, float]:
        """How narrow parts and waste of its material may be, mm."""
        return self.film.material.least_part_mm, self.film.material.least_waste_mm

    def measured(self, lay: Callable[[T, Matrix], T], stage: Callable[..., T], *arguments: Any) -> T:
        """What a stage finds in what is cut of it: `lay` tells where that lies when the cut is laid by a matrix."""
        by = how_laid(self.cut)
        found = self.found(stage, *arguments).value
        return found if by is None else lay(found, by)

    def found(self, stage: Callable[..., T], *arguments: Any) -> Keyed[T]:
        """What a stage finds in what is cut of it, before that is laid: remembered with that, whatever else is edited."""
        return self.whole.stages.run("proof", stage, as_drawn(self.cut), *arguments)

    @property
    def outline(self) -> Outline:
        """Its curves."""
        return self.film.layer.outline


def _laid_both(found: tuple[Runs, Runs], matrix: Matrix) -> tuple[Runs, Runs]:
    parts, waste = found
    return laid_runs(parts, matrix), laid_runs(waste, matrix)


ArtCheck = Check[ArtRead, Edit]
FilmCheck = Check[FilmRead, Edit]
StackCheck = Check[StackRead, Edit]
CutCheck = Check[CutRead, Edit]
OnFilmCheck = Check[OnFilm, Edit]
PlanCheck = Check[PlanRead, JobEdit]
