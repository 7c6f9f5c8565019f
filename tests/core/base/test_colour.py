"""The difference of two colours as an eye takes it."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gladstack.core.base.colour import delta_e_2000, lab_delta_e_2000

# From the test data of Sharma, Wu and Dalal (2005).
PAIRS = [
    ((50, 2.6772, -79.7751), (50, 0, -82.7485), 2.0425),
    ((50, 3.1571, -77.2803), (50, 0, -82.7485), 2.8615),
    ((50, -1.3802, -84.2814), (50, 0, -82.7485), 1.0),
    ((50, 0, 0), (50, -1, 2), 2.3669),
    ((50, 2.49, -0.001), (50, -2.49, 0.0009), 7.1792),
    ((50, 2.49, -0.001), (50, -2.49, 0.0011), 7.2195),
    ((50, 2.5, 0), (50, 0, -2.5), 4.3065),
    ((50, 2.5, 0), (73, 25, -18), 27.1492),
    ((60.2574, -34.0099, 36.2677), (60.4626, -34.1751, 39.4387), 1.2644),
    ((22.7233, 20.0904, -46.694), (23.0331, 14.973, -42.5619), 2.0373),
    ((2.0776, 0.0795, -1.135), (0.9033, -0.0636, -0.5514), 0.9082),
]


@pytest.mark.parametrize(("a", "b", "apart"), PAIRS)
def test_the_formula_gives_the_published_differences(a: tuple[float, ...], b: tuple[float, ...], apart: float) -> None:
    there, back = (lab_delta_e_2000(np.array(x, float), np.array(y, float)) for x, y in ((a, b), (b, a)))
    assert float(there) == pytest.approx(apart, abs=1e-4)
    assert float(back) == pytest.approx(apart, abs=1e-4)


RGB = st.tuples(*[st.integers(0, 255)] * 3)


@given(RGB, RGB)
def test_only_a_colour_itself_is_no_way_off(a: tuple[int, int, int], b: tuple[int, int, int]) -> None:
    apart = float(delta_e_2000(a, b))
    assert (apart == 0) == (a == b)
    assert apart == pytest.approx(float(delta_e_2000(b, a)), abs=1e-9)
