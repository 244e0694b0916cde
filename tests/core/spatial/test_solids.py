"""Which faces bound one solid, and which solids are apart."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.measure.components import face_components
from reticula.core.spatial.solids import layers_apart, part_volumes, solid_of_faces

BOX = ops.box()


def shifted(x: float, size: float = 1.0, turned: bool = False) -> Geo:
    made = ops.transform(ops.box(size=(size,) * 3), move=(x, 0, 0))
    return ops.reverse(made) if turned else made


@pytest.mark.parametrize("far", [0.0, 1e6])
def test_volumes_have_the_sign_of_the_faces(far: float) -> None:
    made = ops.transform(ops.join(BOX, shifted(3, 0.5), shifted(6, 2, True)), move=(far, far, far))
    part = face_components(made)
    assert part_volumes(made, part, 3) == pytest.approx([1, 0.125, -8], rel=1e-6)
    part = np.where(part == 1, -1, 0)
    turned = np.where(np.arange(made.topology.face_count) < 6, -1.0, 1.0)
    assert part_volumes(made, part, 1, turned) == pytest.approx([-9], rel=1e-6)


@pytest.mark.parametrize(
    ("parts", "solids"),
    [
        ([BOX], [0]),
        ([BOX, shifted(0, 0.5, True)], [0, 0]),
        ([shifted(0, 0.5, True), BOX], [0, 0]),
        ([BOX, shifted(0, 0.5)], [0, 1]),
        ([BOX, shifted(5), shifted(5, 0.5, True)], [0, 1, 1]),
        ([BOX, shifted(0, 0.8, True), shifted(0, 0.6), shifted(0, 0.4, True)], [0, 0, 1, 1]),
        ([shifted(0, 0.5, True)], [0]),
    ],
)
def test_hollows_belong_to_the_smallest_solid_around_them(parts: list[Geo], solids: list[int]) -> None:
    made = ops.join(*parts) if len(parts) > 1 else parts[0]
    assert solid_of_faces(made).reshape(-1, 6)[:, 0].tolist() == solids


def test_a_hollow_beside_what_only_its_bounds_lie_in() -> None:
    """Its bounds lie in those of a ring, but it stands in the ring's opening."""
    ring = ops.torus(radius=2, thickness=0.5)
    made = ops.join(ring, shifted(0, 0.5, True), ops.transform(ops.box(size=(9, 9, 9)), move=(0, 0, 0)))
    solid = solid_of_faces(made)
    assert solid[ring.counts["faces"]] == solid[-1] != solid[0]


def test_what_touches_is_in_another_layer() -> None:
    row = ops.join(BOX, shifted(1), shifted(2), shifted(5))
    layer = layers_apart(row, solid_of_faces(row)).reshape(-1, 6)[:, 0]
    assert layer.tolist() == [0, 1, 0, 0]
    assert layers_apart(BOX, np.zeros(6, np.int64)).tolist() == [0] * 6
