"""Disc: round sheet around the origin: a polygon or triangles in the middle, quads around."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry import measure
from tests.helpers import is_closed, volume


@pytest.mark.parametrize("top", [0.0, 0.2])
def test_cones_in_closed_form(top: float) -> None:
    cone = ops.cone(radius=0.5, top_radius=top, height=2, segments=400, rows=3)
    assert is_closed(cone)
    assert volume(cone) == pytest.approx(np.pi * 2 / 3 * (0.25 + 0.5 * top + top * top), rel=1e-4)


def test_disc_middles() -> None:
    assert ops.disc(middle="polygon", segments=12, rings=3).topology.face_size[0] == 12
    for middle in ("polygon", "triangles"):
        disc = ops.disc(middle=middle, segments=12, rings=3)
        assert measure.face_areas(disc).sum() == pytest.approx(0.5 * 12 * 0.25 * np.sin(2 * np.pi / 12))
