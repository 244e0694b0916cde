"""Files as VTK writes them, read here; and ours read by VTK."""

from __future__ import annotations

import itertools
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from vtkmodules.util.numpy_support import numpy_to_vtk, vtk_to_numpy
from vtkmodules.vtkCommonCore import vtkPoints
from vtkmodules.vtkCommonDataModel import vtkCellArray, vtkPolyData
from vtkmodules.vtkFiltersSources import vtkConeSource, vtkCubeSource, vtkCylinderSource, vtkSphereSource
from vtkmodules.vtkIOGeometry import vtkOBJReader, vtkOBJWriter, vtkSTLReader, vtkSTLWriter
from vtkmodules.vtkIOPLY import vtkPLYReader, vtkPLYWriter

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.formats import read_bytes, write_bytes

SOURCES = {"cube": vtkCubeSource, "ball": vtkSphereSource, "cone": vtkConeSource, "tube": vtkCylinderSource}
WRITERS = {"obj": (vtkOBJWriter,), "ply": (vtkPLYWriter, 1, 2), "stl": (vtkSTLWriter, 1, 2)}
READERS = {"obj": vtkOBJReader, "ply": vtkPLYReader, "stl": vtkSTLReader}
CASES = [(ending, encoding) for ending, (_, *types) in WRITERS.items() for encoding in types or (0,)]


def made_by_vtk(shape: str) -> Any:
    source = SOURCES[shape]()
    source.Update()
    return source.GetOutput()


def sizes_and_points(mesh: Any) -> tuple[list[int], np.ndarray]:
    offsets = vtk_to_numpy(mesh.GetPolys().GetOffsetsArray())
    return sorted(np.diff(offsets).tolist()), vtk_to_numpy(mesh.GetPoints().GetData()).astype(np.float64)


def read(name: str, data: bytes) -> Geo:
    with collecting():
        return read_bytes(name, data)


@pytest.mark.parametrize(("ending", "encoding"), CASES)
@pytest.mark.parametrize("shape", SOURCES)
def test_what_vtk_writes_is_read(shape: str, ending: str, encoding: int, tmp_path: Path) -> None:
    mesh = made_by_vtk(shape)
    writer = WRITERS[ending][0]()
    writer.SetInputData(mesh)
    writer.SetFileName(str(tmp_path / f"a.{ending}"))
    if encoding:
        writer.SetFileType(encoding)
    writer.Write()
    made = read(f"a.{ending}", (tmp_path / f"a.{ending}").read_bytes())
    sizes, points = sizes_and_points(mesh)
    np.testing.assert_allclose(made.bounds, [points.min(axis=0), points.max(axis=0)], atol=1e-6)
    if ending == "stl":
        assert made.topology.face_count == sum(size - 2 for size in sizes)
    else:
        assert sorted(made.topology.face_size.tolist()) == sizes
        np.testing.assert_allclose(made.positions, points, atol=1e-6)


@pytest.mark.parametrize("ending", ["ply", "stl", "obj"])
def test_colours_and_lines_of_vtk(ending: str, tmp_path: Path) -> None:
    points = vtkPoints()
    for place in itertools.product((0.0, 1.0), (0.0, 1.0), (0.0,)):
        points.InsertNextPoint(*place)
    faces = vtkCellArray()
    faces.InsertNextCell(4)
    for point in (0, 2, 3, 1):
        faces.InsertCellPoint(point)
    mesh = vtkPolyData()
    mesh.SetPoints(points)
    mesh.SetPolys(faces)
    colors = numpy_to_vtk(np.array([[255, 0, 0], [0, 255, 0], [0, 0, 255], [9, 9, 9]], np.uint8))
    colors.SetName("shade")
    mesh.GetPointData().SetScalars(colors)
    writer = WRITERS[ending][0]()
    writer.SetInputData(mesh)
    writer.SetFileName(str(tmp_path / f"a.{ending}"))
    if ending == "ply":
        writer.SetArrayName("shade")
    writer.Write()
    made = read(f"a.{ending}", (tmp_path / f"a.{ending}").read_bytes())
    assert made.topology.face_count == (2 if ending == "stl" else 1)
    if ending == "ply":
        kept = next(name for name in made.attributes["point"] if name != "position")
        values = made.attribute("point", kept)[:, :3]
        assert (values.argmax(axis=1)[:3] == [0, 1, 2]).all()


@pytest.mark.parametrize(("ending", "encoding"), [("obj", ""), ("ply", "ascii"), ("ply", "binary"), ("stl", "binary")])
@pytest.mark.parametrize("shape", ["box", "bevelled", "curves too"])
def test_what_we_write_is_read_by_vtk(shape: str, ending: str, encoding: str, tmp_path: Path) -> None:
    geo = ops.bevel(ops.box(), width=0.1) if shape == "bevelled" else ops.box()
    geo = geo.with_attribute("point", "color", np.tile([[0.2, 0.5, 0.7, 1.0]], (geo.topology.point_count, 1)), "vec4")
    geo = ops.group(geo, where="normal.y > 0.5", name="top")
    if shape == "curves too":
        geo = ops.join(geo, ops.line())
    with collecting():
        data = write_bytes(geo, f"a.{ending}", **({"encoding": encoding} if encoding else {}))
    (tmp_path / f"a.{ending}").write_bytes(data)
    reader = READERS[ending]()
    reader.SetFileName(str(tmp_path / f"a.{ending}"))
    reader.Update()
    sizes, points = sizes_and_points(reader.GetOutput())
    used = geo.positions[np.unique(geo.topology.corner_point)] if ending != "ply" else geo.positions
    seen = points[: len(used)] if ending == "obj" else points
    np.testing.assert_allclose([seen.min(axis=0), seen.max(axis=0)], [used.min(axis=0), used.max(axis=0)], atol=1e-6)
    expected = geo.topology.face_size.tolist()
    assert sizes == (sorted(expected) if ending != "stl" else [3] * sum(size - 2 for size in expected))
