"""To VTK and back."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from vtkmodules.vtkCommonCore import vtkPoints
from vtkmodules.vtkFiltersCore import vtkMassProperties, vtkTriangleFilter
from vtkmodules.vtkFiltersSources import vtkSphereSource

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, collecting
from tests.core.formats.shared.samples import shape_of, values_of

TYPES = ("number", "integer", "vec2", "vec3", "vec4", "text")


@given(seed=st.integers(0, 10**6))
def test_faces_curves_points_and_their_values_come_back(seed: int) -> None:
    rng = np.random.default_rng(seed)
    geo = shape_of(seed)
    for kind in ("point", "face", "curve"):
        for type in TYPES:
            geo = geo.with_attribute(kind, f"{kind}_{type}", values_of(type, geo.topology.count(kind), rng))
    with collecting():
        back = Geo.from_vtk(geo.to_vtk())
    assert back.topology.curve_closed.tolist() == geo.topology.curve_closed.tolist()
    for name in ("face_start", "corner_point", "curve_start", "curve_point"):
        assert np.array_equal(getattr(back.topology, name), getattr(geo.topology, name)), name
    for kind in ("point", "face", "curve"):
        for name, found in geo.attributes[kind].items():
            assert np.array_equal(back.attribute(kind, name), found.values), (kind, name)


def test_vtk_measures_the_same_volume(notes: list[Note]) -> None:
    cut = vtkTriangleFilter()
    cut.SetInputData(ops.box(size=(1, 2, 3)).to_vtk())
    measured = vtkMassProperties()
    measured.SetInputConnection(cut.GetOutputPort())
    assert measured.GetVolume() == pytest.approx(6)


def test_surfaces_of_theirs_are_taken() -> None:
    source = vtkSphereSource()
    source.Update()
    geo = Geo.from_vtk(source.GetOutput())
    assert geo.counts["faces"] == source.GetOutput().GetNumberOfPolys()
    assert geo.has("point", "Normals")
    empty = type(source.GetOutput())()
    empty.SetPoints(vtkPoints())
    assert Geo.from_vtk(empty).counts["points"] == 0
