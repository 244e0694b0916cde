"""Faces split into smaller ones."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.remesh.face_split import split_plan


@pytest.mark.parametrize(("into", "faces", "points"), [("quads", 24, 26), ("fan", 24, 14)])
def test_a_box_is_split(into: str, faces: int, points: int) -> None:
    plan = split_plan(ops.box().topology, np.ones(6, bool), into)  # type: ignore[arg-type]
    assert plan.topology.face_count == faces
    assert plan.topology.point_count == points
    assert plan.child.all()
    assert np.bincount(plan.face.index).tolist() == [4] * 6


def test_triangles_become_four() -> None:
    ball = ops.geodesic_sphere(frequency=1)
    plan = split_plan(ball.topology, np.ones(20, bool), "triangles")
    assert plan.topology.face_count == 80
    assert (plan.topology.edge_face_count == 2).all()


def test_a_neighbour_receives_the_point_of_the_shared_edge(mixed: Geo) -> None:
    chosen = np.array([True, False, False])
    closed = split_plan(mixed.topology, chosen, "quads")
    assert closed.grown.sum() == 2
    left_open = split_plan(mixed.topology, chosen, "quads", open_seam=True)
    assert left_open.grown.sum() == 0
    assert left_open.topology.border_edges.sum() > closed.topology.border_edges.sum()


def test_middles_lie_in_the_middle() -> None:
    geo = ops.grid(cells=(1, 1))
    plan = split_plan(geo.topology, np.ones(1, bool), "quads")
    made = plan.point.attribute("position", geo.find("point", "position")).values
    assert np.allclose(made[-1], geo.positions.mean(axis=0))
