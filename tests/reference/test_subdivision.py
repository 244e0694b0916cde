"""Smooth subdivision against libigl and against the published limit rules."""

import igl
import numpy as np
import pytest
from scipy.spatial import cKDTree

from reticula.core import Geo, ops
from tests.helpers import bumpy


@pytest.mark.parametrize("levels", [1, 2])
def test_loop_is_that_of_libigl(levels: int) -> None:
    """igl.loop uses the weights 3/8n (3/16 for n = 3) as we do; only the order of the new points differs."""
    for geo in (bumpy(3), ops.triangulate(ops.grid(cells=(4, 3)))):
        faces = np.asarray(geo.topology.corner_point.reshape(-1, 3), np.int64)
        theirs, their_faces = igl.loop(np.array(geo.positions), faces, levels)
        ours = ops.smooth_subdivide(geo, scheme="loop", levels=levels)
        assert ours.counts["points"] == len(theirs)
        assert ours.counts["faces"] == len(their_faces)
        away, match = cKDTree(theirs).query(ours.positions)
        assert away.max() < 1e-12
        assert len(np.unique(match)) == len(theirs)


def test_catmull_clark_goes_to_its_limit_points() -> None:
    """Halstead, Kass & DeRose, "Efficient, fair interpolation using Catmull-Clark surfaces", SIGGRAPH 1993, section 4:
    a point of n quads goes to (n² v + 4 sum of edge points + sum of face points) / (n (n + 5)), the neighbours taken
    after one level. Formula from memory."""
    first = ops.smooth_subdivide(ops.extrude(ops.box(cells=(2, 2, 2)), where="index == 0", distance=0.4))
    shape = first.topology
    fine = ops.smooth_subdivide(first, levels=5)
    start, corners = shape.point_corners
    for p in range(0, shape.point_count, 7):
        around = corners[start[p] : start[p + 1]]
        n = len(around)
        edges = first.positions[shape.corner_point[shape.corner_next[around]]].sum(axis=0)
        opposite = shape.corner_next[shape.corner_next[around]]
        faces = first.positions[shape.corner_point[opposite]].sum(axis=0)
        limit = (n * n * first.positions[p] + 4 * edges + faces) / (n * (n + 5))
        assert fine.positions[p] == pytest.approx(limit, abs=2e-3 * (1 + n))


def test_an_infinite_crease_is_a_cubic_spline_of_its_own() -> None:
    """DeRose, Kass & Truong 1998, section 3: along a crease the rules are 1/8, 3/4, 1/8 and 1/2, 1/2; the limit of a
    crease point is (1, 4, 1) / 6 of its neighbours along the crease. From memory."""
    box = ops.box()
    top = (np.abs(box.positions[box.topology.edges][:, :, 1] - 0.5) < 1e-9).all(axis=1)
    sharp = box.with_attribute("edge", "crease", np.where(top, 99.0, 0.0))
    fine = ops.smooth_subdivide(sharp, levels=6)
    corners = np.flatnonzero(box.positions[:, 1] > 0)
    for p in corners:
        ends = box.topology.edges[top & (box.topology.edges == p).any(axis=1)]
        others = box.positions[ends[ends != p]]
        assert fine.positions[p] == pytest.approx((4 * box.positions[p] + others.sum(axis=0)) / 6, abs=1e-3)
    assert fine.positions[:, 1].max() == pytest.approx(0.5), "the crease stays in its plane"


def test_sharpness_between_whole_numbers() -> None:
    """DeRose, Kass & Truong 1998, section 5: an edge of sharpness 0 < s < 1 has (1 - s) smooth + s sharp as its
    point.
    """
    box = ops.box()

    def edge_points(s: float) -> np.ndarray:
        made = ops.smooth_subdivide(box.with_attribute("edge", "crease", np.full(12, s)))
        return made.positions[8:20]

    assert edge_points(0.3) == pytest.approx(0.7 * edge_points(0) + 0.3 * edge_points(1))


def test_a_weight_of_one_half_lies_in_the_middle() -> None:
    ball = Geo.from_faces(*_tetrahedron())
    smooth, flat, half = (ops.smooth_subdivide(ball, levels=2, weight=w).positions for w in (1, 0, 0.5))
    assert half == pytest.approx((smooth + flat) / 2)


def _tetrahedron() -> tuple[np.ndarray, np.ndarray]:
    points = np.array([[1, 1, 1], [1, -1, -1], [-1, 1, -1], [-1, -1, 1]], float)
    return points, np.array([[0, 1, 2], [0, 3, 1], [0, 2, 3], [1, 3, 2]])
