"""OFF both ways, and the forms in which others write it."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.diagnostics import Note, collecting
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes
from tests.core.formats.shared.samples import looked_at


def read(text: str) -> object:
    return read_bytes("a.off", text.encode())


@given(seed=st.integers(0, 10**6))
def test_polygons_normals_and_colours_come_back_exactly(seed: int) -> None:
    geo = looked_at(seed)
    geo = geo.with_attribute("face", "color", np.random.default_rng(seed).random((3, 4)))
    with collecting():
        back = read_bytes("a.off", write_bytes(geo, "a.off"))
    assert np.array_equal(back.topology.face_start, geo.topology.face_start)
    assert np.array_equal(back.topology.corner_point, geo.topology.corner_point)
    for kind, name in (("point", "position"), ("point", "color"), ("face", "color")):
        assert np.array_equal(back.attribute(kind, name), geo.attribute(kind, name))
    assert back.attribute("point", "normal") == pytest.approx(geo.attribute("point", "normal"))


def test_counts_on_the_first_line_remarks_and_no_word_at_all() -> None:
    body = "0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n"
    for head in ("OFF\n3 1 3\n", "OFF 3 1 3\n", "# made by hand\nOFF # yes\n3 1 0 # counts\n\n", "3 1 3\n"):
        assert read(head + body).counts["faces"] == 1


def test_colours_of_bytes_are_made_linear() -> None:
    geo = read("COFF\n3 1 0\n0 0 0 255 0 0 255\n1 0 0 255 0 0 255\n0 1 0 188 0 0 255\n3 0 1 2 0 255 0\n")
    assert geo.attribute("point", "color")[0].tolist() == [1, 0, 0, 1]
    assert geo.attribute("point", "color")[2, 0] == pytest.approx(0.5, abs=0.01)
    assert geo.attribute("face", "color").tolist() == [[0, 1, 0, 1]]


@pytest.mark.parametrize(
    ("text", "message"),
    [
        ("OFF\n", "no counts"),
        ("OFF\n1\n", "line 2: an OFF begins with the counts"),
        ("OFF\n9 9 9\n0 0 0\n", "line 2: the head promises 9 points"),
        ("OFF\n1 0 0\n0 0\n", "line 3: a point has 2 numbers"),
        ("OFF\n1 0 0\n0 0 x\n", "line 3: 'x' is not a number"),
        ("OFF\n1 0 0\n0 0 nan\n", "line 3: the place of vertex 0"),
        ("OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 7\n", "line 6: a face uses point 7"),
        ("OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n9 0 1 2\n", "line 6: a face tells its number of points"),
        ("OFF BINARY\n", "line 1: OFF in binary"),
        ("4OFF\n1 0 0\n0 0 0 1\n", "line 1: OFF in binary or with more"),
    ],
)
def test_what_is_broken_is_refused_with_its_line(text: str, message: str) -> None:
    with pytest.raises(FormatError, match=message):
        read(text)


def test_what_off_cannot_hold_is_said(notes: list[Note]) -> None:
    write_bytes(ops.box().with_attribute("face", "heat", np.arange(6.0)), "a.off")
    assert notes[-1].text == "OFF cannot hold corner uv, face heat; write PLY to keep them."
