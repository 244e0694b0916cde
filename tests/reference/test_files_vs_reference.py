"""Files that we write, read by meshio and trimesh; and files that they write, read by us. On the Stanford bunny."""

from pathlib import Path

import meshio
import numpy as np
import pytest
import trimesh

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting


@pytest.mark.parametrize(
    ("name", "encoding"),
    [("a.ply", "binary"), ("a.ply", "ascii"), ("a.obj", None), ("a.stl", "binary"), ("a.stl", "ascii")],
)
def test_trimesh_reads_what_we_write(bunny: Geo, tmp_path: Path, name: str, encoding: str | None) -> None:
    with collecting():
        bunny.write(tmp_path / name, **({"encoding": encoding} if encoding else {}))
    mesh = trimesh.load(tmp_path / name, process=False)
    assert len(mesh.faces) == bunny.counts["faces"]
    ours = bunny.positions[bunny.topology.corner_point]
    assert np.allclose(mesh.vertices[mesh.faces].reshape(-1, 3), ours, atol=1e-5 if name == "a.stl" else 1e-12)


@pytest.mark.parametrize("encoding", ["binary", "ascii"])
def test_meshio_reads_our_ply_with_its_values(bunny: Geo, tmp_path: Path, encoding: str) -> None:
    heat = np.arange(bunny.counts["points"]) / 7
    bunny.with_attribute("point", "heat", heat).write(tmp_path / "a.ply", encoding=encoding)
    mesh = meshio.read(tmp_path / "a.ply")
    assert np.array_equal(mesh.points, bunny.positions)
    assert np.array_equal(mesh.cells_dict["triangle"].reshape(-1), bunny.topology.corner_point)
    assert np.array_equal(mesh.point_data["heat"], heat)


def test_meshio_reads_quads_from_our_obj(tmp_path: Path) -> None:
    box = ops.box(cells=(2, 3, 1)).without_attribute("corner", "uv")
    box.write(tmp_path / "a.obj")
    mesh = meshio.read(tmp_path / "a.obj")
    assert np.allclose(mesh.points, box.positions)
    assert np.array_equal(mesh.cells_dict["quad"].reshape(-1), box.topology.corner_point)


@pytest.mark.parametrize("binary", [True, False])
def test_we_read_what_meshio_writes(bunny: Geo, tmp_path: Path, binary: bool) -> None:
    faces = bunny.topology.corner_point.reshape(-1, 3)
    mesh = meshio.Mesh(bunny.positions, [("triangle", faces)], point_data={"heat": bunny.positions[:, 0]})
    meshio.write(tmp_path / "a.ply", mesh, binary=binary)
    again = Geo.read(tmp_path / "a.ply")
    assert np.array_equal(again.positions, bunny.positions)
    assert np.array_equal(again.topology.corner_point, bunny.topology.corner_point)
    assert np.array_equal(again.attribute("point", "heat"), bunny.positions[:, 0])


@pytest.mark.parametrize("name", ["a.ply", "a.obj", "a.stl"])
def test_we_read_what_trimesh_writes(bunny: Geo, tmp_path: Path, name: str) -> None:
    faces = bunny.topology.corner_point.reshape(-1, 3)
    trimesh.Trimesh(bunny.positions, faces, process=False).export(tmp_path / name)
    with collecting():
        again = Geo.read(tmp_path / name)
    assert again.counts["faces"] == len(faces)
    assert np.allclose(
        again.positions[again.topology.corner_point], bunny.positions[bunny.topology.corner_point], atol=1e-5
    )
