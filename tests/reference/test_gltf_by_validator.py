"""glTF of ours before the Khronos validator (npm: gltf-validator), and read by trimesh and VTK (PyPI)."""

import io
import json
import subprocess
from pathlib import Path

import numpy as np
import pytest
import trimesh
from vtkmodules.vtkIOGeometry import vtkGLTFReader

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.formats import read_bytes, write_bytes
from reticula.core.formats.gltf.frames import write_frames
from tests.core.formats.shared.samples import full, looked_at

WEB = Path(__file__).parents[2] / "web"
VALIDATE = """
const validator = require('gltf-validator'), fs = require('fs')
const files = process.argv.slice(1)
const report = (file) => validator.validateBytes(new Uint8Array(fs.readFileSync(file)), { maxIssues: 20 })
Promise.all(files.map(report)).then(
  (reports) => console.log(JSON.stringify(reports.map((report) => report.issues))),
)
"""


def placed() -> Geo:
    cloud = ops.scatter(ops.grid(), total=30, seed=2)
    with collecting():
        made = ops.place_instances(cloud, ops.box(size=(0.1, 0.2, 0.3)))
    mirrored = np.array(made.attribute("instance", "transform"))
    mirrored[::3, :3, 0] *= -1
    made = made.with_attribute("instance", "transform", mirrored, "mat4")
    return made.with_attribute("instance", "age", np.arange(30) + 0.5)


def shapes() -> dict[str, Geo]:
    with collecting():
        return {
            "every kind": full(1),
            "looks": looked_at(2),
            "box": ops.box(),
            "ball": ops.sphere(),
            "curves": ops.circle(),
            "points": Geo.of(np.random.default_rng(1).random((9, 3))),
            "instances": placed(),
            "both": ops.join(ops.torus(), placed()),
            "awkward": ops.box()
            .with_attribute("point", "normal", np.zeros((8, 3)))
            .with_attribute("point", "color", np.full((8, 4), np.nan)),
            "nothing": Geo.empty(),
        }


def test_the_validator_of_khronos_finds_no_error_and_no_warning(tmp_path: Path) -> None:
    sheet = ops.join(ops.grid(cells=(4, 3)), ops.circle(segments=6))
    frames = [(float(k), ops.transform(sheet, move=(0, 0.1 * k, 0))) for k in range(4)]
    files = []
    for text in (False, True):
        files.append(tmp_path / f"frames.{'gltf' if text else 'glb'}")
        files[-1].write_bytes(write_frames(frames, 24.0, text=text))
    for name, geo in shapes().items():
        for ending in ("glb", "gltf"):
            for options in ({}, {"values": "plain"}, {"instances": "arrays"}):
                with collecting():
                    data = write_bytes(geo, f"a.{ending}", **options)
                path = tmp_path / f"{name.replace(' ', '_')}-{'-'.join(options.values())}.{ending}"
                path.write_bytes(data)
                files.append(path)
    done = subprocess.run(
        ["node", "-e", VALIDATE, *map(str, files)], cwd=WEB, capture_output=True, text=True, check=True, timeout=120
    )
    found = {
        path.name: [
            (one["code"], one["message"], one.get("pointer")) for one in issues["messages"] if one["severity"] < 2
        ]
        for path, issues in zip(files, json.loads(done.stdout), strict=True)
    }
    assert {name: said for name, said in found.items() if said} == {}


@pytest.mark.parametrize("shape", ["box", "sphere", "torus", "cone"])
def test_ours_are_read_by_trimesh_and_vtk(shape: str, tmp_path: Path) -> None:
    geo = getattr(ops, shape)()
    with collecting():
        data = write_bytes(geo, "a.glb")
    scene = trimesh.load(io.BytesIO(data), file_type="glb")
    mesh = scene.to_geometry() if hasattr(scene, "to_geometry") else scene
    cut = ops.triangulate(geo)
    bare = trimesh.Trimesh(cut.positions, cut.topology.corner_point.reshape(-1, 3), process=False)
    assert len(mesh.faces) == cut.topology.face_count
    assert mesh.area == pytest.approx(bare.area, rel=1e-5)
    assert np.asarray(mesh.bounds) == pytest.approx(np.asarray(geo.bounds), abs=1e-6)
    (tmp_path / "a.glb").write_bytes(data)
    reader = vtkGLTFReader()
    reader.SetFileName(str(tmp_path / "a.glb"))
    reader.Update()
    blocks = reader.GetOutput()
    cells = 0
    walk = blocks.NewIterator()
    while not walk.IsDoneWithTraversal():
        cells += walk.GetCurrentDataObject().GetNumberOfCells()
        walk.GoToNextItem()
    assert cells == cut.topology.face_count


@pytest.mark.parametrize("shape", ["box", "icosphere", "annulus"])
def test_glb_of_trimesh(shape: str) -> None:
    mesh = trimesh.creation.annulus(0.2, 0.5, 1.0) if shape == "annulus" else getattr(trimesh.creation, shape)()
    colors = np.tile([255, 0, 128, 255], (len(mesh.vertices), 1))
    mesh.visual.vertex_colors = colors
    scene = trimesh.Scene([mesh])
    turned = trimesh.transformations.rotation_matrix(0.7, [1, 2, 3], [4, 5, 6])
    scene.apply_transform(turned)
    with collecting():
        geo = read_bytes("a.glb", scene.export(file_type="glb"))
    assert geo.counts["faces"] == len(mesh.faces)
    assert np.asarray(geo.bounds) == pytest.approx(scene.bounds, abs=1e-5)
    assert geo.attribute("point", "color")[0] == pytest.approx([1, 0, 128 / 255, 1])
