"""Group inside: name elements inside of a box, a sphere or a mesh."""

import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError
from tests.core.operators.groups.support import members


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
