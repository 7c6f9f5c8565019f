"""A recipe with something of everything, and every edit there is for it."""

from __future__ import annotations

from gladstack.recipe.model.arts import LetteringArt, PictureArt
from gladstack.recipe.model.makings import DropShadow, OutlineShadow
from gladstack.recipe.model.recipe import FilmChoice, Recipe

RECIPE = Recipe(
    name="Owl",
    arts=(
        PictureArt(
            id="picture",
            picture="a" * 64,
            filename="owl.png",
            width_mm=120,
            strayed=({"x": 0.4, "y": 0.4, "film": "#c0392b"},),
            mends=(
                {
                    "kind": "straighten",
                    "id": "edge",
                    "film": "#c0392b",
                    "start": {"x": 0.1, "y": 0},
                    "end": {"x": 0.2, "y": 0},
                },
                {"kind": "brush", "id": "dab", "film": "#c0392b", "path": [{"x": 0.1, "y": 0.3}], "width_mm": 2},
            ),
        ),
        LetteringArt(id="words", text="Open late", film="#2f8f8b", place={"x_mm": 60, "turn_deg": 20}),
    ),
    makings=(
        OutlineShadow(id="halo", film="halo", of=("words",), mm=2),
        DropShadow(id="fall", film="halo", of=("words",), length_mm=5),
    ),
    films=(FilmChoice(film="halo", colour="#14100c", repairs=({"how": "fill", "mm": 0.5},)),),
    versions=(
        {
            "id": "v-1",
            "name": "Window",
            "factor": 2.0,
            "joint": {"kind": "lap", "mm": 0.6},
            "films": (
                {"choice": {"film": "#c0392b", "thicken_mm": 0.2}, "decides": ("thicken_mm",)},
                {
                    "choice": {"film": "#2f8f8b", "pieces": ({"x_mm": 12, "y_mm": 30},), "left_out": True},
                    "decides": ("pieces", "left_out"),
                },
            ),
        },
        {"id": "v-2", "name": "Mug", "factor": 0.7},
    ),
)
WORDS, STAR = RECIPE.arts[1], {"kind": "shape", "form": {"form": "star"}}
RED, BLUE, GREEN = "#c0392b", "#1d2b53", "#2f8f8b"

DAB = RECIPE.arts[0].mends[1]

