"""What a check is, and what each kind of check reads."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Generic, TypeVar

from gladstack.proof.finding import Beside, E, Finding
from gladstack.recipe.art.given import ArtPieces, FileFacts, LetterFacts, PictureFacts, PictureSeen
from gladstack.recipe.build.built import Built, BuiltLayer
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import AnyArt, PictureArt, VectorArt
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.planned import Plan
from gladstack.stages.engine import Stages

R = TypeVar("R", contravariant=True)


@dataclass(frozen=True)
class Check(Generic[R, E]):
    """One check: its codes, what on the screen it stands beside, where its limit comes from, and what it tells."""

    codes: tuple[str, ...]
    findings: Callable[[R], Iterable[Finding[E]]]
    beside: Beside
    limit_from: str = ""


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
class FilmRead:
    """A film of a stack."""

    layer: BuiltLayer
    built: Built


@dataclass(frozen=True)
class PlanRead:
    """A plan, and the designs of its job as built."""

    plan: Plan
    designs: Mapping[str, Built]


ArtCheck = Check[ArtRead, Edit]
FilmCheck = Check[FilmRead, Edit]
StackCheck = Check[Built, Edit]
PlanCheck = Check[PlanRead, JobEdit]
