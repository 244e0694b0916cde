"""A mesh put together from triangles of others: what is whole stays whole, in its order, with its values."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.operators.shared.solids.solid_assembly import TracedTriangles, assemble


def traced(source: Geo, part: np.ndarray) -> TracedTriangles:
    cut = triangles(source)
    tri = source.topology.corner_point[cut.corner]
    return TracedTriangles(source.positions, tri, cut.corner, cut.face, part[cut.face])


@pytest.fixture
def box() -> Geo:
    made = ops.box(cells=(2, 2, 2))
    rng = np.random.default_rng(5)
    made = made.with_attribute("edge", "crease", rng.random(made.topology.edge_count))
    return made.with_attribute("face", "label", np.arange(made.topology.face_count))


def test_all_triangles_of_a_mesh_are_that_mesh(box: Geo) -> None:
    made, source_face = assemble(box, [box], traced(box, np.zeros(24, int)), np.zeros(3))
    assert source_face.tolist() == list(range(24))
    assert made.positions.tobytes() == box.positions.tobytes()
    assert made.topology.corner_point.tolist() == box.topology.corner_point.tolist()
    assert made.attribute("edge", "crease").tolist() == box.attribute("edge", "crease").tolist()


def test_some_faces_keep_their_order_and_lose_the_others_points(box: Geo) -> None:
    cut = traced(box, np.zeros(24, int))
    some = cut.face < 4
    made, source_face = assemble(
        box,
        [box],
        cut._replace(tri=cut.tri[some], corner=cut.corner[some], face=cut.face[some], part=cut.part[some]),
        np.zeros(3),
    )
    assert source_face.tolist() == [0, 1, 2, 3]
    assert made.attribute("face", "label").tolist() == [0, 1, 2, 3]
    assert made.counts["points"] == 9


def test_two_parts_stay_two(box: Geo) -> None:
    both = concatenate([box, ops.transform(box, move=(3, 0, 0))])
    part = np.repeat([0, 1], 24)
    made, _ = assemble(both, [box, box], traced(both, part), np.zeros(3))
    assert made.counts == both.counts
    assert np.isfinite(made.positions).all()