_CORNERS = [{"x": 0.1, "y": 0.1}, {"x": 0.9, "y": 0.2}, {"x": 0.8, "y": 0.9}, {"x": 0.1, "y": 0.8}]
EDITS = [
    {"kind": "rename-design", "name": "Shirt"},
    {"kind": "resize", "width_mm": "4in"},
    {"kind": "show-unit", "unit": "in"},
    {"kind": "count-colours", "count": 5},
    {"kind": "pick-colour", "colour": RED},
    {"kind": "merge-colours", "colour": RED, "into": BLUE},
    {"kind": "drop-colour", "colour": GREEN},
    {"kind": "treat-background", "background": "keep"},
    {"kind": "set-detail", "detail_mm": 0.1, "speck_mm": "1mm"},
    {"kind": "rename-film", "film": RED, "name": "Beak"},
    {"kind": "order-films", "order": [BLUE, RED]},
    {"kind": "set-joint", "rule": {"kind": "lap", "mm": "1/32in"}},
    {"kind": "set-film-joint", "film": BLUE, "rule": {"kind": "full", "mm": 0.5}},
    {"kind": "set-pair-joint", "a": RED, "b": BLUE, "rule": {"kind": "gap", "mm": 1}},
    {"kind": "set-use", "use": "glass"},
    {"kind": "set-method", "method": "heat-transfer", "film": RED},
    {"kind": "take-material", "film": RED, "material": "barn-red", "name": "Barn red", "colour": "#c0392b"},
    {"kind": "add-art", "art": STAR},
    {"kind": "add-art", "art": {"kind": "lettering", "text": "Dome", "film": None, "opens": [RED]}},
    {"kind": "change-arts", "arts": [{**WORDS.model_dump(), "text": "Open later"}]},
    {"kind": "change-arts", "arts": [{**WORDS.model_dump(), "place": {"x_mm": "-3mm"}}]},
    {"kind": "copy-art", "art": "words"},
    {"kind": "remove-art", "art": "words"},
    {"kind": "add-making", "making": {"kind": "stitch-line", "film": "new", "of": ["words"]}, "colour": RED},
    {"kind": "change-making", "making": {"kind": "outline-shadow", "id": "halo", "film": "halo", "of": ["words"], "mm": 3}},
    {"kind": "remove-making", "making": "halo"},
    {"kind": "set-film-colour", "film": RED, "colour": BLUE},
    {"kind": "thicken-film", "film": RED, "mm": "-0.05mm"},
    {"kind": "thicken-film", "film": BLUE, "mm": 0.1, "keep_size": True},
    {"kind": "tidy-film", "film": RED, "below_mm2": 1.5, "how": "merge"},
    {"kind": "settle-piece", "film": RED, "x_mm": 3, "y_mm": 4, "how": "drop"},
    {"kind": "close-gaps", "film": BLUE, "mm": "2mm"},
    {"kind": "close-gap", "film": BLUE, "gap": {"x1_mm": 1, "y1_mm": 2, "x2_mm": 2, "y2_mm": 2}},
    {"kind": "repair-film", "film": RED, "repair": {"how": "thicken", "mm": "0.8mm", "x_mm": 3, "y_mm": 4}},
    {"kind": "repair-film", "film": BLUE, "repair": {"how": "fill", "mm": 0.6}},
    {"kind": "let-repairs-go", "film": "halo"},
    {"kind": "set-small", "mm2": 2},
    {
        "kind": "replace-source",
        "art": "picture",
        "source": "b" * 64,
        "filename": "owl-2.jpg",
        "laid": {"scale": 1.1, "turn_deg": 3, "x_mm": -4, "y_mm": "2mm"},
        "width_mm": 120,
        "new_width_mm": 120,
        "idle": ["edge"],
        "colours": [{"colour": RED, "into": "#c23a2c"}],
    },
    {"kind": "put-claims-back", "art": "picture"},
    {"kind": "put-claims-back", "art": "picture", "let_go": True},
    {"kind": "relate-arts", "upper": "words", "lower": "picture", "how": "within", "films": [GREEN], "under": [RED]},
    {
        "kind": "relate-arts",
        "upper": "words",
        "lower": "picture",
        "how": "gap",
        "films": [GREEN],
        "under": [RED, BLUE],
        "order": [RED, BLUE, GREEN],
    },
    {"kind": "relate-arts", "upper": "picture", "lower": "words", "how": "hole", "films": [RED], "under": [GREEN]},
    {"kind": "scale-art", "art": "words", "factor": 2, "x_mm": 10, "y_mm": 0},
    {"kind": "treat-picture", "art": "picture", "treatment": "lines"},
    {"kind": "set-straight", "art": "picture", "corners": _CORNERS},
    {"kind": "frame-picture", "art": "picture", "frame": {"left": 0.1, "top": 0.2, "right": 0.6, "bottom": 0.9}},
    {"kind": "leave-out", "film": RED, "left_out": True},
    {"kind": "draw-film", "film": RED, "drawn": "filled", "on": None, "pen": "red-pen", "line_mm": 0.8},
    {"kind": "set-finish", "film": RED, "finish": {"kind": "glitter"}},
    {"kind": "set-ground", "ground": {"kind": "shirt", "colour": BLUE}},
    {"kind": "turn-design", "turn_deg": 30},
    {"kind": "turn-design", "mirror": True},
    {"kind": "scale-design", "factor": 1.5},
    {
        "kind": "claim-regions",
        "art": "picture",
        "pins": [{"x": 0.5, "y": 0.2, "film": RED}, {"x": 0.1, "y": 0.2, "becomes": "hole"}],
    },
    {"kind": "add-mend", "art": "picture", "mend": {"kind": "let-go", "film": RED}},
    {
        "kind": "add-mend",
        "art": "picture",
        "mend": {
            "kind": "put-node",
            "film": RED,
            "form": "smooth",
            **dict(zip(("before", "at", "after", "to"), _CORNERS, strict=True)),
        },
    },
    {
        "kind": "add-mend",
        "art": "picture",
        "mend": {"kind": "draw-area", "film": GREEN, "path": _CORNERS, "handles": _CORNERS[::-1]},
    },
    {"kind": "change-mend", "art": "picture", "mend": {**DAB.model_dump(), "on": False}},
    {"kind": "remove-mend", "art": "picture", "mend": "edge"},
    {"kind": "order-mends", "art": "picture", "order": ["dab", "edge"]},
    {"kind": "put-right", "what": "shadow", "done": False},
    {"kind": "set-bands", "bands": 3},
    {"kind": "set-rims", "rims": "all"},
    {"kind": "pick-only", "colours": [RED, BLUE], "rest": "out"},
    {"kind": "replace-film", "art": "picture", "film": RED, "lettering": {"text": "Dome"}},
    {"kind": "replace-film", "art": "picture", "film": RED, "shadow": {"film": "new", "of": ["words"], "mm": 2}},
    {"kind": "add-version", "name": "Shirt", "factor": 1.5, "use": "heat-transfer", "like": "v-1"},
    {"kind": "rename-version", "version": "v-1", "name": "Front window"},
    {"kind": "remove-version", "version": "v-1"},
    {"kind": "follow-motif", "version": "v-1", "what": "joint"},
    {"kind": "follow-motif", "version": "v-1", "what": "pieces", "film": GREEN},
]
