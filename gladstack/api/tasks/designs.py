"""What workers do for the screen: build, read and write. Each takes plain values and gives bytes to be sent."""

from __future__ import annotations

import io
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from PIL import Image

from gladstack.api.views.compared import FilmChangeView, compared_view
from gladstack.api.views.shown import built_view, regions_view
from gladstack.core.base.colour import from_hex
from gladstack.core.base.errors import FontError, MendError, RecipeError
from gladstack.core.base.plane import Box
from gladstack.core.lettering.faces import open_face
from gladstack.core.lettering.forms import FontChoices, font_choices
from gladstack.core.picture.carried import carried
from gladstack.core.picture.decode import decode_picture, picture_header
from gladstack.core.picture.framed import framed
from gladstack.core.picture.lines import drawn_in_lines
from gladstack.core.picture.straight import straightened
from gladstack.core.write.png import png
from gladstack.core.write.svg import path_data
from gladstack.recipe.art.alike import Likeness, words_like
from gladstack.recipe.art.fields import Fitting, fields_of, filled
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.pieces import costly_stages, pieces_of, regions_of_art
from gladstack.recipe.art.vectors import is_vector, looked_at, picture_within
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.compared import compared_builds
from gladstack.recipe.build.fitted import fitted
from gladstack.recipe.model.arts import LetterForm, LetteringArt
from gladstack.recipe.model.fields import Fit
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.files.job_files import stack_file
from gladstack.shop.jobs.names import CheckedRow, Row, checked, read_rows
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo
from gladstack.store.designs import Brought
from gladstack.store.listing import Look
from gladstack.work import costs, worker


@dataclass(frozen=True)
class DesignWork:
    """A recipe to be worked on: where its pictures and files are kept, and those that are not kept there yet, by hash.

    `held` are the keys of what the asker holds already.
    """

    data: Path
    recipe: Recipe
    brought: Mapping[str, Brought] = field(default_factory=dict)
    held: frozenset[str] = frozenset()

    @property
    def given(self) -> dict[str, bytes]:
        """The bytes of what is not kept yet."""
        return {digest: one.data for digest, one in self.brought.items()}

    def cost_s(self, pixels: Callable[[str], int], size: Callable[[str], int]) -> float:
        """What its art will cost, if none of it is remembered; `pixels` and `size` tell of what is kept."""

        def pixels_of(digest: str) -> int:
            own = self.brought.get(digest)
            return own.width_px * own.height_px if own else pixels(digest)

        def size_of(digest: str) -> int:
            own = self.brought.get(digest)
            return len(own.data) if own else size(digest)

        return costs.arts_s(self.recipe, pixels_of, size_of)


def prepare(job: DesignWork) -> None:
    """Works out, and keeps, what takes long: pictures separated, lines traced, files read."""
    costly_stages(job.recipe, worker.assets(job.data, job.given), worker.stages(job.data))


def view(job: DesignWork, new_mend: tuple[str, str] | None = None) -> bytes:
    """The build as the screen takes it. Raises MendError if `new_mend` (art, step) finds nothing to do."""
    built = _built(job)
    if new_mend is not None:
        _require_use(built, *new_mend)
    return built_view(built, job.held, worker.stages(job.data)).model_dump_json().encode()


def fit(job: DesignWork, width_mm: float) -> Recipe:
    """The recipe made so that its films are `width_mm` wide."""
    return fitted(
        job.recipe, width_mm, worker.assets(job.data, job.given), worker.memo(job.data), worker.give_up_if_unwanted
    )


def regions(job: DesignWork, art: str) -> bytes:
    """The regions of an art. Raises RecipeError if it has none."""
    found = job.recipe.art(art)
    parts = regions_of_art(found, worker.assets(job.data, job.given), worker.stages(job.data)) if found else None
    if parts is None:
        raise RecipeError("This art does not come as regions.", "Choose a picture, line art or a vector file.")
    return regions_view(parts.key, parts.value).model_dump_json().encode()


def like(job: DesignWork, art: str, film: str, text: str, fonts: Sequence[str]) -> list[Likeness]:
    """Words in the fonts of the shelf where an art's part of a film lies. Raises RecipeError if there is none."""
    built, stages = _built(job), worker.stages(job.data)
    own = next((a for a in built.arts if a.id == art), None)
    shape = next((p.shape.value for p in own.pieces if p.film == film), None) if own else None
    found = job.recipe.art(art)
    if shape is None or shape.is_empty or found is None:
        raise RecipeError("This art gives nothing to that film.", "Choose another film.")
    return words_like(shape, text, fonts, found.place.turn_deg, worker.assets(job.data, job.given), stages)


def drawn(job: DesignWork, letterings: Sequence[LetteringArt]) -> list[tuple[str, Box]]:
    """Letterings as they are set, each as path data with its box."""
    stages, assets = worker.stages(job.data), worker.assets(job.data, job.given)
    pieces = [pieces_of(art, assets, stages) for art in letterings]
    return [(path_data([c.chain for c in p.curves.value]), p.box) for p in pieces]


def read_file(data: bytes, filename: str) -> Brought:
    """A file brought in: a vector file, or a picture, be it one that a vector file merely wraps."""
    held = picture_within(data) if is_vector(data) else data
    if held is None:
        return Brought.file(data, filename, looked_at(data))
    return read_picture(held, filename if held is data else f"{filename}, the picture in it")


def read_picture(data: bytes, filename: str = "") -> Brought:
    """A picture brought in. Raises PictureError."""
    data = carried(data, filename)
    form, width, height = picture_header(data, filename)
    return Brought.picture(data, filename, form, width, height)


