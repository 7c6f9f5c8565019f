"""Ridges where the edges of three films or more lie close together."""

from __future__ import annotations

from collections.abc import Iterator

from shapely import Point as Spot

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.films.thickness import RIDGE_FILMS, RIDGE_MM, ridges
from gladstack.proof.check import OnFilm, OnFilmCheck
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.films import SetPairJoint
from gladstack.recipe.model.recipe import JointRule

_LEAST_MM = 1.0


def _findings(read: OnFilm) -> Iterator[Finding[Edit]]:
    for ridge in ridges(read.at_least):
        if ridge.mm < _LEAST_MM:
            continue
        under = [f for f in read.films if f.layer.cut.dwithin(Spot(ridge.at), 0.5)]
        yield Finding(
            "ridge",
            f"The edges of {ridge.films} films lie within {RIDGE_MM:g} mm of one another along {ridge.mm:.0f} mm: a ridge "
            "that is felt, and lifts first.",
            "note",
            place=Whereabouts(at=ridge.at),
            measure=Measure(ridge.films, RIDGE_FILMS - 1),
            helps="Lay some of them edge to edge, or let a lower one end farther in.",
            fixes=(_edge_to_edge(under[0].film, under[-1].film, under[0].layer.name, under[-1].layer.name),)
            if len(under) >= RIDGE_FILMS
            else (),
        )


def _edge_to_edge(lower: str, upper: str, below: str, above: str) -> Fix[Edit]:
    rule = JointRule(kind="butt")  # type: ignore[arg-type]
    return Fix(f"End {below} where {above} begins", SetPairJoint(a=lower, b=upper, rule=rule))


CHECK = OnFilmCheck(("ridge",), _findings, "proof", "what is felt on the ground", "laying")
