"""Mirror: add a mirrored copy, its faces turned over so that they look outwards, and weld it along the mirror."""

import pytest

from reticula.core import Geo, ops
from reticula.core.errors import ParameterError
from reticula.core.geometry import measure
from tests.helpers import is_closed, volume


class TestMirror:
    def test_half_a_box_becomes_a_whole_one(self) -> None:
        half = ops.remove(ops.transform(ops.box(cells=(1, 2, 1)), move=(0.5, 0, 0)), where="normal.x < -0.5")
        made = ops.mirror(half)
        assert is_closed(made)
        assert volume(made) == pytest.approx(2)
        assert made.group("face", "mirrored").sum() == half.counts["faces"]
        assert ops.mirror(half, keep_original=False).counts == half.counts
        with pytest.raises(ParameterError, match="give the mirror's normal"):
            ops.mirror(half, direction=(0, 0, 0))

    def test_instances_are_mirrored(self) -> None:
        wedge = Geo.from_faces(
            [[0, 0, 0], [1, 0, 0], [0, 2, 0], [0, 0, 3]], [[0, 2, 1], [0, 1, 3], [0, 3, 2], [1, 2, 3]]
        )
        placed = ops.place_instances(ops.transform(ops.grid(cells=(1, 1)), move=(3, 0, 0)), wedge)
        made = ops.flatten_instances(ops.mirror(placed, direction=(1, 1, 0), keep_original=False))
        wanted = ops.mirror(ops.flatten_instances(placed), direction=(1, 1, 0), keep_original=False)
        assert made.positions == pytest.approx(wanted.positions)
        assert volume(made) == pytest.approx(volume(ops.flatten_instances(placed)))
        assert ops.mirror(placed).topology.instance_count == 2 * placed.topology.instance_count

    def test_stored_normals_are_mirrored(self) -> None:
        half = ops.transform(ops.box(), move=(2, 0, 0))
        half = half.with_attribute("point", "normal", measure.point_normals(half))
        made = ops.mirror(half)
        assert made.attribute("point", "normal") == pytest.approx(measure.point_normals(made))
