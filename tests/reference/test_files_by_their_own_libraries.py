"""USD, DXF, OFF, LAS and 3MF of ours before the checkers and readers of usd-core, ezdxf, trimesh and laspy (PyPI)."""

import io
from pathlib import Path

import ezdxf
import laspy
import numpy as np
import pytest
import trimesh
from pxr import Usd, UsdGeom, UsdValidation

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.formats import FORMATS, read_bytes, write_bytes
from tests.core.formats.shared.samples import full, looked_at
from tests.reference.test_gltf_by_validator import placed


@pytest.mark.parametrize("ending", ["usda", "usdc", "usdz"])
@pytest.mark.parametrize("shape", ["full", "looked at", "instances", "curves", "points"])
def test_the_checker_of_usd_has_no_complaint(shape: str, ending: str, tmp_path: Path) -> None:
    geo = {
        "full": lambda: full(1),
        "looked at": lambda: looked_at(1),
        "instances": placed,
        "curves": ops.circle,
        "points": lambda: Geo.of([(0, 0, 0), (1, 2, 3)]),
    }[shape]()
    path = tmp_path / f"a.{ending}"
    with collecting():
        path.write_bytes(write_bytes(geo, path.name))
    checks = UsdValidation.ValidationRegistry().GetOrLoadAllValidators()
    assert len(checks) > 10
    found = UsdValidation.ValidationContext(checks).Validate(Usd.Stage.Open(str(path)))
    assert [(one.GetName(), one.GetMessage()) for one in found] == []


def test_usd_of_its_own_library(tmp_path: Path) -> None:
    path = str(tmp_path / "a.usda")
    stage = Usd.Stage.CreateNew(path)
    UsdGeom.SetStageUpAxis(stage, UsdGeom.Tokens.z)
    UsdGeom.SetStageMetersPerUnit(stage, 0.01)
    mesh = UsdGeom.Mesh.Define(stage, "/world/sheet")
    mesh.CreatePointsAttr([(0, 0, 0), (100, 0, 0), (100, 100, 0), (0, 100, 0)])
    mesh.CreateFaceVertexCountsAttr([4])
    mesh.CreateFaceVertexIndicesAttr([0, 1, 2, 3])
    mesh.AddTranslateOp().Set((0, 0, 50))
    stage.GetRootLayer().Save()
    geo = FORMATS["usda"].read(Path(path).read_bytes())
    assert geo.positions == pytest.approx(np.array([[0, 0.5, 0], [1, 0.5, 0], [1, 0.5, -1], [0, 0.5, -1]]))


@pytest.mark.parametrize("shape", ["box", "circle", "torus"])
def test_dxf_of_ours_passes_the_audit_of_ezdxf(shape: str, tmp_path: Path) -> None:
    with collecting():
        (tmp_path / "a.dxf").write_bytes(write_bytes(getattr(ops, shape)(), "a.dxf"))
    document = ezdxf.readfile(tmp_path / "a.dxf")
    audit = document.audit()
    assert not audit.has_errors
    assert not audit.has_fixes
    assert document.units == ezdxf.units.M


@pytest.mark.parametrize("shape", ["box", "sphere", "torus"])
def test_off_both_ways_with_trimesh(shape: str) -> None:
    geo = ops.triangulate(getattr(ops, shape)())
    with collecting():
        mesh = trimesh.load(io.BytesIO(write_bytes(geo, "a.off")), file_type="off", process=False)
        assert np.array_equal(mesh.faces, geo.topology.corner_point.reshape(-1, 3))
        back = read_bytes("a.off", mesh.export(file_type="off").encode())
    assert np.array_equal(back.topology.corner_point, geo.topology.corner_point)
    assert back.positions == pytest.approx(geo.positions, abs=1e-7)


def test_las_both_ways_with_laspy(rng: np.random.Generator) -> None:
    header = laspy.LasHeader(point_format=3, version="1.2")
    header.scales, header.offsets = [0.001] * 3, [500_000, 4_000_000, 0]
    theirs = laspy.LasData(header)
    places = rng.random((50, 3)) * 100 + [500_000, 4_000_000, 10]
    theirs.x, theirs.y, theirs.z = places.T
    theirs.intensity = rng.integers(0, 60_000, 50)
    theirs.red = theirs.green = theirs.blue = np.full(50, 65_535)
    out = io.BytesIO()
    theirs.write(out)
    with collecting():
        geo = read_bytes("a.las", out.getvalue())
        again = laspy.read(io.BytesIO(write_bytes(geo, "a.las")))
    assert geo.attribute("point", "intensity").tolist() == theirs.intensity.tolist()
    assert geo.attribute("point", "color").tolist() == [[1, 1, 1, 1]] * 50
    assert np.abs(np.asarray(again.xyz) - places).max() < 0.001


def test_3mf_of_ours_is_a_closed_solid_for_its_library(tmp_path: Path) -> None:
    import lib3mf

    model = lib3mf.get_wrapper().CreateModel()
    with collecting():
        model.QueryReader("3mf").ReadFromBuffer(write_bytes(Geo.of(ops.box().positions, ops.box().topology), "a.3mf"))
    meshes = model.GetMeshObjects()
    assert meshes.MoveNext()
    mesh = meshes.GetCurrentMeshObject()
    assert (mesh.GetVertexCount(), mesh.GetTriangleCount()) == (8, 12)
    assert mesh.IsManifoldAndOriented()
    assert mesh.IsValid()
