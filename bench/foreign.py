"""Files and words of others, held against independent readers: SVG and strokes against resvg, PDF against PDFium, lines of
words in many scripts against Raqm (as Pillow uses it: FriBidi's order, its own runs).

python -m bench.foreign [--svg FOLDER ...] [--fonts FOLDER ...] [--count N]
"""

from __future__ import annotations

import argparse
import io
import random
import time
from collections import Counter
from collections.abc import Iterable
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
import resvg_py
import shapely
from fontTools.ttLib import TTFont
from PIL import Image, ImageDraw, ImageFont
from scipy.ndimage import minimum_filter

from bench.pdf_pages import painted, pdf_of, share_off
from gladstack.core.base.errors import GladStackError
from gladstack.core.geometry.strokes import Pen, stroked
from gladstack.core.lettering.faces import open_face
from gladstack.core.lettering.lettering import Lettering, Line
from gladstack.core.lettering.setting import lay_out, letter_curves, letter_shape
from gladstack.recipe.art.vectors import HowRead, read_and_seen

_SIDE_PX, _LEVELS, _OFF = 600, 90, 0.001
_SLOW_S = 10.0
_FINE = 0.001
_STROKE_SCALES = (16, 48)
"""Pixels to a unit; a renderer counts the pixels of edges in steps, so what differs is looked at again more closely."""
SVG_FOLDERS = ("web/node_modules", ".venv/lib", "/usr/share/icons", "/usr/share/doc")
FONT_FOLDERS = ("gladstack/fonts", "/usr/share/fonts/truetype/noto", "/usr/share/fonts/truetype/dejavu")
WORDS = {
    "Latin": "Open evening Ähre Œuvre fjord office flight Łódź Ívö 2026 3/4",
    "Greek": "Ανοιχτό βράδυ αστέρι Σελήνη φως ουρανός Ήλιος 2026 18:30",
    "Cyrillic": "Открытый вечер звезда Луна небо Йод щит 2026 18:30",
    "Hebrew": "ערב פתוח כוכב ירח שמים טלפון 050-1234567 18:30 3/4",
    "Arabic": "مساء مفتوح نجمة قمر سماء الله لا ٢٠٢٦ 050-123 18:30",
    "Devanagari": "खुली शाम क्षत्रिय तारा चन्द्रमा आकाश स्त्री ज्ञान श्री २०२६",
    "Bengali": "খোলা সন্ধ্যা তারা চাঁদ আকাশ ক্ষেত্র জ্ঞান স্ত্রী ২০২৬",
    "Tamil": "திறந்த மாலை நட்சத்திரம் நிலா வானம் ஸ்ரீ கௌ கொ",
    "Thai": "ค่ำคืนเปิด ดาว พระจันทร์ ท้องฟ้า น้ำ ที่ กำลัง ๒๐๒๖",
    "Armenian": "Բաց երեկո աստղ Լուսին երկինք մեւ և 2026",
    "Georgian": "ღია საღამო ვარსკვლავი მთვარე ცა 2026",
    "Khmer": "ល្ងាច ផ្កាយ ព្រះច័ន្ទ មេឃ ស្រ្តី ខ្មែរ ២០២៦",
}
"""Words of the open evening, and such as are set by a script's harder rules."""


def svg_files(folders: Iterable[str]) -> list[Path]:
    """All SVG files of some folders, in order."""
    return sorted({p for folder in folders for p in Path(folder).rglob("*.svg") if p.is_file()})


