"""The memo's budget, and what must not be kept alive by it."""

from __future__ import annotations

from functools import partial
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gladstack.recipe.model.mends import Brush
from gladstack.recipe.model.pins import ArtPoint
from gladstack.stages.memo import CostlyStageError, Memo, key_of, size_of

MB = 2**20


def test_the_least_recently_used_goes_first() -> None:
    # Room for three, with what the allocator takes for each.
    budget = round(4.5 * MB)
    memo = Memo(budget_bytes=budget)
    for name in "abc":
        memo.get(name, lambda: np.zeros(MB - 1000, np.uint8))
    memo.get("a", lambda: pytest.fail("a was forgotten"))
    memo.get("d", lambda: np.zeros(MB - 1000, np.uint8))
    assert memo.held_bytes <= budget
    memo.get("a", lambda: pytest.fail("a was forgotten"))
    worked = []
    memo.get("b", lambda: worked.append("b"))
    assert worked == ["b"]


def test_many_small_values_do_not_push_each_other_out() -> None:
    memo = Memo()
    for k in range(20_000):
        memo.get(f"pair:{k}", partial(str, k))
    for k in range(20_000):
        memo.get(f"pair:{k}", lambda: pytest.fail("forgotten"))


def test_a_view_counts_with_all_that_it_keeps_alive() -> None:
    whole = np.zeros((1000, 1000, 3), np.uint8)
    assert size_of(whole[:0]) >= whole.nbytes
    assert size_of((whole, whole[:5])) < 1.1 * whole.nbytes
    assert size_of(np.zeros(0)) < 1000


def test_a_costly_stage_is_kept_for_other_memos_and_refused_where_it_may_not_work() -> None:
    kept: dict[str, Any] = {}

    class Shelf:
        def load(self, key: str) -> Any:
            return kept.get(key)

        def store(self, key: str, value: Any) -> None:
            kept[key] = value

    with pytest.raises(CostlyStageError):
        Memo(kept=Shelf(), costly=False).get("map", lambda: 1, costly=True)
    assert Memo(kept=Shelf()).get("map", lambda: 7, costly=True) == 7
    assert Memo(kept=Shelf(), costly=False).get("map", lambda: 1, costly=True) == 7
    assert Memo(kept=Shelf(), costly=False).get("film", lambda: 2) == 2
    assert list(kept) == ["map"]


@given(st.recursive(st.integers() | st.text() | st.none(), lambda x: st.lists(x, max_size=3), max_leaves=6))
def test_keys_tell_different_data_apart(data: object) -> None:
    assert key_of(data) == key_of(data)
    assert key_of(data) != key_of([data])
    assert key_of(data, data) != key_of([data, data])


def test_keys_of_recipe_values_follow_all_they_hold() -> None:
    def brush(x: float) -> Brush:
        return Brush(film="#112233", path=(ArtPoint(x=x, y=0.5), ArtPoint(x=1, y=1)))

    assert key_of(brush(0.1)) == key_of(brush(0.1)) != key_of(brush(0.1000001))
