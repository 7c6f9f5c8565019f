"""The demo shelf: films, offcuts and rolls of the observatory's little workshop, all made up."""

from __future__ import annotations

from gladstack.demo.designs import EXAMPLES, job_files
from gladstack.recipe.model.recipe import Finish
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import Job
from gladstack.shop.jobs.names import CheckedRow, names_job, read_rows
from gladstack.shop.jobs.read_job import read_job
from gladstack.shop.shelf.materials import BladeSetting, Kind, Material, Press
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Piece
from gladstack.store.designs import DesignBook
from gladstack.store.jobs import JobBook
from gladstack.store.shelf import Shelf

_NAMED = "example-helper-names"
_SMOOTH = Press(celsius=150, tack_s=3, full_s=12, peel="warm")


def _film(id_: str, name: str, kind: Kind, colour: str, cost: float, **more: object) -> Material:
    return Material.model_validate({"id": id_, "name": name, "kind": kind, "colour": colour, "cost_m2": cost, **more})


def _pressed(id_: str, name: str, kind: Kind, colour: str, cost: float, **more: object) -> Material:
    told = {"face": "back", "press": _SMOOTH, "blade": BladeSetting(force_g=110), "spacing_mm": 2.5, **more}
    return _film(id_, name, kind, colour, cost, **told)


MATERIALS = (
    _film("night-navy", "Night navy", Kind.ADHESIVE, "#1d2b53", 9.5, finish=Finish(kind="gloss")),
    _film("moon-cream", "Moon cream", Kind.ADHESIVE, "#fff4d6", 9.5, finish=Finish(kind="gloss")),
    _film("lamp-gold", "Lamp gold", Kind.ADHESIVE, "#f2b632", 11.0, finish=Finish(kind="metallic"), grain="half"),
    _film("barn-red", "Barn red", Kind.ADHESIVE, "#c0392b", 9.5, finish=Finish(kind="matte")),
    _film("pond-teal", "Pond teal", Kind.ADHESIVE, "#2f8f8b", 9.5, finish=Finish(kind="matte")),
    _film("slate", "Slate", Kind.REMOVABLE, "#4a5568", 7.0, finish=Finish(kind="matte"), least_part_mm=1.2),
    _film("chalk", "Chalk white", Kind.REMOVABLE, "#fbfaf7", 7.0, finish=Finish(kind="matte"), least_part_mm=1.2),
    _pressed("shirt-navy", "Shirt navy", Kind.SMOOTH, "#1d2b53", 16.0, shrink_along=0.002, shrink_across=0.002),
    _pressed("shirt-cream", "Shirt cream", Kind.SMOOTH, "#fff4d6", 16.0, shrink_along=0.002, shrink_across=0.002),
    _pressed("shirt-bark", "Shirt bark", Kind.SMOOTH, "#6f4a2f", 16.0),
    _pressed("shirt-sand", "Shirt sand", Kind.SMOOTH, "#c08a53", 16.0),
    _pressed("shirt-teal", "Shirt teal", Kind.SMOOTH, "#2f8f8b", 16.0),
    _pressed("shirt-gold", "Shirt gold", Kind.SMOOTH, "#f2b632", 16.0),
    _pressed(
        "star-glitter", "Star glitter", Kind.GLITTER, "#e8d27a", 28.0, finish=Finish(kind="glitter"), spacing_mm=3.0,
        least_part_mm=1.5, blade=BladeSetting(force_g=180, speed_mm_s=60.0, angle_deg=60),
    ),
    _pressed(
        "owl-flock", "Owl flock", Kind.FLOCK, "#8b6b4a", 24.0, finish=Finish(kind="flock"), grain="none", spacing_mm=3.0,
        least_part_mm=1.5, press=Press(celsius=160, tack_s=4, full_s=17, peel="cold", behind_s=8),
    ),
    _pressed("comet-foil", "Comet foil", Kind.FOIL, "#b9c4d0", 31.0, finish=Finish(kind="foil"), grain="half"),
    _film("stencil", "Stencil film", Kind.STENCIL, "#9fb8c9", 6.0, least_part_mm=2.0, spacing_mm=4.0),
)  # fmt: skip


