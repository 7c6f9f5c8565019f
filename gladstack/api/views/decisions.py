"""What a version decides for itself, in words: what it has, and what the motif has in its place."""

from __future__ import annotations

from typing import Any

from gladstack.api.views.designs import DecisionView
from gladstack.core.base.units import Unit, format_length
from gladstack.core.films.joints import FORMS
from gladstack.recipe.edit.base import film_name
from gladstack.recipe.edit.versioning import OWN_SAYS
from gladstack.recipe.edit.versions import Decision, decisions
from gladstack.recipe.model.recipe import Ground, JointRule, Recipe, SmallPieces
from gladstack.recipe.model.uses import USES, Use


def decision_views(motif: Recipe, version: str) -> list[DecisionView]:
    """All that a version decides for itself."""
    return [
        DecisionView(
            what=one.what, film=one.film, of=film_name(motif, one.film) if one.film else "", says=OWN_SAYS[one.what],
            own=_said(one, one.own, motif.unit), motif=_said(one, one.motif, motif.unit),
        )
        for one in decisions(motif, version)
    ]  # fmt: skip


def _said(one: Decision, value: Any, unit: Unit) -> str:
    if one.what == "size":
        return f"{value * 100:.4g} %"
    if isinstance(value, JointRule):
        long = FORMS[value.kind].length != "never"
        return f"{value.kind} {format_length(value.mm, unit)}" if long else str(value.kind)
    if isinstance(value, Use):
        return USES[value].says
    if isinstance(value, Ground):
        return "the light table" if value.kind == "table" else f"{value.kind}, {value.colour}"
    if isinstance(value, SmallPieces):
        return f"{'dropped' if value.how == 'drop' else 'merged'} below {value.below_mm2:g} mm²"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, tuple):
        return str(len(value)) if value else "none"
    if isinstance(value, float):
        return f"{value:g} mm²" if one.what == "small_mm2" else format_length(value, unit)
    return str(value) if value is not None else "as the design"
