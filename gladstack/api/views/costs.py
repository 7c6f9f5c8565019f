"""What a job costs, as it is sent."""

from __future__ import annotations

from pydantic import BaseModel

from gladstack.shop.papers.costs import MODEL, Costs


class CostLineView(BaseModel):
    """One line: what for, how it comes about, and the amount."""

    model_config = {"from_attributes": True}
    what: str
    said: str
    amount: float


class CostsView(BaseModel):
    """All lines, their sum, the price for all decals, for each, and for one made by itself; and minutes of hands, as counted
    and as the model has them.
    """

    currency: str
    lines: list[CostLineView]
    total: float
    price: float
    each: float
    alone: float | None
    count: int
    hand_min: float
    model_min: float
    model: str


def costs_view(costs: Costs, currency: str) -> CostsView:
    """Costs as they are sent."""
    return CostsView(
        currency=currency, lines=[CostLineView.model_validate(line) for line in costs.lines], total=costs.total,
        price=costs.price, each=costs.each, alone=costs.alone, count=costs.count, hand_min=costs.hand_min,
        model_min=costs.model_min, model=MODEL,
    )  # fmt: skip
