"""Findings of designs and plans as they are sent."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from gladstack.core.base.findings import MeasureUnit, Severity
from gladstack.proof.finding import Beside, When
from gladstack.recipe.edit.edits import Edit
from gladstack.shop.jobs.edits import AnyJobEdit


class View(BaseModel):
    """Something sent; read from the attributes of what it shows."""

    model_config = ConfigDict(from_attributes=True)


class BoxView(BaseModel):
    """An extent on the stack, mm."""

    left: float
    top: float
    right: float
    bottom: float


class PointView(BaseModel):
    """A point of the stack, mm."""

    x_mm: float
    y_mm: float


class AcrossView(BaseModel):
    """The two points of an edge that a width is measured between."""

    start: PointView
    end: PointView


class PlaceView(BaseModel):
    """Where something is on the stack, mm: a point, a box, or outlines as path data; and the points of its measure."""

    at: PointView | None
    box: BoxView | None
    outline: str
    across: AcrossView | None


class MeasureView(View):
    """A figure and the limit it is held against, in one unit."""

    figure: float
    limit: float
    unit: MeasureUnit
    limit_from: str


class FixView(BaseModel):
    """An edit that mends it, and what to call it."""

    label: str
    edit: Edit


class JobFixView(BaseModel):
    """An edit of a job that mends it, and what to call it."""

    label: str
    edit: AnyJobEdit


class ToldView(BaseModel):
    """Something to know: how grave it is, the film or art it is about, what on the screen it stands beside, when it happens,
    where it is and what helps.
    """

    code: str
    text: str
    severity: Severity
    about: str | None
    place: PlaceView | None
    beside: Beside
    when: When
    measure: MeasureView | None
    helps: str


class FindingView(ToldView):
    """Something to know of a design, and what mends it."""

    fixes: list[FixView]


class PlanFindingView(ToldView):
    """Something to know of a plan, and what mends it."""

    fixes: list[JobFixView]
