"""Edits of a job: small commands, each with what it does and what the history calls it."""

from __future__ import annotations

from abc import abstractmethod
from typing import Annotated, Any, Literal

from pydantic import Field

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.model.values import FilmKey, Frozen, Id, MarginMm, Name, PlaceMm, SeamMm, SheetMm, changed
from gladstack.shop.jobs.job import (
    Copies,
    DesignRef,
    HandMinutes,
    Job,
    JobDesign,
    JobFilm,
    KeptTogether,
    LaidPart,
    Layout,
    Marks,
    Order,
    PieceChoice,
    PlacedSeam,
    Pressing,
    SeamCount,
    SeamCounts,
    Tiles,
    Together,
    Weeding,
)


class AJobEdit(Frozen):
    """One edit of a job."""

    @abstractmethod
    def apply(self, job: Job) -> Job:
        """The job with the edit made. Raises RecipeError if the edit contradicts it."""

    @abstractmethod
    def describe(self, job: Job) -> str:
        """One line for the history."""


class SetJob(AJobEdit):
    """Change what holds for the whole job; what is None stays as it is."""

    kind: Literal["set-job"] = "set-job"
    name: Name | None = None
    cutter: Id | None = None
    layout: Layout | None = None
    together: Together | None = None
    weeding: Weeding | None = None
    marks: Marks | None = None
    tiles: Tiles | None = None
    share: bool | None = None
    slug: bool | None = None
    test_cut: bool | None = None
    laying_down: Literal["dry", "wet"] | None = None
    pressing: Pressing | None = None
    order: Order | None = None
    hand_min: HandMinutes | None = None
    priced: bool | None = None
    hinge: bool | None = None
    place_mm: Annotated[float, Field(ge=0.0, le=2000.0)] | None = None
    spacing_mm: MarginMm | None = None
    keep_offcuts_mm: SheetMm | None = None

    def _changes(self) -> dict[str, Any]:
        told = {k: getattr(self, k) for k in type(self).model_fields if k != "kind"}
        return {k: v for k, v in told.items() if v is not None}

    def apply(self, job: Job) -> Job:
        """Takes what is given."""
        return changed(job, **self._changes())

    def describe(self, job: Job) -> str:
        """Names what was changed."""
        words = {
            "test_cut": "test cut",
            "keep_offcuts_mm": "offcuts to keep",
            "spacing_mm": "spacing",
            "slug": "numbers",
        } | {
            "laying_down": "how films are laid down",
            "pressing": "how films are pressed",
            "order": "for whom it is",
            "hand_min": "how long it took",
            "priced": "the price on the job sheet",
            "place_mm": "where it goes",
        }
        return "Changed " + ", ".join(words.get(k, k) for k in self._changes()) if self._changes() else "Changed nothing"


class SetCopies(AJobEdit):
    """Cut so many copies of a design."""

    kind: Literal["set-copies"] = "set-copies"
    design: DesignRef
    copies: Copies

    def apply(self, job: Job) -> Job:
        """Takes the number."""
        return changed(
            job, designs=tuple(changed(d, copies=self.copies) if d.design == self.design else d for d in job.designs)
        )

    def describe(self, job: Job) -> str:
        """Tells it."""
        return f"{self.copies} of {_named(job, self.design)}"


class AddToJob(AJobEdit):
    """Cut another design along."""

    kind: Literal["add-to-job"] = "add-to-job"
    design: JobDesign

    def apply(self, job: Job) -> Job:
        """Adds it, if it is not there."""
        if any(d.design == self.design.design for d in job.designs):
            raise RecipeError(f"{self.design.name} is in this job already.", "Give it more copies instead.")
        return changed(job, designs=(*job.designs, self.design))

    def describe(self, job: Job) -> str:
        """Names it."""
        return f"Added {self.design.name}"


class DropFromJob(AJobEdit):
    """Cut a design no more."""

    kind: Literal["drop-from-job"] = "drop-from-job"
    design: DesignRef

    def apply(self, job: Job) -> Job:
        """Takes it out. Raises RecipeError for the last one."""
        left = tuple(d for d in job.designs if d.design != self.design)
        if not left:
            raise RecipeError("A job needs a design to cut.", "Add another before you take out the last.")
        films = tuple(f for f in job.films if f.design != self.design)
        return changed(job, designs=left, films=films, laid=tuple(p for p in job.laid if p.design != self.design))

    def describe(self, job: Job) -> str:
        """Names it."""
        return f"Took out {_named(job, self.design)}"


class RenewDesign(AJobEdit):
    """Cut a design as it is at another revision."""

    kind: Literal["renew-design"] = "renew-design"
    design: DesignRef
    revision: Annotated[int, Field(ge=0, le=2**53)]
    name: Name

    def apply(self, job: Job) -> Job:
        """Takes the revision."""
        return changed(job, designs=tuple(self._renewed(d) if d.design == self.design else d for d in job.designs))

    def _renewed(self, entry: JobDesign) -> JobDesign:
        """An entry with words of its own goes on being called by them."""
        return changed(entry, revision=self.revision, name=entry.name if entry.words else self.name)

    def describe(self, job: Job) -> str:
        """Names it."""
        return f"Took {self.name} as it is now"


