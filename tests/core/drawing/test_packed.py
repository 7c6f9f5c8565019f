"""Compressed drawings: read like plain ones, and refused where they are damaged, cut short, or blow up."""

from __future__ import annotations

import gzip

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.packed import MAX_UNPACKED_BYTES, unpacked
from gladstack.recipe.art.vectors import is_vector, read_vector

SVG = b'<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="20mm"><path d="M0 0H9V9z" fill="red"/></svg>'


def test_a_compressed_drawing_is_read_like_a_plain_one() -> None:
    packed = gzip.compress(SVG)
    assert is_vector(packed)
    plain, same = read_vector(SVG), read_vector(packed)
    assert [i.shape.area for i in same.items] == [i.shape.area for i in plain.items] != []


@given(st.integers(3, len(gzip.compress(SVG, mtime=0)) - 1))
def test_one_that_is_cut_short_is_refused(length: int) -> None:
    with pytest.raises(VectorError, match=r"cut short|damaged"):
        unpacked(gzip.compress(SVG, mtime=0)[:length])


def test_one_that_blows_up_is_refused() -> None:
    with pytest.raises(VectorError, match="larger than 40 MB"):
        unpacked(gzip.compress(b"<svg>" + b" " * (MAX_UNPACKED_BYTES + 1)))


@given(st.binary(max_size=60))
def test_any_bytes_are_no_drawing_or_are_refused(tail: bytes) -> None:
    data = b"\x1f\x8b" + tail
    assert not is_vector(data)
    with pytest.raises(VectorError):
        unpacked(data)
