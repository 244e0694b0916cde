"""Grid: flat sheet of quads around the origin."""

import pytest

from reticula.core import ops
from reticula.core.geometry import measure


@pytest.mark.parametrize("facing", ["up", "forward", "side"])
def test_grid_faces_one_way_and_covers_its_size(facing: str) -> None:
    grid = ops.grid(size=(2, 3), cells=(4, 5), facing=facing)
    assert grid.counts["faces"] == 20
    assert measure.face_areas(grid).sum() == pytest.approx(6)
    axis = {"up": 1, "forward": 2, "side": 0}[facing]
    assert (measure.face_normals(grid)[:, axis] == 1).all()
    uv = grid.attribute("corner", "uv")
    assert [uv.min(), uv.max()] == [0, 1]
