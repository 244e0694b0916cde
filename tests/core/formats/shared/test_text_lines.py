"""Lines of a text and the numbers in them, read as arrays."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.errors import FormatError
from reticula.core.formats.shared.text_lines import Lines, numbers_of, token_counts


@given(st.lists(st.lists(st.floats(-1e6, 1e6), max_size=4), min_size=1, max_size=8))
def test_numbers_come_back_as_they_were_written(rows: list[list[float]]) -> None:
    text = "\n".join("v " + " ".join(map(repr, row)) for row in rows).encode()
    lines = Lines(text)
    found = lines.starting_with(b"v")
    body, size = lines.body(found, 2)
    counts = token_counts(body, size)
    assert counts.tolist() == [len(row) for row in rows]
    assert numbers_of(body, int(counts.sum()), found, size).tolist() == [one for row in rows for one in row]


def test_a_word_is_whole() -> None:
    lines = Lines(b"v 1\nvt 2\nv\t3\nx v 4\nv")
    assert lines.starting_with(b"v").tolist() == [0, 2, 4]
    assert lines.starting_with(b"vt").tolist() == [1]
    assert lines.text(3) == "x v 4"


def test_a_word_that_is_no_number_is_named_with_its_line() -> None:
    lines = Lines(b"v 1 2\nv 3 inf\n")
    at = lines.starting_with(b"v")
    body, size = lines.body(at, 2)
    with pytest.raises(FormatError, match="line 2: 'inf' is not a number"):
        numbers_of(body, 4, at, size)


def test_no_lines_no_words() -> None:
    assert token_counts(b"", np.zeros(0, np.int64)).tolist() == []