def judge_svg(path: Path) -> tuple[str, float, float]:
    """What comes of a file (right, told, silent, refused, crash), the share of pixels off, and seconds."""
    data = path.read_bytes()
    began = time.perf_counter()
    try:
        read = read_and_seen(data, HowRead(tints="mixed"))
    except GladStackError:
        return "refused", 0.0, time.perf_counter() - began
    except Exception:  # a crash is what is looked for
        return "crash", 1.0, time.perf_counter() - began
    seconds = time.perf_counter() - began
    try:
        png = bytes(resvg_py.svg_to_bytes(svg_string=data.decode(), width=_SIDE_PX, background="white"))
    except (ValueError, UnicodeDecodeError):
        return "refused", 0.0, seconds
    wanted = np.asarray(Image.open(io.BytesIO(png)).convert("RGB"), np.int64)
    got = painted(read.seen, wanted.shape[1] / read.size_mm[0], wanted.shape[1], wanted.shape[0])
    off = float(minimum_filter(np.abs(got - wanted).max(axis=2) > _LEVELS, 3).mean())
    if off <= _OFF:
        return "right", off, seconds
    return ("told" if read.remarks else "silent"), off, seconds


def judge_stroke(seed: int) -> float:
    """How far the area of a random stroke is off the renderer's, as a share; sharp ways back are among them."""
    rng = np.random.default_rng(seed)
    points = rng.uniform(30, 70, (int(rng.integers(2, 6)), 2))
    if rng.random() < 0.4 and len(points) > 2:
        ahead = np.radians(rng.uniform(0, 360))
        back = ahead + np.pi + np.radians(rng.choice([0.01, 0.5, 5, 20, 40]) * rng.choice([-1, 1]))
        first, turn = np.array([50.0, 50.0]), np.array([np.cos(ahead), np.sin(ahead)]) * 18
        points = np.array([first, first + turn, first + turn + 15 * np.array([np.cos(back), np.sin(back)])])
    points = points.round(4)
    closed = bool(rng.random() < 0.4 and len(points) > 2)
    dashes = tuple(rng.uniform(1, 9, int(rng.integers(2, 4))).round(2).tolist()) if rng.random() < 0.35 else ()
    pen = Pen(
        float(rng.uniform(1, 8)),
        rng.choice(["butt", "round", "square"]),
        rng.choice(["miter", "round", "bevel"]),
        float(rng.choice([1, 2, 4, 10])),
        dashes,
        float(rng.uniform(-5, 9)),
    )
    way = "M" + "L".join(f"{x} {y}" for x, y in points) + "Z" * closed
    told = f'stroke-dasharray="{" ".join(map(str, dashes))}" stroke-dashoffset="{pen.dash_offset}"' if dashes else ""
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="100" height="100"><path d="{way}" '
        f'fill="none" stroke="black" stroke-width="{pen.width}" stroke-linecap="{pen.cap}" stroke-linejoin="{pen.join}" '
        f'stroke-miterlimit="{pen.miter_limit}" {told}/></svg>'
    )
    ours = stroked([(np.vstack([points, points[:1]]) if closed else points, closed)], pen, _FINE).area
    off = 0.0
    for scale in _STROKE_SCALES:
        png = bytes(resvg_py.svg_to_bytes(svg_string=svg, width=100 * scale))
        theirs = float(np.asarray(Image.open(io.BytesIO(png)).convert("RGBA"))[..., 3].sum()) / 255 / scale**2
        off = abs(ours - theirs) / max(theirs, 1e-9)
        if off <= _OFF:
            break
    return off


def fonts_for(folders: Iterable[str]) -> dict[str, Path]:
    """For each script a font that has all letters of its words."""
    out: dict[str, Path] = {}
    files = [p for folder in folders for p in sorted(Path(folder).glob("*.[ot]tf")) if "Thin" not in p.name]
    files.sort(key=lambda p: ("bold" not in p.name.lower(), "Sans" not in p.name))
    for path in files:
        covered = set(TTFont(path, lazy=True).getBestCmap() or {})
        for script, words in WORDS.items():
            if {ord(c) for c in words if not c.isspace()} <= covered:
                out.setdefault(script, path)
    return out


