"""Films that bare ground, or another film, when a hand lays them a little off their place."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.base.units import rough_area
from gladstack.core.films.drift import beside
from gladstack.proof.check import OnFilm, OnFilmCheck
from gladstack.proof.finding import Finding, Fix
from gladstack.proof.places import around
from gladstack.recipe.edit.edits import Edit, Several
from gladstack.recipe.edit.films import SetPairJoint
from gladstack.recipe.model.recipe import JointRule

_SEEN_MM2 = 0.1
_SLIVER_MM2 = 0.5
"""A sliver as large as this meets the eye."""
_MOST_EDITS = 200


def _findings(read: OnFilm) -> Iterator[Finding[Edit]]:
    if read.slip_mm <= 0 or len(read.films) < 2:
        return
    fix = hide_all(read)
    for film, drift in zip(read.films, read.drift, strict=True):
        if drift.mm2 < _SEEN_MM2:
            continue
        spots = sorted(drift.shape.geoms, key=lambda p: -p.area)
        outlines = tuple(around(p.exterior) for p in spots[:_MOST_OUTLINES])
        at = spots[0].representative_point()
        yield Finding(
            "drift",
            f"If {film.layer.name} is laid {read.slip_mm:g} mm off its place, {rough_area(drift.mm2)} of what lies below "
            "shows through.",
            "mind" if max(p.area for p in drift.shape.geoms) >= _SLIVER_MM2 else "note",
            film.film,
            place=Whereabouts(at=(at.x, at.y), outlines=outlines),
            measure=Measure(round(drift.mm2, 3), 0.0, "mm2"),
            helps="Let films run on under those above them."
            if fix
            else "Where a film is narrower than the slip, nothing hides under it: thicken it, or lay it with marks.",
            fixes=(fix,) if fix else (),
        )


_MOST_OUTLINES = 40


def hide_all(read: OnFilm) -> Fix[Edit] | None:
    """Laps of the slip where films bare one another, as far as they are shorter; None if there is nothing to lengthen.

    A gap was chosen to show what is below, and stays.
    """
    pairs = set()
    for k, risk in enumerate(read.at_risk):
        if not risk.value.is_empty:
            pairs |= {(min(k, j), max(k, j)) for j in beside(risk.value, k, read.faces)}
    held = {film.film: k for k, film in enumerate(read.films)}
    edits = []
    for joint in read.built.joints:
        lower, upper = (read.built.layers[k].film for k in (joint.lower, joint.upper))
        if lower not in held or upper not in held or (held[lower], held[upper]) not in pairs:
            continue
        if joint.joint.form.reach == "away" or joint.joint.form.solid or joint.joint.lap_mm >= read.slip_mm:
            continue
        edits.append(SetPairJoint(a=lower, b=upper, rule=JointRule(kind="lap", mm=read.slip_mm)))  # type: ignore[arg-type]
    if not edits:
        return None
    name = f"Laps of {read.slip_mm:g} mm that hide a slip"
    return Fix(f"Hide it with laps of {read.slip_mm:g} mm", Several(name=name, edits=tuple(edits[:_MOST_EDITS])))


CHECK = OnFilmCheck(("drift",), _findings, "proof", "how far a hand slips, by the use", "laying")
