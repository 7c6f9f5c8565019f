"""Pictures of a motif replaced by others of it: rescaled, turned, shifted, in a lossy file, with a part drawn anew.

Do claims and steps of mending find their places?

`python -m bench.sources [times [seed]]` by itself.
"""

from __future__ import annotations

import hashlib
import io
import math
import random
import sys
import time
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt
import shapely
from PIL import Image, ImageDraw

from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.pieces import regions_of_art
from gladstack.recipe.art.replaced import replaced
from gladstack.recipe.model.arts import PictureArt
from gladstack.recipe.model.mends import Bridge, Brush, Straighten
from gladstack.recipe.model.pins import ArtPoint, Pin
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo
from tests.pictures import BY_NAME, encode, picture_of

WIDTH_MM, SIDE = 100.0, 480
DEMO = Path("gladstack/demo/pictures")


@dataclass(frozen=True)
class Another:
    """Another picture of a motif, where its pixels lie on the first (3x3), and the box in pixels that was drawn anew."""

    image: Image.Image
    matrix: npt.NDArray[np.float64]
    anew: shapely.Polygon


def another(image: Image.Image, rng: random.Random) -> Another:
    """The picture rescaled, turned and shifted on a larger page, with a part drawn anew."""
    w, h = image.size
    image, draw = image.copy(), ImageDraw.Draw(image)
    draw = ImageDraw.Draw(image)
    r, x, y = 0.11 * w, rng.uniform(0.25, 0.75) * w, rng.uniform(0.25, 0.75) * h
    colour = image.getpixel((int(rng.uniform(0, w)), int(rng.uniform(0, h))))
    box = (x - r, y - r, x + r, y + r)
    if rng.random() < 0.5:
        draw.ellipse(box, fill=colour)
    else:
        draw.polygon([(x - r, y + r), (x, y - r), (x + r, y + r)], fill=colour)
    scale, turn = math.exp(rng.uniform(math.log(0.5), math.log(2))), math.radians(rng.uniform(-5, 5))
    cos, sin = math.cos(turn), math.sin(turn)
    size = int(w * scale * 1.25), int(h * scale * 1.25)
    matrix = np.array([[cos / scale, -sin / scale, 0], [sin / scale, cos / scale, 0], [0, 0, 1.0]])
    at = matrix @ (size[0] / 2, size[1] / 2, 1)
    matrix[:2, 2] = w / 2 + rng.uniform(-0.08, 0.08) * w - at[0], h / 2 + rng.uniform(-0.08, 0.08) * h - at[1]
    new = image.transform(
        size, Image.Transform.AFFINE, tuple(matrix[:2].ravel()), Image.Resampling.BICUBIC, fillcolor=image.getpixel((2, 2))
    )
    return Another(new, matrix, shapely.box(*box))


def sources() -> list[tuple[str, Image.Image]]:
    """The motifs that are tried."""
    out = [(name, Image.open(io.BytesIO(picture_of(name, SIDE))).convert("RGB")) for name in BY_NAME]
    for file in sorted(DEMO.iterdir()):
        image = Image.open(file).convert("RGB")
        image.thumbnail((SIDE, SIDE))
        out.append((file.stem, image))
    return out


def main() -> None:
    times = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    rng = random.Random(int(sys.argv[2]) if len(sys.argv) > 2 else 1)
    claims = kept = unsaid = mends = held = fits = tried = 0
    spent = []
    for name, image in sources():
        first = encode(image)
        for _ in range(times):
            tried += 1
            new = another(image, rng)
            second = encode(new.image, "JPEG", quality=75)
            kept_by = {hashlib.sha256(one).hexdigest(): one for one in (first, second)}
            old_key, new_key = kept_by
            assets, stages = Assets(picture=kept_by.__getitem__), Stages(Memo())
            art = PictureArt(id="p", picture=old_key, width_mm=WIDTH_MM)
            regions = regions_of_art(art, assets, stages)
            assert regions is not None
            own = [r for r in regions.value.all if r.shape.area > 1.5]
            chosen = rng.sample(own, min(14, len(own)))
            pins = tuple(Pin(x=r.at[0] / WIDTH_MM, y=r.at[1] / WIDTH_MM, film="#123456") for r in chosen)
            steps = []
            for k, region in enumerate(rng.sample(own, min(6, len(own)))):
                ring = region.shape.exterior
                a, b = (ring.interpolate(s, normalized=True) for s in (0.1, 0.2))
                p, q = ArtPoint(x=a.x / WIDTH_MM, y=a.y / WIDTH_MM), ArtPoint(x=b.x / WIDTH_MM, y=b.y / WIDTH_MM)
                kind = k % 3
                steps.append(
                    Straighten(id=f"s-{k}", film="#123456", start=p, end=q) if kind == 0
                    else Brush(id=f"s-{k}", film="#123456", path=(p, q)) if kind == 1
                    else Bridge(id=f"s-{k}", start=p, end=q)
                )  # fmt: skip
            art = art.model_copy(update={"pins": pins})
            begin = time.perf_counter()
            found = replaced(art, art.from_source(new_key, ""), assets, stages)
            spent.append(time.perf_counter() - begin)
            # By itself: what a bridge joins is another region to be claimed.
            art = art.model_copy(update={"pins": (), "mends": tuple(steps)})
            idle = replaced(art, art.from_source(new_key, ""), assets, stages, found.fit).idle
            px = image.size[0] / WIDTH_MM
            anew = shapely.affinity.scale(new.anew, 1 / px, 1 / px, origin=(0, 0)).buffer(1.0)
            a, b, c, d, x, y = found.fit.matrix
            at = np.array([[30.0, 30], [70, 40], [50, 70]])
            true = (np.column_stack([at * new.image.size[0] / WIDTH_MM, np.ones(3)]) @ new.matrix.T)[:, :2] / px
            off = np.hypot(*(at @ np.array([[a, b], [c, d]]) + (x, y) - true).T).max()
            fits += off < 0.5
            for k, region in enumerate(chosen):
                touched = region.shape.intersects(anew)
                lies = k not in found.strayed
                if not touched:
                    claims += 1
                    kept += lies
                if lies:
                    # Where it lands, in the old one's mm by the true way: in the region it was made for, or nearly.
                    point = np.array([found.pins[k].x, found.pins[k].y, 0]) * new.image.size[0]
                    point[2] = 1
                    spot = (new.matrix @ point)[:2] / px
                    wrong = region.shape.distance(shapely.Point(spot)) > 0.8
                    unsaid += wrong
            for step in steps:
                ends = (step.path[0], step.path[-1]) if isinstance(step, Brush) else (step.start, step.end)
                around = shapely.LineString([(p.x * WIDTH_MM, p.y * WIDTH_MM) for p in ends])
                if around.distance(anew) > 2:
                    mends += 1
                    held += step.id not in idle
            print(f"{name:>18}: {off:.2f} mm off, {len(found.strayed)} of {len(pins)} claims strayed")
    print(
        f"{tried} pictures replaced, {fits} laid within 0.5 mm; of {claims} claims of what stayed {kept} kept their place "
        f"({kept / claims:.1%}), {unsaid} lie in a wrong one; of {mends} steps of mending {held} ({held / mends:.1%}); "
        f"median {np.median(spent):.2f} s"
    )


if __name__ == "__main__":
    main()
