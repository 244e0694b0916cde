"""To and from Open3D, where it is installed (it is no part of the locks: half a gigabyte)."""

from __future__ import annotations

import sys

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import FormatError


def test_it_is_said_if_it_is_not_here(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(sys.modules, "open3d", None)
    with pytest.raises(FormatError, match="pip install open3d"):
        ops.box().to_open3d()
    with pytest.raises(FormatError, match="pip install open3d"):
        Geo.from_open3d(object())


@pytest.fixture
def open3d() -> object:
    return pytest.importorskip("open3d")


def tile() -> Geo:
    geo = ops.triangulate(ops.sphere(segments=8, rings=5))
    geo = ops.set_attribute(geo, name="heat", value="position.y")
    geo = ops.set_attribute(geo, name="color", value="vec4(fraction, 0.5, 1, 1)")
    return ops.group(geo, name="crest", kind="face", where="normal.y > 0.5")


def test_a_mesh_comes_back(open3d: object) -> None:
    geo = tile()
    made = geo.to_open3d()
    assert made.triangle.indices.shape[0] == geo.topology.face_count
    back = Geo.from_open3d(made)
    assert np.array_equal(back.positions, geo.positions)
    assert np.array_equal(back.topology.corner_point, geo.topology.corner_point)
    assert np.allclose(back.attribute("point", "heat"), geo.attribute("point", "heat"))
    assert np.allclose(back.attribute("point", "color"), geo.attribute("point", "color"))
    assert back.group("face", "crest").tolist() == geo.group("face", "crest").tolist()
    assert np.allclose(back.attribute("corner", "uv"), geo.attribute("corner", "uv"), atol=1e-7)
    area = ops.measure(geo).attribute("face", "area").sum()
    assert made.to_legacy().get_surface_area() == pytest.approx(area, rel=1e-5)


def test_lines_points_and_what_is_lost(open3d: object) -> None:
    circle = ops.circle(segments=6)
    assert Geo.from_open3d(circle.to_open3d()).topology.curve_count == 6
    cloud = Geo.of([(0, 0, 0), (1, 2, 3)], word=np.array(["a", "b"]), heat=[1.0, 2.0])
    with collecting() as notes:
        back = Geo.from_open3d(cloud.to_open3d())
    assert back.attribute("point", "heat").tolist() == [1, 2]
    assert "point word" in notes[0].text


def test_legacy_meshes_are_taken(open3d: object) -> None:
    box = open3d.geometry.TriangleMesh.create_box()  # type: ignore[attr-defined]  # has no types
    box.paint_uniform_color([0.5, 0.5, 0.5])
    geo = Geo.from_open3d(box)
    assert geo.counts["faces"] == 12
    assert geo.attribute("point", "color")[0] == pytest.approx([0.2140, 0.2140, 0.2140, 1], abs=1e-3)
