"""Frames: give the points of curves a tangent, a normal and a binormal that do not twist along the way."""

import numpy as np
import pytest

from reticula.core import ops
from tests.core.operators.curves.support import zigzag


class TestFrames:
    def test_right_handed_and_without_twist(self) -> None:
        helix = ops.set_attribute(
            ops.line(segments=200), name="position", value="vec3(cos(fraction * 12), fraction * 2, sin(fraction * 12))"
        )
        made = ops.frames(helix)
        t, n, b = (made.attribute("point", name) for name in ("tangent", "normal", "binormal"))
        for axis in (t, n, b):
            assert np.linalg.norm(axis, axis=1) == pytest.approx(np.ones(201))
        assert np.cross(t, n) == pytest.approx(b)
        assert np.abs(np.einsum("ij,ij->i", t, n)).max() < 1e-9
        spin = np.einsum("ij,ij->i", n[1:] - n[:-1], b[:-1]) / np.linalg.norm(t[1:] - t[:-1], axis=1)
        assert np.abs(spin).max() < 0.06, "the normal does not turn about the tangent"

    def test_a_closed_curve_closes_its_frame(self) -> None:
        knot = ops.set_attribute(
            ops.circle(segments=90),
            name="position",
            value="vec3(cos(index * tau / 90), 0.5 * sin(3 * index * tau / 90), sin(index * tau / 90))",
        )
        n = ops.frames(knot).attribute("point", "normal")
        steps = np.linalg.norm(np.roll(n, -1, axis=0) - n, axis=1)
        assert steps[-1] < 2 * steps[:-1].max()

    def test_a_rotation_turns_z_to_the_tangent(self) -> None:
        from scipy.spatial.transform import Rotation

        made = ops.frames(zigzag(), twist=30)
        turned = Rotation.from_quat(made.attribute("point", "rotation")).apply([0, 0, 1])
        assert turned == pytest.approx(made.attribute("point", "tangent"))