def _roll(material: str, width: float, length: float, left: float | None = None) -> Piece:
    return Piece(
        id=f"{material}-roll", material=material, kind="roll", width_mm=width, length_mm=length, left=left or length
    )


def _offcut(n: int, material: str, width: float, length: float) -> Piece:
    return Piece(id=f"offcut-{n}", material=material, kind="offcut", width_mm=width, length_mm=length, left=1)


PIECES = (
    _roll("night-navy", 310, 10_000, 7_420),
    _roll("moon-cream", 310, 10_000, 9_100),
    Piece(id="lamp-gold-sheets", material="lamp-gold", kind="sheet", width_mm=305, length_mm=610, left=6),
    _roll("lamp-gold", 310, 5_000, 3_150),
    _roll("barn-red", 310, 5_000, 4_800),
    _roll("pond-teal", 310, 5_000, 2_600),
    _roll("slate", 610, 10_000),
    _roll("chalk", 610, 10_000, 8_040),
    _roll("shirt-navy", 300, 5_000, 4_300),
    _roll("shirt-cream", 300, 5_000, 3_900),
    _roll("shirt-bark", 300, 5_000, 2_950),
    _roll("shirt-sand", 300, 5_000, 1_480),
    _roll("shirt-teal", 300, 5_000, 3_600),
    Piece(id="shirt-gold-sheets", material="shirt-gold", kind="sheet", width_mm=300, length_mm=500, left=4),
    Piece(id="star-glitter-sheets", material="star-glitter", kind="sheet", width_mm=210, length_mm=297, left=3),
    Piece(id="owl-flock-sheets", material="owl-flock", kind="sheet", width_mm=210, length_mm=297, left=2),
    _roll("comet-foil", 300, 1_000, 640),
    Piece(id="stencil-sheets", material="stencil", kind="sheet", width_mm=300, length_mm=300, left=10),
    _offcut(1, "night-navy", 120, 260),
    _offcut(2, "moon-cream", 96, 300),
    _offcut(3, "lamp-gold", 140, 210),
    _offcut(4, "barn-red", 80, 150),
    _offcut(5, "shirt-navy", 200, 180),
    _offcut(6, "chalk", 300, 420),
)


def add_demo_shelf(shelf: Shelf, jobs: JobBook, designs: DesignBook) -> None:
    """Fills a shelf that is empty, and adds the demo jobs whose designs are there."""
    if not shelf.materials():
        shelf.add(MATERIALS, PIECES)
    for file in job_files():
        job, files = read_job(file.read_text(encoding="utf-8"), file.parent)
        if jobs.has(file.stem) or not all(designs.has(f"example-{path.stem}") for path in files.values()):
            continue
        held = {d.design: designs.get(f"example-{files[d.design].stem}") for d in job.designs}
        taken = tuple(
            changed(
                d, design=held[d.design].id, name=held[d.design].revision.recipe.name, revision=held[d.design].revision.id
            )
            for d in job.designs
        )
        jobs.create(changed(job, designs=taken), id_=file.stem, label="Opened the example")
    if designs.has(_NAMED) and not jobs.has("job-names"):
        held_names = designs.get(_NAMED)
        jobs.create(_names(held_names.id, held_names.revision.id), id_="job-names", label="Opened the example")


def _names(design: str, revision: int) -> Job:
    """The helpers of the open evening, each with a name for a mug."""
    text = (EXAMPLES / "helpers.csv").read_text(encoding="utf-8")
    rows = [CheckedRow(k, row, "narrower", "", "", 0.0, 0.0) for k, row in enumerate(read_rows(text, ["name"]))]
    return changed(names_job("Names of the helpers", design, revision, rows), name="Names of the helpers")


def demo_shop() -> Shop:
    """The demo shelf as a shop."""
    return Shop(materials=MATERIALS, pieces=PIECES)
