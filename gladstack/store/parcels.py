"""Designs and jobs as files: packing what the database holds, and bringing a parcel in, all of it or nothing."""

from __future__ import annotations

import secrets
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import JobDesign
from gladstack.shop.jobs.parcel import Asset, Parcel, needed
from gladstack.shop.shelf.materials import ANY, Material
from gladstack.store.database import Database, now
from gladstack.store.designs import Brought, DesignBook, append_revision
from gladstack.store.fonts import FontShelf
from gladstack.store.jobs import KeptJob, append_job
from gladstack.store.refs import parts_of
from gladstack.store.shelf import Shelf, add_material


@dataclass(frozen=True)
class BroughtIn:
    """What came of a parcel: the designs' new ids, and the job's."""

    designs: tuple[str, ...]
    job: str | None


class ParcelBook:
    """Packs and unpacks for one database."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._designs = DesignBook(database)
        self._fonts = FontShelf(database)
        self._shelf = Shelf(database)

    def design(self, design: str) -> Parcel:
        """A design as it stands. Raises UnknownDesignError."""
        recipe = self._designs.get(design).revision.motif
        return Parcel({parts_of(design)[0]: recipe}, self._assets([recipe]), None, self._materials([recipe], []))

    def job(self, kept: KeptJob) -> Parcel:
        """A job with its designs, each at the revision that is cut. Raises UnknownDesignError.

        A version of a design is in it as a design of its own.
        """
        recipes: dict[str, Recipe] = {}
        for one in kept.job.designs:
            if one.source not in recipes:
                held = (
                    self._designs.get(one.source).revision
                    if one.revision is None
                    else self._designs.revision(one.source, one.revision)
                )
                own = changed(held.recipe, name=held.title, versions=())
                recipes[one.source] = held.recipe if held.version is None else own
        chosen = [f.material for f in kept.job.films if f.material]
        job = changed(kept.job, pieces=(), laid=tuple(changed(p, piece=None) for p in kept.job.laid))
        return Parcel(recipes, self._assets(list(recipes.values())), job, self._materials(list(recipes.values()), chosen))

    def bring_in(
        self, parcel: Parcel, pictures: Mapping[str, Brought], fonts: Sequence[tuple[bytes, str, str]]
    ) -> BroughtIn:
        """Keeps all of a parcel, its `pictures` read and its `fonts` with family and style: designs under new ids, the job,
        and materials that the shelf does not know.
        """
        held = {m.id for m in self._shelf.materials()}
        brought = [pictures.get(a.digest) or Brought.file(a.data, "") for a in parcel.assets if a.kind != "font"]
        ids = {key: secrets.token_urlsafe(9) for key in parcel.designs}
        with self._database.write() as db:
            for data, family, style in fonts:
                self._fonts.keep(db, data, family, style)
            for material in parcel.materials:
                if material.id not in held:
                    add_material(db, material)
            revisions: dict[str, int] = {}
            for key, recipe in parcel.designs.items():
                db.execute("INSERT INTO designs (id, created, head) VALUES (?, ?, NULL)", (ids[key], now()))
                revisions[key] = append_revision(db, ids[key], None, recipe, None, "Brought in the design file", brought)
            job_id = None
            if parcel.job is not None:
                job_id = secrets.token_urlsafe(9)
                designs = tuple(_renamed(d, ids, revisions) for d in parcel.job.designs)
                db.execute("INSERT INTO jobs (id, created, head) VALUES (?, ?, NULL)", (job_id, now()))
                append_job(db, job_id, None, changed(parcel.job, designs=designs), "Brought in the job file")
        return BroughtIn(tuple(ids.values()), job_id)

    def _assets(self, recipes: Sequence[Recipe]) -> tuple[Asset, ...]:
        out: dict[tuple[str, str], Asset] = {}
        read = {"picture": self._designs.picture, "file": self._designs.file, "font": self._fonts.data}
        for recipe in recipes:
            for kind, digest in needed(recipe):
                out.setdefault((kind, digest), Asset(kind, digest, read[kind](digest)))
        return tuple(out.values())

    def _materials(self, recipes: Sequence[Recipe], chosen: Sequence[str]) -> tuple[Material, ...]:
        films = [f for r in recipes for f in (*r.films, *(own.choice for v in r.versions for own in v.films))]
        named = {f.material for f in films if f.material} | set(chosen) - {ANY}
        return tuple(m for m in self._shelf.materials() if m.id in named)


def _renamed(one: JobDesign, ids: Mapping[str, str], revisions: Mapping[str, int]) -> JobDesign:
    """An entry of a job that means the design under its new id; what is chosen for its films still goes by its old key."""
    return changed(one, of=ids[one.source], revision=revisions[one.source])