def part_of_picture(data: bytes, corners: tuple[float, ...] | None, frame: tuple[float, ...] | None) -> tuple[bytes, str]:
    """A picture set straight by x and y of its four corners, and the part of it within the sides of a frame; and its media
    type. Raises PictureError.
    """
    picture = decode_picture(data)
    if corners is not None:
        picture = straightened(picture, tuple(zip(corners[::2], corners[1::2], strict=True)))
    if frame is not None:
        left, top, right, bottom = frame
        picture = framed(picture, left, top, right, bottom)
    held = io.BytesIO()
    if corners is None:
        # Its colours are picked from what is seen.
        Image.fromarray(picture.rgb).save(held, "PNG", compress_level=3)
        return held.getvalue(), "image/png"
    Image.fromarray(picture.rgb).save(held, "JPEG", quality=92, subsampling=0)
    return held.getvalue(), "image/jpeg"


def is_drawn_in_lines(data: bytes) -> bool:
    """Whether a picture is line art. Raises PictureError."""
    return drawn_in_lines(decode_picture(data, ""))


def names_checked(
    job: DesignWork, text: str, fit: Fit, mended: Mapping[int, tuple[tuple[tuple[str, str], ...] | None, Fit | None]]
) -> list[CheckedRow]:
    """The rows of a list laid into a design, with what was mended by hand."""
    rows = read_rows(text, list(fields_of(job.recipe)))
    rows = [
        Row(values, row.copies) if (values := mended.get(k, (None, None))[0]) is not None else row
        for k, row in enumerate(rows)
    ]
    fits = [mended.get(k, (None, None))[1] or fit for k in range(len(rows))]
    found = checked(job.recipe, rows, fits, worker.assets(job.data, job.given), worker.stages(job.data))
    return [row for row, _ in found]


def name_look(job: DesignWork, values: Mapping[str, str], fit: Fit, capitals_mm: Mapping[str, float]) -> bytes:
    """A design with its fields filled, as one SVG."""
    assets, stages = worker.assets(job.data, job.given), worker.stages(job.data)
    recipe, _ = filled(
        job.recipe, values, {name: Fitting(fit, capitals_mm.get(name)) for name in fields_of(job.recipe)}, assets, stages
    )
    return stack_file(build(recipe, assets, worker.memo(job.data), worker.give_up_if_unwanted)).encode()


def preview(job: DesignWork) -> bytes:
    """The decal as a small PNG."""
    built = _built(job)
    return png(built.frame, [(layer.colour, layer.outline.rings) for layer in built.layers], (), 480)


def small_look(job: DesignWork) -> Look:
    """The decal on its ground, as a PNG for a list, with how many films it has and how large it is."""
    built = _built(job)
    fills = [(layer.colour, layer.outline.rings) for layer in built.layers]
    picture = png(built.frame, fills, (), 320, from_hex(job.recipe.ground.colour))
    return Look(picture, len(built.layers), built.width_mm, built.height_mm)


def compared(now: DesignWork, before: DesignWork) -> list[FilmChangeView]:
    """What of the films is cut otherwise than it was before."""
    return compared_view(compared_builds(_built(before), _built(now)))


def font_names(data: bytes) -> tuple[str, str]:
    """Family and style of a font whose own name could be set in it, so that it can be worked with. Raises FontError."""
    face = open_face(data)
    judged = LetteringArt(text=f"{face.family} Ag", font=_JUDGED, height_mm=10)
    pieces_of(judged, Assets(_no_picture, lambda _: data), Stages(Memo(), lambda _: None))
    return face.family, face.style


_JUDGED = "judged"


def _no_picture(digest: str) -> bytes:
    raise FontError("A font holds no picture.", "Bring in an outline font.")


def font_choices_of(data: Path, font: str, text: str) -> tuple[FontChoices, list[str]]:
    """What a font lets choose for a text, and that text drawn plainly and in each of the forms, as path data."""
    stages, assets = worker.stages(data), worker.assets(data, {})
    choices = font_choices(assets.font(font), text)
    sets: list[tuple[LetterForm, ...]] = [()]
    sets += [(LetterForm(tag=form.tag, value=k + 1),) for form in choices.forms for k in range(form.count)]
    arts = [LetteringArt(text=text, font=font, height_mm=10, align="left", forms=forms) for forms in sets]
    return choices, [path_data([c.chain for c in pieces_of(art, assets, stages).curves.value]) for art in arts]


def samples(data: Path, fonts: list[tuple[str, str]]) -> list[str]:
    """The names of fonts (key, name), each drawn in itself as path data."""
    stages, assets = worker.stages(data), worker.assets(data, {})
    arts = [LetteringArt(text=name, font=key, height_mm=10, align="left") for key, name in fonts]
    return [path_data([c.chain for c in pieces_of(art, assets, stages).curves.value]) for art in arts]


def _built(job: DesignWork) -> Built:
    return build(job.recipe, worker.assets(job.data, job.given), worker.memo(job.data), worker.give_up_if_unwanted)


def _require_use(built: Built, art: str, step: str) -> None:
    """Raises MendError if a step finds nothing to do."""
    for idle in next(a for a in built.arts if a.id == art).idle:
        if idle.step == step:
            raise MendError(idle.why)


def newest_mend(recipe: Recipe, art: str) -> tuple[str, str] | None:
    """The step of mending that was added to an art last."""
    found = recipe.art(art)
    return (art, found.mends[-1].id) if found is not None and found.mends else None
