"""Split faces: cut faces into smaller ones without changing the shape."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import LimitError
from tests.helpers import bumpy, is_closed, volume


def some_faces(geo: Geo, seed: int, share: float = 0.4) -> Geo:
    return geo.with_attribute("face", "some", np.random.default_rng(seed).random(geo.topology.face_count) < share)


class TestSplitFaces:
    @pytest.mark.parametrize(("into", "faces"), [("quads", 24), ("triangles", 48), ("fan", 24)])
    def test_shape_stays(self, cube: Geo, into: str, faces: int, notes: list[Note]) -> None:
        made = ops.split_faces(cube, into=into)
        assert made.counts["faces"] == faces
        assert volume(made) == pytest.approx(8)
        assert is_closed(made)
        assert made.positions[:8].tobytes() == cube.positions.tobytes()

    @pytest.mark.parametrize("into", ["quads", "triangles"])
    @pytest.mark.parametrize("seam", ["corners", "triangles"])
    @given(seed=st.integers(0, 10_000))
    def test_random_parts_again_and_again_stay_watertight(self, into: str, seam: str, seed: int) -> None:
        made = bumpy(seed, 2)
        before = volume(made)
        for step in range(3):
            made = ops.split_faces(some_faces(made, seed + step), where="some", into=into, seam=seam)
        assert is_closed(made)
        assert made.topology.euler_characteristic == 2
        assert volume(made) == pytest.approx(before)
        smooth = ops.smooth_subdivide(made)
        assert is_closed(smooth)

    def test_open_seams_leave_neighbours_alone(self) -> None:
        sheet = ops.grid(cells=(2, 1))
        made = ops.split_faces(sheet, where="index == 0", seam="open")
        assert made.topology.face_size.tolist() == [4, 4, 4, 4, 4]
        assert made.topology.border_edges.sum() == 2 * 4 + 4, "the seam is open on both sides"

    def test_neighbours_that_change_are_named(self) -> None:
        made = ops.split_faces(ops.grid(cells=(3, 1)), where="index == 0", levels=2)
        assert made.topology.face_size[made.group("face", "seam")].tolist() == [4 + 3]
        assert made.group("face", "split").sum() == 16

    def test_corner_values_are_interpolated(self) -> None:
        made = ops.split_faces(ops.grid(cells=(2, 2)), levels=2)
        place = made.positions[made.topology.corner_point]
        assert made.attribute("corner", "uv") == pytest.approx(place[:, [0, 2]] * [1, -1] + 0.5)

    @pytest.mark.slow
    def test_a_limit_is_said(self) -> None:
        with pytest.raises(LimitError, match="Take fewer levels"):
            ops.split_faces(ops.grid(cells=(100, 100)), levels=10)