def judge_phrase(job: tuple[Path, str, str]) -> float:
    """How much of the ink of a line differs from what Raqm sets, more than a pixel from any edge."""
    path, text, _ = job
    data = path.read_bytes()
    face = open_face(data)
    size = 80
    font = ImageFont.truetype(io.BytesIO(data), size, layout_engine=ImageFont.Layout.RAQM)
    left, top, right, bottom = font.getbbox(text, anchor="ls")
    wide, high = int(right - left) + 40, int(bottom - top) + 40
    theirs = Image.new("L", (wide, high))
    ImageDraw.Draw(theirs).text((20 - left, 20 - top), text, fill=255, font=font, anchor="ls")
    height = face.cap_height * size / face.units_per_em
    laid = lay_out(Lettering((Line(text, face, height),), align="left")).letters
    shapes = [letter_shape(a, c) for a, c in zip(laid, letter_curves(laid, (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)), strict=True)]
    ink = shapely.union_all(shapes)
    # Raqm's pen begins left of the first ink; ours at it.
    box = theirs.getbbox() or (0, 0, wide, high)
    moved = shapely.transform(ink, lambda p: p + np.array([box[0] - ink.bounds[0], box[1] - ink.bounds[1]]))
    polygons = [p for p in shapely.get_parts(moved) if p.geom_type == "Polygon"]
    ours = painted((("#000000", shapely.MultiPolygon(polygons)),), 1.0, wide, high)[..., 0] < 128
    there = np.asarray(theirs) > 127
    return float(minimum_filter(ours != there, 3).sum()) / max(1, int(there.sum()))


def phrases(fonts: dict[str, Path], each: int) -> list[tuple[Path, str, str]]:
    """Lines of two to four words in each script."""
    out = []
    for script, path in fonts.items():
        rng = random.Random(script)
        words = WORDS[script].split()
        out += [(path, " ".join(rng.sample(words, rng.randint(2, 4))), script) for _ in range(each)]
    return out


def main() -> None:
    """Prints what comes of each kind."""
    ask = argparse.ArgumentParser()
    ask.add_argument("--svg", nargs="*", default=SVG_FOLDERS)
    ask.add_argument("--fonts", nargs="*", default=FONT_FOLDERS)
    ask.add_argument(
        "--count", type=int, default=2000, help="strokes; a twentieth as many pages, an eightieth phrases a script"
    )
    asked = ask.parse_args()
    with ProcessPoolExecutor(2) as pool:
        files = svg_files(asked.svg)
        ends = list(pool.map(judge_svg, files, chunksize=8))
        counts = Counter(end for end, _, _ in ends)
        print(
            f"SVG files: {len(files)}; "
            + ", ".join(f"{counts[k]} {k}" for k in ("right", "told", "silent", "refused", "crash"))
        )
        seconds = [s for *_, s in ends] or [0.0]
        print(f"slowest {max(seconds):.1f} s; over {_SLOW_S:.0f} s: {sum(s > _SLOW_S for s in seconds)}")
        for path, (end, off, _) in zip(files, ends, strict=True):
            if end in ("silent", "crash"):
                print(f"  {end}: {path.name} {100 * off:.2f} %")
        strokes = np.array(list(pool.map(judge_stroke, range(asked.count), chunksize=20)))
        beyond = int((strokes > _OFF).sum())
        print(f"strokes: {len(strokes)}; {beyond} off by more than 0.1 %, worst {100 * strokes.max():.2f} %")
        pages = np.array(list(pool.map(share_off, map(pdf_of, range(asked.count // 20)), chunksize=4)))
        print(
            f"PDF pages: {len(pages)}; {int((pages > _OFF).sum())} off by more than 0.1 %, worst {100 * pages.max():.3f} %"
        )
        lines = phrases(fonts_for(asked.fonts), max(1, asked.count // 80))
        shares = list(pool.map(judge_phrase, lines, chunksize=4))
        wrong = [(script, text, share) for (_, text, script), share in zip(lines, shares, strict=True) if share > 0.01]
        print(f"lines: {len(lines)} in {len({s for *_, s in lines})} scripts; {len(wrong)} set otherwise")
        for script, text, share in wrong[:20]:
            print(f"  {script}: {text} {100 * share:.1f} %")


if __name__ == "__main__":
    main()
