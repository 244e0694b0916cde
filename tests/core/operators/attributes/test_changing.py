"""Remap, blur and move attribute; set attribute's default."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute


@pytest.fixture
def row() -> Geo:
    """Six points in a row with the values 0 to 5, on a strip of quads."""
    sheet = ops.grid(size=(5, 1), cells=(5, 1))
    return ops.set_attribute(sheet, name="value", value="position.x + 2.5")


def remapped(geo: Geo, **parameters: object) -> np.ndarray:
    return ops.remap(geo, value="value", **parameters).attribute("point", "remapped")[:6]


def test_remap_worked_by_hand(row: Geo, notes: list[Note]) -> None:
    np.testing.assert_allclose(remapped(row), [0, 0.2, 0.4, 0.6, 0.8, 1.0])
    np.testing.assert_allclose(remapped(row, to_low=10, to_high=0), [10, 8, 6, 4, 2, 0])
    given = {"from_range": "given", "low": 1.0, "high": 3.0}
    np.testing.assert_allclose(remapped(row, **given), [0, 0, 0.5, 1, 1, 1])
    np.testing.assert_allclose(remapped(row, clamp=False, **given), [-0.5, 0, 0.5, 1, 1.5, 2])
    assert "Values are 0 to 5." in [note.text for note in notes]
    assert "8 points lie beyond 1 to 3 and are kept at its ends." in [note.text for note in notes]


def test_remap_by_curve_and_gradient(row: Geo) -> None:
    bent = remapped(row, through="response curve", curve=[[0, 0], [0.4, 1], [1, 1]])
    assert bent[2] == pytest.approx(1.0)
    stops = [[0, 0, 0, 0, 1], [0.5, 1, 0, 0, 1], [1, 1, 1, 1, 0]]
    colors = remapped(row, through="gradient", gradient=stops)
    np.testing.assert_allclose(colors[1], [0.4, 0, 0, 1], atol=1e-12)
    np.testing.assert_allclose(colors[5], [1, 1, 1, 0])


def test_signed_vectors_make_colours_without_black(row: Geo) -> None:
    ball = ops.sphere()
    shown = ops.remap(ball, value="normal", from_range="signed", name="color").find("point", "color")
    assert shown.type == "vec4"
    assert (shown.values[:, 3] == 1).all()
    assert shown.values[:, :3].max(axis=1).min() > 0.2
    down = np.argmin(ball.positions[:, 1])
    np.testing.assert_allclose(shown.values[down, :3], [0.5, 0, 0.5], atol=1e-9)


def test_remap_says_what_it_cannot(row: Geo, notes: list[Note]) -> None:
    with pytest.raises(ParameterError, match="low and high are the same"):
        remapped(row, from_range="given", low=1, high=1)
    with pytest.raises(ParameterError, match="needs one number"):
        ops.remap(row, value="normal", through="gradient")
    with pytest.raises(ParameterError, match="only numbers and vectors"):
        ops.remap(row, value="value > 1")
    assert (ops.remap(row, value="3.0").attribute("point", "remapped") == 0).all()
    assert "no range to map" in notes[-1].text


def test_blur_goes_to_the_neighbours(row: Geo) -> None:
    spike = ops.set_attribute(row, name="heat", value="number(index == 2)")
    once = ops.blur_values(spike, attributes="heat", iterations=1, step=1.0).attribute("point", "heat")
    assert once[2] == 0
    np.testing.assert_allclose(once[[1, 3, 8]], 1 / 3)
    long = ops.blur_values(spike, attributes="heat", iterations=400).attribute("point", "heat")
    assert np.ptp(long) < 1e-3
    none = ops.blur_values(spike, attributes="heat", iterations=0)
    assert (none.attribute("point", "heat") == spike.attribute("point", "heat")).all()


def test_blur_keeps_what_is_pinned(row: Geo, notes: list[Note]) -> None:
    sheet = ops.set_attribute(ops.grid(cells=(8, 8)), name="heat", value="position.x")
    held = ops.blur_values(sheet, attributes="heat", pinned="borders", iterations=300).attribute("point", "heat")
    np.testing.assert_allclose(held, sheet.positions[:, 0], atol=1e-9)
    part = ops.blur_values(sheet, attributes="heat", where="position.x > 0.01").attribute("point", "heat")
    left = sheet.positions[:, 0] < 0.01
    assert (part[left] == sheet.attribute("point", "heat")[left]).all()
    marked = ops.blur_values(ops.group(sheet, kind="point", where="index == 40"), attributes="marked")
    assert marked.find("point", "marked").type == "number"
    assert "was a flag and is a number now" in notes[-1].text
    with pytest.raises(ParameterError, match="did you mean heat"):
        ops.blur_values(sheet, attributes="heet")


def test_blurred_normals_stay_of_unit_length() -> None:
    ball = ops.set_attribute(ops.sphere(), name="normal", value="normalize(position + noise3(position * 9))")
    blurred = ops.blur_values(ball, attributes="normal", iterations=5).attribute("point", "normal")
    np.testing.assert_allclose(np.linalg.norm(blurred, axis=1), 1.0)


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


def test_a_default_is_kept_for_elements_made_later(notes: list[Note]) -> None:
    box = ops.set_attribute(ops.box(), name="cover", kind="face", value="0.5", where="index < 2", default="0.1")
    np.testing.assert_allclose(box.attribute("face", "cover"), [0.5, 0.5, 0.1, 0.1, 0.1, 0.1])
    later = ops.join(box, ops.grid(cells=(1, 1)))
    assert later.attribute("face", "cover")[-1] == pytest.approx(0.1)
    with pytest.raises(ParameterError, match="default: "):
        ops.set_attribute(ops.box(), value="0.5", default="much")


def test_colours_are_white_where_nobody_gave_any(notes: list[Note]) -> None:
    red = ops.set_attribute(ops.box(), name="color", value="vec4(1, 0, 0, 1)")
    both = ops.join(red, ops.transform(ops.box(), move=(2, 0, 0)))
    np.testing.assert_array_equal(both.attribute("point", "color")[-1], [1, 1, 1, 1])


def test_a_new_attribute_that_says_nothing_is_warned_of(notes: list[Note]) -> None:
    ops.set_attribute(ops.box(), name="cover", value="0.0")
    assert notes[-1].text == "'cover' is new and holds its default 0 on all 8 points."
    assert notes[-1].level == "warning"


def test_numbers_that_are_none_are_located(notes: list[Note]) -> None:
    heat = np.array([1.0, np.nan, 2.0, np.inf, 0, 0, 0, 0])
    broken = ops.box().with_attribute("point", "heat", Attribute.of(heat))
    ops.blur_values(broken, attributes="heat", iterations=0)
    assert not any("finite" in note.text for note in notes)
    ops.blur_values(broken, attributes="heat", iterations=1)
    assert any("'heat' holds no finite number at" in note.text and "(first: point" in note.text for note in notes)
