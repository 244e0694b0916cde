"""Edges raised to strips and points to curves."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure

LINE = ops.grid(size=(3, 1), cells=(3, 1))


def test_a_border_grows_a_strip_per_division() -> None:
    made = ops.extrude(LINE, what="edge", where="border", distance=0.2, divisions=2)
    assert made.counts["faces"] == 3 + 8 * 2
    assert made.group("face", "side").sum() == 16
    assert measure.face_areas(made)[made.group("face", "side")].sum() == pytest.approx(8 * 0.2)


def test_strips_wind_with_the_faces_that_they_hang_on() -> None:
    made = ops.extrude(LINE, what="edge", where="border", distance=0.2)
    corners = made.topology.edge_corners
    for edge in np.flatnonzero(made.topology.edge_face_count == 2):
        first, second = corners[1][corners[0][edge] : corners[0][edge + 1]]
        assert made.topology.corner_point[first] != made.topology.corner_point[second], "run in opposite ways"


def test_loose_points_become_curves_of_the_distance() -> None:
    """There are no faces on which the distance could be worked out, so it is on the points."""
    dots = Geo.of(np.eye(3))
    made = ops.extrude(dots, what="point", distance=0.5, along="direction", direction=(0, 1, 0), divisions=4)
    assert made.counts["curves"] == 3
    uneven = ops.extrude(dots, what="point", distance="index + 1", along="direction", direction=(0, 1, 0))
    assert measure.curve_lengths(uneven) == pytest.approx([1, 2, 3])
    assert measure.curve_lengths(made) == pytest.approx([0.5] * 3)


def test_points_without_a_normal_are_said(notes: list[Note]) -> None:
    ops.extrude(Geo.of(np.eye(3)), what="point", distance=0.5)
    assert "3 points belong to no face, so they have no normal and stay" in notes[0].text


def test_a_distance_per_point_is_the_height_there() -> None:
    made = ops.extrude(
        LINE,
        what="edge",
        where="border",
        per="point",
        distance="position.x + 2",
        along="direction",
        direction=(0, 1, 0),
    )
    top = made.positions[-8:]
    assert top[:, 1] == pytest.approx(top[:, 0] + 2)
