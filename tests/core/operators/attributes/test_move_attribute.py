"""Move attribute: move values between element kinds: from faces to points, from corners to edges, to the whole."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError


@pytest.mark.parametrize(
    ("how", "expected"),
    [("mean", [3.0, 4.0]), ("sum", [12.0, 16.0]), ("min", [0.0, 1.0]), ("max", [6.0, 7.0]), ("first", [0.0, 1.0])],
)
def test_points_to_faces(how: str, expected: list[float], notes: list[Note]) -> None:
    """Two quads over six points, three in front with 0 1 2 and three behind with 5 6 7."""
    strip = ops.grid(size=(2, 1), cells=(2, 1))
    order = np.lexsort((strip.positions[:, 0], strip.positions[:, 2]))
    values = np.zeros(6)
    values[order] = [0.0, 1.0, 2.0, 5.0, 6.0, 7.0]
    made = ops.move_attribute(
        strip.with_attribute("point", "v", values), attributes="v", kind="point", to="face", how=how
    )
    got = made.attribute("face", "v")
    assert not made.has("point", "v")
    if how == "first":
        first = strip.topology.corner_point[strip.topology.face_start[:-1]]
        np.testing.assert_allclose(got, values[first])
    else:
        np.testing.assert_allclose(got, expected)


def test_mode_any_all_and_lists(notes: list[Note]) -> None:
    strip = ops.grid(size=(2, 1), cells=(2, 1))
    named = strip.with_attribute("face", "use", np.array(["sand", "rock"])).with_attribute("face", "wet", [True, False])
    points = ops.move_attribute(named, attributes="use", kind="face", to="point", how="mode")
    assert sorted(points.attribute("point", "use").tolist()) == ["rock", "rock", "sand", "sand", "sand", "sand"]
    any_ = ops.move_attribute(named, attributes="wet", kind="face", to="point", how="any").group("point", "wet")
    all_ = ops.move_attribute(named, attributes="wet", kind="face", to="point", how="all").group("point", "wet")
    assert (any_.sum(), all_.sum()) == (4, 2)
    lists = ops.move_attribute(named, attributes="use", kind="face", to="whole", how="list", name="uses", keep=True)
    assert lists.find("whole", "uses").row(0) == ["sand", "rock"]
    assert lists.has("face", "use")


def test_from_the_whole_to_all_and_what_cannot_be(notes: list[Note]) -> None:
    box = ops.set_attribute(ops.box(), name="limit", kind="whole", value="0.3")
    assert (
        ops.move_attribute(box, attributes="limit", kind="whole", to="face").attribute("face", "limit") == 0.3
    ).all()
    text = box.with_attribute("face", "use", np.array(["a"] * 6))
    with pytest.raises(ParameterError, match="'sum' cannot be taken of a text"):
        ops.move_attribute(text, attributes="use", kind="face", how="sum")
    with pytest.raises(ParameterError, match="'any' takes flags"):
        ops.move_attribute(box.with_attribute("face", "v", np.zeros(6)), attributes="v", how="any")
    with pytest.raises(ParameterError, match="one name cannot stand for 2"):
        ops.move_attribute(text.with_attribute("face", "b", np.zeros(6)), name="x")
    loose = Geo.of([[0, 0, 0]]).with_attribute("whole", "v", np.array([2.0]))
    ops.move_attribute(loose, attributes="v", kind="whole", to="face")
    assert "There are no faces here" in notes[-1].text
