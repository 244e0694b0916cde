"""To trimesh and back."""

import numpy as np
import pytest
import trimesh
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, collecting
from tests.core.formats.shared.samples import full


@given(seed=st.integers(0, 10**6))
def test_values_of_points_and_faces_come_back(seed: int) -> None:
    with collecting() as notes:
        geo = ops.triangulate(full(seed))
        back = Geo.from_trimesh(geo.to_trimesh())
    assert np.array_equal(back.topology.corner_point, geo.topology.corner_point)
    for kind in ("point", "face"):
        for name, found in geo.attributes[kind].items():
            if found.start is None:
                assert np.array_equal(back.attribute(kind, name), found.values), (kind, name)
    assert any("trimesh has no place for" in note.text and "curves" in note.text for note in notes)


def test_trimesh_sees_the_same_body(notes: list[Note]) -> None:
    mesh = ops.torus().to_trimesh()
    assert mesh.is_watertight
    assert mesh.volume == pytest.approx(trimesh.Trimesh(mesh.vertices, mesh.faces).volume)
    colored = ops.box().with_attribute("point", "color", np.tile([1.0, 0, 0, 1], (8, 1))).to_trimesh()
    assert colored.visual.vertex_colors[0].tolist() == [255, 0, 0, 255]


def test_scenes_clouds_and_colours_of_theirs_are_taken() -> None:
    scene = trimesh.Scene([trimesh.creation.box(), trimesh.creation.icosphere(subdivisions=1)])
    assert Geo.from_trimesh(scene).counts["faces"] == 12 + 80
    assert Geo.from_trimesh(trimesh.PointCloud([[1, 2, 3]])).positions.tolist() == [[1, 2, 3]]
    box = trimesh.creation.box()
    box.visual.face_colors = np.tile([0, 255, 0, 255], (12, 1))
    assert Geo.from_trimesh(box).attribute("face", "color")[0].tolist() == [0, 1, 0, 1]
