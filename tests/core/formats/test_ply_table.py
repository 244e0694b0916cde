"""Tables of a PLY file, without what they mean."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.errors import FormatError
from reticula.core.formats.ply_table import Column, Element, read_tables, write_tables

NUMBERS = ["i1", "u1", "i2", "u2", "i4", "u4", "f4", "f8"]


@given(st.integers(0, 20), st.sampled_from(NUMBERS), st.sampled_from(["binary", "ascii"]), st.integers(0, 999))
def test_numbers_and_lists_come_back(count: int, kind: str, encoding: str, seed: int) -> None:
    rng = np.random.default_rng(seed)
    sizes = rng.integers(0, 4, count)
    start = np.concatenate([[0], np.cumsum(sizes)]).astype(np.int32)
    flat = Column("flat", kind, values=rng.integers(0, 100, count).astype(kind))
    lists = Column("lists", kind, "u1", rng.integers(0, 100, start[-1]).astype(kind), start)
    data = write_tables([Element("thing", count, [flat, lists])], ["made here"], encoding)
    (element,), comments = read_tables(data)
    assert comments == ["made here"]
    assert (element.name, element.count) == ("thing", count)
    if not count:
        return
    again = element.column("other", "flat")
    assert again is not None
    assert np.array_equal(again.values, flat.values)
    again = element.column("lists")
    assert again is not None
    assert np.array_equal(again.start, start)
    assert np.array_equal(again.values, lists.values)


def test_a_header_that_is_not_one_names_the_line() -> None:
    with pytest.raises(FormatError, match="line 3"):
        read_tables(b"ply\nformat ascii 1.0\nelement vertex many\nend_header\n")