class SetJobFilm(AJobEdit):
    """Choose how one film of one design is laid, and on which material; what is None is left to the job and the shelf."""

    kind: Literal["set-job-film"] = "set-job-film"
    film: JobFilm

    def apply(self, job: Job) -> Job:
        """Takes the choice."""
        rest = tuple(f for f in job.films if (f.design, f.film) != (self.film.design, self.film.film))
        plain = self.film == JobFilm(design=self.film.design, film=self.film.film)
        return changed(job, films=rest if plain else (*rest, self.film))

    def describe(self, job: Job) -> str:
        """Names it."""
        return f"Changed a film of {_named(job, self.film.design)}"


class KeepTogether(AJobEdit):
    """Let parts of a film keep their places to each other, or each go by itself again."""

    kind: Literal["keep-together"] = "keep-together"
    kept: KeptTogether
    on: bool = True

    def apply(self, job: Job) -> Job:
        """Keeps them together; parts belong to one group at most."""
        mine, parts = (self.kept.design, self.kept.film), set(self.kept.parts)
        rest = tuple(k for k in job.kept if (k.design, k.film) != mine or not parts & set(k.parts))
        laid = tuple(p for p in job.laid if (p.design, p.film) != mine)
        return changed(job, kept=(*rest, self.kept) if self.on else rest, laid=laid)

    def describe(self, job: Job) -> str:
        """Tells which."""
        return f"{len(self.kept.parts)} parts {'keep together' if self.on else 'go each by itself'}"


class ChoosePiece(AJobEdit):
    """Lay a material on a piece of stock; None leaves it to the shelf again."""

    kind: Literal["choose-piece"] = "choose-piece"
    material: Id
    piece: Id | None

    def apply(self, job: Job) -> Job:
        """Takes the piece; what lay on another is laid anew."""
        rest = tuple(c for c in job.pieces if c.material != self.material)
        own = (PieceChoice(material=self.material, piece=self.piece),) if self.piece else ()
        return changed(job, pieces=(*rest, *own), laid=tuple(p for p in job.laid if p.pinned))

    def describe(self, job: Job) -> str:
        """Tells that."""
        return "Chose the film to cut from"


class PlaceSeam(AJobEdit):
    """Put a seam by hand, or give it an overlap or gap of its own; where neither is told it finds its place again.

    `of` is how many seams there are.
    """

    kind: Literal["place-seam"] = "place-seam"
    design: DesignRef
    film: FilmKey | None = None
    axis: Literal["x", "y"]
    index: SeamCount
    at_mm: PlaceMm | None = None
    of: SeamCounts | None = None
    overlap_mm: SeamMm | None = None

    def apply(self, job: Job) -> Job:
        """Puts it."""
        rest = tuple(s for s in job.tiles.placed if (s.design, s.film, s.axis, s.index) != self._own)
        if self.at_mm is not None or self.overlap_mm is not None:
            seam = PlacedSeam(**{k: getattr(self, k) for k in PlacedSeam.model_fields})
            rest = (*rest, seam)
        return changed(job, tiles=changed(job.tiles, placed=rest))

    def describe(self, job: Job) -> str:
        """Tells that."""
        if self.at_mm is None and self.overlap_mm is None:
            return "Let a seam find its place"
        before = [s for s in job.tiles.placed if (s.design, s.film, s.axis, s.index) == self._own]
        moved = self.at_mm is not None and (not before or before[0].at_mm != self.at_mm)
        return "Moved a seam" if moved else "Changed a seam's overlap"

    @property
    def _own(self) -> tuple[str, str | None, str, int]:
        return self.design, self.film, self.axis, self.index


class FreeSeams(AJobEdit):
    """Let all seams of a design find their places again."""

    kind: Literal["free-seams"] = "free-seams"
    design: DesignRef

    def apply(self, job: Job) -> Job:
        """Forgets where they were put."""
        rest = tuple(s for s in job.tiles.placed if s.design != self.design)
        return changed(job, tiles=changed(job.tiles, placed=rest))

    def describe(self, job: Job) -> str:
        """Tells that."""
        return "Let all seams find their places"


class TakeLaying(AJobEdit):
    """Take where all nested parts lie: found by looking longer, or with one of them put, pinned or let go by hand."""

    kind: Literal["take-laying"] = "take-laying"
    laid: Annotated[tuple[LaidPart, ...], Field(max_length=20_000)]
    said: Literal["closer", "put", "pinned", "unpinned"] = "closer"

    def apply(self, job: Job) -> Job:
        """Takes it."""
        return changed(job, laid=self.laid)

    def describe(self, job: Job) -> str:
        """Tells how it came."""
        return {"closer": "Laid the parts closer", "put": "Put a part by hand"}.get(
            self.said, f"{self.said.capitalize()} a part"
        )


class LayRest(AJobEdit):
    """Lay all anew that is not pinned."""

    kind: Literal["lay-rest"] = "lay-rest"

    def apply(self, job: Job) -> Job:
        """Forgets where the rest lies."""
        return changed(job, laid=tuple(p for p in job.laid if p.pinned))

    def describe(self, job: Job) -> str:
        """Tells that."""
        return "Laid the rest again"


JobEdit = (
    SetJob | SetCopies | AddToJob | DropFromJob | RenewDesign | SetJobFilm | ChoosePiece | PlaceSeam | FreeSeams | TakeLaying
    | KeepTogether | LayRest
)  # fmt: skip
AnyJobEdit = Annotated[JobEdit, Field(discriminator="kind")]


def _named(job: Job, design: str) -> str:
    return next((d.name for d in job.designs if d.design == design), design)
