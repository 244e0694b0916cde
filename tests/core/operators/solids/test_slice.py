"""Slice: cut faces along a plane and give both sides."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from reticula.core.geometry import measure
from tests.helpers import bumpy, is_closed, volume

direction = st.tuples(*[st.floats(-1, 1)] * 3).filter(lambda d: np.linalg.norm(d) > 0.1)


class TestSlice:
    @given(st.integers(0, 10_000), direction, st.floats(-0.3, 0.3))
    def test_both_sides_make_up_the_whole(self, seed: int, way: tuple[float, float, float], far: float) -> None:
        ball = bumpy(seed)
        unit = np.array(way) / np.linalg.norm(way)
        above, below = ops.slice(ball, direction=way, through=unit * far)
        assert is_closed(above)
        assert is_closed(below)
        assert volume(above) + volume(below) == pytest.approx(volume(ball))
        assert (above.positions @ unit).min() >= far - 1e-9
        assert (below.positions @ unit).max() <= far + 1e-9

    def test_polygons_stay_polygons_and_caps_are_one_face(self, cube: Geo) -> None:
        above, below = ops.slice(cube)
        assert above.topology.face_size.tolist() == [4] * 6
        assert above.group("face", "cap").sum() == 1
        assert above.group("edge", "cut").sum() == 4
        assert measure.face_normals(above)[above.group("face", "cap")].tolist() == [[0, -1, 0]]
        assert measure.face_normals(below)[below.group("face", "cap")].tolist() == [[0, 1, 0]]

    def test_a_cap_with_a_hole(self) -> None:
        above, below = ops.slice(ops.torus(segments=16, sides=8))
        assert is_closed(above)
        assert above.topology.euler_characteristic == 0
        assert volume(above) == pytest.approx(volume(below))

    def test_through_points_and_along_faces(self) -> None:
        above, _ = ops.slice(ops.box(cells=(2, 2, 2)))
        assert is_closed(above)
        assert above.counts["points"] == 17
        assert volume(above) == pytest.approx(0.5)
        assert measure.face_areas(above).min() > 0.1

    def test_values_are_interpolated_at_the_cut(self) -> None:
        sheet = ops.set_attribute(ops.grid(cells=(1, 1)), name="across", value="position.x")
        above, _ = ops.slice(sheet, direction=(1, 0, 0), through=(0.2, 0, 0), cap=False)
        assert above.attribute("point", "across") == pytest.approx(above.positions[:, 0])
        assert above.attribute("corner", "uv")[:, 0] == pytest.approx(
            above.positions[above.topology.corner_point, 0] + 0.5
        )

    def test_only_cut(self, cube: Geo) -> None:
        joined, _ = ops.slice(cube, keep="joined")
        assert is_closed(joined)
        assert joined.counts["faces"] == 10
        assert joined.group("edge", "cut").sum() == 4

    def test_one_side_only_and_missing_the_mesh(self, cube: Geo, notes: list[Note]) -> None:
        above, below = ops.slice(cube, through=(0, 9, 0), keep="below")
        assert above.counts["faces"] == 0
        assert below.counts["faces"] == 6
        assert "does not cut" in notes[0].text
        with pytest.raises(ParameterError, match="give the plane's normal"):
            ops.slice(cube, direction=(0, 0, 0))

    def test_loose_points_go_to_their_side(self, mixed: Geo, notes: list[Note]) -> None:
        above, below = ops.slice(mixed, direction=(1, 0, 0), through=(5, 0, 0))
        assert above.positions[-1].tolist() == [9, 9, 9]
        assert below.counts["faces"] == 3
