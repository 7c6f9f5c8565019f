"""Makes the fonts of printed pages out of the screen's own: one file for each weight, figures all of one width."""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

from fontTools.merge import Merger
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

ROOT = Path(__file__).parent.parent
SOURCE = ROOT / "web/node_modules/@fontsource-variable/source-sans-3/files"
SCRIPTS = ("latin", "latin-ext", "cyrillic", "greek", "vietnamese")


def static(script: str, weight: int) -> io.BytesIO:
    """One script of the variable font at one weight."""
    font = TTFont(SOURCE / f"source-sans-3-{script}-wght-normal.woff2")
    font.flavor = None
    instantiateVariableFont(font, {"wght": weight}, inplace=True)
    tabular: dict[str, str] = {}
    gsub: Any = font["GSUB"].table if "GSUB" in font else None
    for record in gsub.FeatureList.FeatureRecord if gsub else ():
        if record.FeatureTag == "tnum":
            for index in record.Feature.LookupListIndex:
                for table in gsub.LookupList.Lookup[index].SubTable:
                    tabular |= getattr(getattr(table, "ExtSubTable", table), "mapping", {})
    for table in font["cmap"].tables:
        table.cmap = {code: tabular.get(name, name) for code, name in table.cmap.items()}
    for tag in ("GSUB", "GPOS", "GDEF", "STAT", "HVAR", "MVAR", "avar"):
        if tag in font:
            del font[tag]
    out = io.BytesIO()
    font.save(out)
    out.seek(0)
    return out


def main() -> None:
    """Writes both weights."""
    for name, weight in (("regular", 400), ("semibold", 600)):
        made = Merger().merge([static(script, weight) for script in SCRIPTS])
        for record in list(made["name"].names):
            # The licence keeps the original's name for the original.
            if record.nameID in (1, 3, 4, 6, 16):
                made["name"].setName(f"GladSheet-{name}", record.nameID, record.platformID, record.platEncID, record.langID)
        made.save(ROOT / f"gladstack/fonts/glad-sheet-{name}.ttf")


if __name__ == "__main__":
    main()
