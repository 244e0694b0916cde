"""XYZ both ways, and what columns without names are taken for."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo
from reticula.core.diagnostics import Note, collecting
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes


def read(text: str) -> Geo:
    return read_bytes("a.xyz", text.encode())


@given(seed=st.integers(0, 10**6))
def test_points_and_their_values_come_back_exactly(seed: int) -> None:
    rng = np.random.default_rng(seed)
    geo = Geo.of(rng.normal(size=(7, 3)), heat=rng.normal(size=7), drift=rng.normal(size=(7, 3)))
    geo = geo.with_attribute("point", "color", rng.random((7, 4))).with_attribute(
        "point", "age", rng.integers(0, 99, 7)
    )
    with collecting():
        back = read_bytes("a.xyz", write_bytes(geo, "a.xyz"))
    assert set(back.attributes["point"]) == {"position", "heat", "drift", "color", "age"}
    for name in back.attributes["point"]:
        assert np.array_equal(back.attribute("point", name), geo.attribute("point", name))


@pytest.mark.parametrize(
    ("row", "names"),
    [
        ("1 2 3", []),
        ("1,2,3", []),
        ("1 2 3 0.5", ["strength"]),
        ("1 2 3 255 0 10", ["color"]),
        ("1 2 3 0 0 1", ["normal"]),
        ("1 2 3 0 0 1 255 0 10", ["normal", "color"]),
        ("1 2 3 0.7 255 0 10", ["strength", "color"]),
        ("1 2 3 0.3 0.4", ["value_1", "value_2"]),
    ],
)
def test_columns_without_names_are_told_by_their_look(row: str, names: list[str]) -> None:
    geo = read(f"{row}\n{row}\n")
    assert [name for name in geo.attributes["point"] if name != "position"] == names


def test_a_count_and_a_line_of_names_are_no_points(notes: list[Note]) -> None:
    assert read("2\n1 2 3\n4 5 6\n").counts["points"] == 2
    titled = read("x y z depth r g b\n1 2 3 9 255 0 0\n")
    assert titled.attribute("point", "depth").tolist() == [9]
    assert titled.attribute("point", "color").tolist() == [[1, 0, 0, 1]]
    assert read("// x y z heat\n1 2 3 4\n").attribute("point", "heat").tolist() == [4]
    read("# x y z heat\n1 2 3\n")
    assert "names 4 columns; the rows have 3" in notes[-1].text


@pytest.mark.parametrize(
    ("text", "message"),
    [
        ("\n", "no points"),
        ("1 2\n", "line 1: a row of 2 numbers; 3 were expected"),
        ("1 2 3\n4 5 6 7\n", "line 2: a row of 4 numbers; 3 were expected"),
        ("1 2 3\n4 five 6\n", "line 2: 'five' is not a number"),
        ("1 2 3\n4 5 inf\n", "line 2: the place of vertex 1"),
    ],
)
def test_what_is_broken_is_refused_with_its_line(text: str, message: str) -> None:
    with pytest.raises(FormatError, match=message):
        read(text)
