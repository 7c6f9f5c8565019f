"""What a check holds against what was sent, in a maker's words."""

from __future__ import annotations

import pytest
from pydantic import BaseModel, ValidationError

from gladstack.recipe.model.arts import Place
from gladstack.recipe.model.faults import said_plainly
from gladstack.shop.jobs.job import JobDesign


@pytest.mark.parametrize(
    ("model", "sent", "said"),
    [
        (Place, {"x_mm": 30_000}, "Place from left to right: it must be at most 20,000 mm."),
        (Place, {"y_mm": -1e9}, "Place from top to bottom: it must be at least -20,000 mm."),
        (Place, {"scale_x": 0}, "Scale x: it must be at least 0.01."),
        (JobDesign, {"design": "d", "name": "D", "copies": 100_000}, "Copies: it must be at most 500."),
    ],
)
def test_a_limit_is_told_with_its_unit(model: type[BaseModel], sent: dict[str, object], said: str) -> None:
    with pytest.raises(ValidationError) as caught:
        model.model_validate(sent)
    assert said_plainly(caught.value.errors()[0]) == said
