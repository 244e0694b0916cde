"""Triangles without breadth go, and nothing opens."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.edit.slivers import sliver_faces, without_slivers
from tests.helpers import is_closed, volume


def test_a_needle_loses_its_short_side() -> None:
    sheet = Geo.from_faces(
        [[0, 0, 0], [1, 0, 0], [1, 1e-9, 0], [0, -1, 0], [0, 1, 0]], [[0, 1, 2], [0, 3, 1], [0, 2, 4]]
    )
    made, gone = without_slivers(sheet, 1e-6)
    assert gone == 1
    assert made.counts["faces"] == 2
    assert made.topology.border_edges.sum() == 4


def test_the_apex_of_a_flat_one_becomes_a_corner_across() -> None:
    """The middle triangle has its apex on its longest side; the face across takes it, values in between."""
    points = [[0, 0, 0], [2, 0, 0], [0.5, 1e-9, 0], [1, 2, 0], [1, -2, 0]]
    sheet = Geo.from_faces(points, [[0, 1, 2], [1, 3, 2], [2, 3, 0], [1, 0, 4]])
    sheet = sheet.with_attribute("corner", "x", sheet.positions[sheet.topology.corner_point][:, 0])
    assert sliver_faces(sheet, 1e-6).tolist() == [True, False, False, False]
    made, gone = without_slivers(sheet, 1e-6)
    assert gone == 1
    assert made.topology.face_size.tolist() == [3, 3, 4]
    assert made.attribute("corner", "x") == pytest.approx(made.positions[made.topology.corner_point][:, 0])
    assert made.topology.border_edges.sum() == 4
    assert measure.face_areas(made).sum() == pytest.approx(4)


def test_broad_triangles_stay_as_they_are() -> None:
    ball = ops.triangulate(ops.sphere())
    assert without_slivers(ball, 1e-6) == (ball, 0)


@settings(derandomize=True)
@given(seed=st.integers(0, 10_000), count=st.integers(1, 30))
def test_closed_stays_closed(seed: int, count: int) -> None:
    """A triangle a, b, c becomes a sliver a, b, m and two broad ones, with m on its first side or at its end."""
    rng = np.random.default_rng(seed)
    ball = ops.triangulate(ops.sphere(segments=12, rings=8))
    corners = ball.topology.corner_point.reshape(-1, 3)
    cut = rng.choice(len(corners), count, replace=False)
    a, b, c = corners[cut].T
    m = ball.counts["points"] + np.arange(count)
    share = np.where(rng.random(count) < 0.5, rng.uniform(0.3, 0.7, count), 1e-9)[:, None]
    added = ball.positions[a] + share * (ball.positions[b] - ball.positions[a])
    parts = [np.stack(part, axis=1) for part in ((a, b, m), (m, b, c), (a, m, c))]
    faces = np.concatenate([np.delete(corners, cut, axis=0), *parts])
    geo = Geo.from_faces(np.concatenate([ball.positions, added]), faces.tolist())
    made, gone = without_slivers(geo, 1e-6)
    assert is_closed(made)
    assert gone >= count
    assert volume(made) == pytest.approx(volume(geo), abs=1e-5)
