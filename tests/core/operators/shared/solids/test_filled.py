"""Fillings put into a mesh: values of what is beside them."""

import numpy as np

from reticula.core import ops
from reticula.core.operators.shared.solids.filled import with_fillings
from reticula.core.operators.shared.solids.fillings import FillHow, border_fillings


def test_new_faces_copy_the_face_beside_them() -> None:
    box = ops.box().with_attribute("face", "number", np.arange(6))
    tub = ops.remove(box, where="index == 2")
    where = np.ones(tub.topology.edge_count, bool)
    parts, source = border_fillings(tub, where, FillHow("triangles", 0.0, "even-odd", False))
    made = with_fillings(tub, parts, source, True)
    assert made.counts["faces"] == 5 + 2
    assert set(made.attribute("face", "number")[5:]) <= set(tub.attribute("face", "number"))
    assert not made.topology.border_edges.any()
    assert np.array_equal(made.positions, tub.positions)
