"""The geometries that scripts of the tests run on."""

from __future__ import annotations

import numpy as np

from reticula.core import Geo, ops

__all__ = ["reef", "same", "sheet"]


def sheet() -> Geo:
    """A wavy sheet of 6 by 6 faces with the point attribute `cover` and the face group `crest`."""
    flat = ops.grid(size=(1.2, 1.2), cells=(6, 6))
    x, _, z = flat.positions.T
    geo = flat.with_positions(np.stack([x, 0.1 * np.sin(5 * x) * np.cos(4 * z), z], axis=1))
    geo = geo.with_attribute("point", "cover", (0.5 + 0.5 * np.sin(7 * x + 3 * z)).round(6))
    return geo.with_attribute("face", "crest", np.arange(36) % 5 == 0)


def reef() -> Geo:
    """A sphere with a number, a whole number, a text, a vector and a corner attribute."""
    ball = ops.geodesic_sphere(radius=0.5, frequency=4)
    count = ball.topology.point_count
    ball = ball.with_attribute("point", "heat", np.arange(count) / count)
    ball = ball.with_attribute("point", "zone", np.arange(count) % 4)
    ball = ball.with_attribute("point", "kind", np.array(["sand", "rock"])[np.arange(count) % 2])
    ball = ball.with_attribute("face", "tone", np.arange(ball.topology.face_count) % 7 * 0.5)
    return ball.with_attribute("corner", "uv", np.arange(ball.topology.corner_count * 2).reshape(-1, 2) / 9)


def same(a: Geo, b: Geo) -> None:
    """Fail unless two geometries are the same to the last bit."""
    assert a.counts == b.counts
    for kind in a.attributes:
        assert set(a.attributes[kind]) == set(b.attributes[kind])
        for name, first in a.attributes[kind].items():
            second = b.find(kind, name)
            assert first.type == second.type, name
            if first.start is not None:
                assert second.start is not None
                assert (first.start == second.start).all(), name
            if first.values.dtype.kind == "f":
                np.testing.assert_array_equal(first.values, second.values, err_msg=name)
            else:
                assert (first.values == second.values).all(), name
    assert (a.topology.corner_point == b.topology.corner_point).all()
    assert (a.topology.curve_point == b.topology.curve_point).all()
    for stable in ("point", "face", "curve"):
        assert (a.identity(stable) == b.identity(stable)).all()  # type: ignore[arg-type]
