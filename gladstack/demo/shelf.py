"""The demo shelf: films, offcuts and rolls of the observatory's little workshop, all made up."""

from __future__ import annotations

from gladstack.demo.designs import EXAMPLES, job_files
from gladstack.recipe.model.recipe import Finish
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import Job
from gladstack.shop.jobs.names import CheckedRow, names_job, read_rows
from gladstack.shop.jobs.read_job import read_job
from gladstack.shop.shelf.kinds import Kind, Press
from gladstack.shop.shelf.materials import of_kind
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Piece
from gladstack.store.designs import DesignBook
from gladstack.store.jobs import JobBook
from gladstack.store.shelf import Shelf

_NAMED = "example-helper-names"
_WARM = Press(celsius=150, tack_s=3, full_s=12, peel="warm")
_GLOSS, _METAL = Finish(kind="gloss"), Finish(kind="metallic")
_SHRINKS = {"shrink_along": 0.002, "shrink_across": 0.002}

MATERIALS = (
    of_kind(Kind.ADHESIVE, "night-navy", "Night navy", "#1d2b53", cost_m2=9.5, finish=_GLOSS),
    of_kind(Kind.ADHESIVE, "moon-cream", "Moon cream", "#fff4d6", cost_m2=9.5, finish=_GLOSS),
    of_kind(Kind.ADHESIVE, "lamp-gold", "Lamp gold", "#f2b632", cost_m2=11.0, finish=_GLOSS, grain="half"),
    of_kind(Kind.ADHESIVE, "barn-red", "Barn red", "#c0392b", cost_m2=9.5),
    of_kind(Kind.ADHESIVE, "pond-teal", "Pond teal", "#2f8f8b", cost_m2=9.5),
    of_kind(Kind.ADHESIVE, "bark", "Bark brown", "#6f4a2f", cost_m2=9.5),
    of_kind(Kind.ADHESIVE, "sand", "Sand", "#c08a53", cost_m2=9.5),
    of_kind(Kind.ADHESIVE, "coal", "Coal black", "#17171a", cost_m2=9.0),
    of_kind(Kind.ADHESIVE, "snow", "Snow white", "#ffffff", cost_m2=9.0, finish=_GLOSS),
    of_kind(Kind.ADHESIVE, "old-brass", "Old brass", "#b08d3c", cost_m2=15.0, finish=_METAL, grain="half"),
    of_kind(Kind.PRINTABLE, "star-print", "Star print", "#27407a", finish=Finish(kind="patterned")),
    of_kind(Kind.REMOVABLE, "slate", "Slate", "#4a5568", cost_m2=7.0),
    of_kind(Kind.REMOVABLE, "chalk", "Chalk white", "#fbfaf7", cost_m2=7.0),
    of_kind(Kind.SMOOTH, "shirt-navy", "Shirt navy", "#1d2b53", cost_m2=16.0, press=_WARM, **_SHRINKS),
    of_kind(Kind.SMOOTH, "shirt-cream", "Shirt cream", "#fff4d6", cost_m2=16.0, press=_WARM, **_SHRINKS),
    of_kind(Kind.SMOOTH, "shirt-bark", "Shirt bark", "#6f4a2f", cost_m2=16.0, press=_WARM),
    of_kind(Kind.SMOOTH, "shirt-sand", "Shirt sand", "#c08a53", cost_m2=16.0, press=_WARM),
    of_kind(Kind.SMOOTH, "shirt-teal", "Shirt teal", "#2f8f8b", cost_m2=16.0, press=_WARM),
    of_kind(Kind.SMOOTH, "shirt-gold", "Shirt gold", "#f2b632", cost_m2=16.0, press=_WARM),
    of_kind(Kind.SMOOTH, "shirt-black", "Shirt black", "#17171a", cost_m2=15.0, press=_WARM),
    of_kind(Kind.SMOOTH, "shirt-white", "Shirt white", "#ffffff", cost_m2=15.0, press=_WARM),
    of_kind(Kind.STRETCH, "stretch-red", "Stretch red", "#c0392b", cost_m2=20.0),
    of_kind(Kind.METALLIC, "dome-silver", "Dome silver", "#aeb4bb"),
    of_kind(Kind.REFLECTIVE, "torch-silver", "Torch silver", "#c9ced4"),
    of_kind(Kind.GLOW, "moon-glow", "Moon glow", "#e3f0c4"),
    of_kind(Kind.PUFF, "cloud-puff", "Cloud puff", "#f4f1ea"),
    of_kind(Kind.GLITTER, "star-glitter", "Star glitter", "#e8d27a", press=_WARM),
    of_kind(Kind.FLOCK, "owl-flock", "Owl flock", "#8b6b4a"),
    of_kind(Kind.FOIL, "comet-foil", "Comet foil", "#b9c4d0", press=_WARM),
    of_kind(Kind.STENCIL, "stencil", "Stencil film", "#9fb8c9"),
    of_kind(Kind.CARD, "night-card", "Night card", "#1d2b53"),
    of_kind(Kind.CARD, "cream-card", "Cream card", "#fff4d6"),
    of_kind(Kind.CARD, "gold-card", "Gold card", "#f2b632"),
    of_kind(Kind.PAPER, "kraft-paper", "Kraft paper", "#b58f62"),
    of_kind(Kind.PEN, "navy-pen", "Navy pen", "#1d2b53"),
    of_kind(Kind.PEN, "gold-pen", "Gold pen", "#c99a2e", line_mm=0.8),
)


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
    _roll("bark", 310, 5_000, 3_400),
    _roll("sand", 310, 5_000, 2_050),
    _roll("coal", 310, 10_000, 6_300),
    _roll("snow", 310, 10_000, 8_750),
    _roll("old-brass", 310, 3_000, 1_900),
    Piece(id="star-print-sheets", material="star-print", kind="sheet", width_mm=210, length_mm=297, left=5),
    _roll("slate", 610, 10_000),
    _roll("chalk", 610, 10_000, 8_040),
    _roll("shirt-navy", 300, 5_000, 4_300),
    _roll("shirt-cream", 300, 5_000, 3_900),
    _roll("shirt-bark", 300, 5_000, 2_950),
    _roll("shirt-sand", 300, 5_000, 1_480),
    _roll("shirt-teal", 300, 5_000, 3_600),
    _roll("shirt-black", 300, 5_000, 4_100),
    _roll("shirt-white", 300, 5_000, 2_700),
    _roll("stretch-red", 300, 5_000, 3_300),
    Piece(id="dome-silver-sheets", material="dome-silver", kind="sheet", width_mm=300, length_mm=500, left=3),
    Piece(id="torch-silver-sheets", material="torch-silver", kind="sheet", width_mm=210, length_mm=297, left=4),
    Piece(id="moon-glow-sheets", material="moon-glow", kind="sheet", width_mm=210, length_mm=297, left=2),
    Piece(id="cloud-puff-sheets", material="cloud-puff", kind="sheet", width_mm=210, length_mm=297, left=2),
    Piece(id="shirt-gold-sheets", material="shirt-gold", kind="sheet", width_mm=300, length_mm=500, left=4),
    Piece(id="star-glitter-sheets", material="star-glitter", kind="sheet", width_mm=210, length_mm=297, left=3),
    Piece(id="owl-flock-sheets", material="owl-flock", kind="sheet", width_mm=210, length_mm=297, left=2),
    _roll("comet-foil", 300, 1_000, 640),
    Piece(id="stencil-sheets", material="stencil", kind="sheet", width_mm=300, length_mm=300, left=10),
    Piece(id="night-card-sheets", material="night-card", kind="sheet", width_mm=305, length_mm=305, left=20),
    Piece(id="cream-card-sheets", material="cream-card", kind="sheet", width_mm=305, length_mm=305, left=20),
    Piece(id="gold-card-sheets", material="gold-card", kind="sheet", width_mm=305, length_mm=305, left=12),
    Piece(id="kraft-paper-sheets", material="kraft-paper", kind="sheet", width_mm=210, length_mm=297, left=40),
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
