"""Groups by pattern, border, direction, place, label, chance and nearness: who is a member, and what is said."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.geometry import Kind


def members(geo: Geo, name: str, kind: Kind = "face") -> list[int]:
    return np.flatnonzero(geo.group(kind, name)).tolist()


@pytest.fixture
def strip() -> Geo:
    """Ten faces in a row along x, 0.1 m each, from x = -0.5."""
    return ops.grid(size=(1.0, 0.1), cells=(10, 1))


@pytest.mark.parametrize(
    ("parameters", "expected"),
    [
        ({}, [0, 2, 4, 6, 8]),
        ({"every": 3}, [0, 3, 6, 9]),
        ({"every": 3, "shift": 1}, [1, 4, 7]),
        ({"every": 4, "take": 2}, [0, 1, 4, 5, 8, 9]),
        ({"first": 3, "last": 7, "every": 2}, [3, 5, 7]),
        ({"first": -3, "every": 1}, [7, 8, 9]),
        ({"every": 4, "from_end": True}, [1, 5, 9]),
        ({"first": 2, "last": -2, "every": 3, "from_end": True}, [2, 5, 8]),
    ],
)
def test_patterns(strip: Geo, parameters: dict, expected: list[int]) -> None:
    assert members(ops.group_by_pattern(strip, **parameters), "pattern") == expected


def test_a_pattern_beyond_the_count_is_said(strip: Geo, notes: list[Note]) -> None:
    ops.group_by_pattern(strip, first=4, last=40)
    assert "There are only 10 faces, 0 to 9" in notes[0].text


def test_numbers_are_always_told(strip: Geo, notes: list[Note]) -> None:
    ops.group_by_pattern(strip)
    ops.group(strip, where="index < 0")
    ops.group(strip)
    assert [note.text for note in notes] == [
        "'pattern' holds 5 of 10 faces (50.0%).",
        "The group 'marked' is empty: none of 10 faces fits.",
        "The group 'marked' holds all 10 faces.",
    ]
    assert [note.level for note in notes] == ["note", "warning", "warning"]


@pytest.mark.parametrize(("how", "expected"), [("add", [0, 1, 2, 5]), ("keep both", [1]), ("take away", [0, 2])])
def test_combining_with_the_group_that_was_there(strip: Geo, how: str, expected: list[int]) -> None:
    made = ops.group(strip, where="index < 3")
    made = ops.group(made, where="index == 1 or index == 5", combine=how)
    assert members(made, "marked") == expected


def test_borders(strip: Geo, notes: list[Note]) -> None:
    assert len(members(ops.group_border(strip), "border", "edge")) == 22
    assert members(ops.group_border(ops.grid(cells=(3, 3)), kind="face"), "border") == [0, 1, 2, 3, 5, 6, 7, 8]
    assert len(members(ops.group_border(ops.grid(cells=(3, 3)), kind="point"), "border", "point")) == 12
    inner = ops.group_border(strip, of="faces", where="index < 5", with_open=False)
    edges = strip.positions[strip.topology.edges[members(inner, "border", "edge")]]
    np.testing.assert_allclose(edges[..., 0], 0.0, atol=1e-12)
    ops.group_border(ops.box())
    assert "The mesh is closed." in notes[-1].text


def test_non_manifold_edges() -> None:
    book = Geo.from_faces([[0, 0, 0], [0, 1, 0], [1, 0, 0], [-1, 0, 0], [0, 0, 1]], [[0, 1, 2], [0, 1, 3], [0, 1, 4]])
    assert len(members(ops.group_border(book, of="non-manifold"), "border", "edge")) == 1


def test_direction_and_facing() -> None:
    box = ops.box()
    up = ops.group_by_direction(box, angle=10)
    assert np.allclose(_normals(up), [[0, 1, 0]])
    wide = ops.group_by_direction(box, angle=90)
    assert len(members(wide, "facing")) == 5
    seen = ops.group_by_direction(box, facing="point", point=(0, 0.5, 9), angle=60)
    assert np.allclose(_normals(seen), [[0, 0, 1]])
    target = ops.transform(ops.box(), move=(9, 0, 0))
    assert np.allclose(_normals(ops.group_by_direction(box, target, angle=60)), [[1, 0, 0]])
    with pytest.raises(ParameterError, match="points nowhere"):
        ops.group_by_direction(box, direction=(0, 0, 0))


def _normals(geo: Geo) -> np.ndarray:
    from reticula.core.geometry.measure.areas import face_normals

    return face_normals(geo)[geo.group("face", "facing")]


def test_direction_in_the_world_follows_the_place() -> None:
    lying = ops.set_place(ops.box(), turn=(0, 0, 90))
    own = ops.group_by_direction(lying, direction=(0, 1, 0), angle=5)
    world = ops.group_by_direction(lying, direction=(0, 1, 0), angle=5, given_in="world")
    assert np.allclose(_normals(own), [[0, 1, 0]])
    assert np.allclose(_normals(world), [[1, 0, 0]])


def test_inside_box_sphere_and_mesh(notes: list[Note]) -> None:
    dots = Geo.of([[0, 0, 0], [0.4, 0.4, 0.4], [0.6, 0, 0], [2, 0, 0]])
    assert members(ops.group_inside(dots, kind="point", center=(0, 0, 0)), "inside", "point") == [0, 1]
    assert members(
        ops.group_inside(dots, kind="point", shape="sphere", center=(0, 0, 0), radius=0.61), "inside", "point"
    ) == [0, 2]
    ball = ops.sphere(radius=0.5)
    hole = ops.remove(ball, kind="face", where="position.y > 0.35")
    for mesh in (ball, hole):
        assert members(ops.group_inside(dots, mesh, kind="point", shape="mesh"), "inside", "point") == [0]
    assert members(ops.group_inside(dots, ball, kind="point", shape="mesh", outside=True), "inside", "point") == [
        1,
        2,
        3,
    ]
    ops.group_inside(dots, ops.reverse(ball), kind="point", shape="mesh")
    assert any("look inwards" in note.text for note in notes)
    with pytest.raises(GeometryError, match="nothing is connected to 'volume'"):
        ops.group_inside(dots, shape="mesh")


def test_inside_counts_points_if_asked(strip: Geo) -> None:
    box = {"center": (0, 0, 0), "size": (0.28, 1, 1)}
    assert members(ops.group_inside(strip, **box), "inside") == [4, 5]
    assert members(ops.group_inside(strip, counts="any", **box), "inside") == [3, 4, 5, 6]
    assert members(ops.group_inside(strip, counts="all", size=(0.41, 1, 1), center=(0, 0, 0)), "inside") == [3, 4, 5, 6]


def test_pieces_and_labels(notes: list[Note]) -> None:
    three = ops.join(
        ops.grid(cells=(1, 1)),
        ops.transform(ops.grid(cells=(3, 3)), move=(3, 0, 0)),
        ops.transform(ops.grid(cells=(2, 1)), move=(6, 0, 0)),
    )
    assert members(ops.group_by_label(three), "chosen") == list(range(1, 10))
    assert members(ops.group_by_label(three, choose="smallest", number=2), "chosen") == [0, 10, 11]
    assert members(ops.group_by_label(three, choose="values", values="0, 2"), "chosen") == [0, 10, 11]
    assert len(members(ops.group_by_label(three, choose="values", values="0-1 9"), "chosen")) == 10
    assert notes[-2].text == "No element has 9."
    named = three.with_attribute("face", "use", np.array(["a b"] + ["sand"] * 11))
    each = ops.group_by_label(named, label="use", choose="each")
    assert members(each, "chosen_a_b") == [0]
    assert len(members(each, "chosen_sand")) == 11
    with pytest.raises(ParameterError, match="'area' is a number; a label is"):
        ops.group_by_label(three, label="area")
    with pytest.raises(ParameterError, match="'x' is not a whole number"):
        ops.group_by_label(three, choose="values", values="x")


def test_chance_is_stable_when_elements_are_added() -> None:
    few, many = ops.grid(cells=(10, 10)), ops.grid(cells=(10, 12))
    a = ops.group_at_random(few, share=0.3).group("face", "some")
    b = ops.group_at_random(many, share=0.3).group("face", "some")
    assert (a == b[:100]).all()
    assert 15 < a.sum() < 45
    assert ops.group_at_random(few, by="count", count=17).group("face", "some").sum() == 17
    assert (ops.group_at_random(few, share=0.3, seed=1).group("face", "some") != a).any()
    half = ops.group_at_random(few, share="1 if position.x > 0 else 0").group("face", "some")
    assert half.sum() == 50


def test_nearness_both_ways(strip: Geo, notes: list[Note]) -> None:
    dot = Geo.of([[0.02, 0.1, 0], [0.47, 0, 0]])
    near = ops.group_by_nearness(strip, dot, kind="face", to="points", reach=0.15)
    assert members(near, "near") == [4, 5, 8, 9]
    reverse = ops.group_by_nearness(strip, dot, kind="face", which="nearest", reach=1.0)
    assert members(reverse, "near") == [5, 9]
    ops.group_by_nearness(strip, Geo.empty())
    assert any("holds no elements to measure" in note.text for note in notes)


def test_nearness_to_a_curve_is_measured_to_its_segments(strip: Geo, notes: list[Note]) -> None:
    line = ops.line(begin=(-5, 0.1, 0), end=(5, 0.1, 0))
    assert ops.group_by_nearness(strip, line, kind="face", reach=0.101).group("face", "near").all()
    assert not ops.group_by_nearness(strip, line, kind="face", reach=0.099).group("face", "near").any()
