"""Files as trimesh and meshio write them, and dialects of their text, read here; and ours read by both of them."""

import io
import itertools
from pathlib import Path

import meshio
import numpy as np
import pytest
import trimesh

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes

SHAPES = {
    "box": trimesh.creation.box(),
    "ball": trimesh.creation.icosphere(subdivisions=1),
    "tube": trimesh.creation.annulus(0.2, 0.5, 1.0, sections=9),
    "far": trimesh.creation.box().apply_translation([1e6, -2e6, 5e5]),
}
DIALECTS = {
    "plain": lambda text: text,
    "CR LF": lambda text: text.replace(b"\n", b"\r\n"),
    "CR": lambda text: text.replace(b"\n", b"\r"),
    "mark": lambda text: b"\xef\xbb\xbf" + text,
    "comments": lambda text: text.replace(b"\n", b"   # written by hand\n"),
    "spaces": lambda text: b"\n".join(b"  " + line.replace(b" ", b"   ") + b"\t " for line in text.split(b"\n")),
    "no end": lambda text: text.rstrip(b"\n"),
}


def area(geo: Geo) -> float:
    return float(ops.triangulate(geo).topology.face_count and trimesh.Trimesh(*_triangles(geo), process=False).area)


def _triangles(geo: Geo) -> tuple[np.ndarray, np.ndarray]:
    cut = ops.triangulate(geo)
    return np.array(cut.positions), cut.topology.corner_point.reshape(-1, 3)


def read(name: str, data: bytes) -> Geo:
    with collecting():
        return read_bytes(name, data)


@pytest.mark.parametrize("dialect", DIALECTS)
@pytest.mark.parametrize("shape", SHAPES)
def test_obj_of_trimesh_in_every_dialect(shape: str, dialect: str) -> None:
    mesh = SHAPES[shape]
    made = read("a.obj", DIALECTS[dialect](mesh.export(file_type="obj").encode()))
    assert made.counts["faces"] == len(mesh.faces)
    np.testing.assert_allclose(made.positions, mesh.vertices, atol=1e-6)
    assert area(made) == pytest.approx(mesh.area, rel=1e-4)


@pytest.mark.parametrize("encoding", ["ascii", "binary"])
@pytest.mark.parametrize("color", [False, True])
@pytest.mark.parametrize("shape", SHAPES)
def test_ply_of_trimesh(shape: str, color: bool, encoding: str) -> None:
    mesh = SHAPES[shape].copy()
    if color:
        mesh.visual.vertex_colors = np.tile([255, 0, 128, 255], (len(mesh.vertices), 1))
    made = read("a.ply", mesh.export(file_type="ply", encoding="ascii" if encoding == "ascii" else "binary"))
    assert made.counts["faces"] == len(mesh.faces)
    assert made.has("point", "color") == color
    if color:
        assert made.attribute("point", "color")[0, :2].tolist() == [1, 0]


@pytest.mark.parametrize("ending", ["stl", "stl_ascii"])
@pytest.mark.parametrize("shape", SHAPES)
def test_stl_of_trimesh(shape: str, ending: str) -> None:
    mesh = SHAPES[shape]
    data = mesh.export(file_type=ending)
    for text in DIALECTS.values() if ending == "stl_ascii" else [lambda data: data]:
        if ending == "stl_ascii" and text is DIALECTS["comments"]:
            continue
        made = read("a.stl", text(data.encode() if isinstance(data, str) else data))
        assert made.counts["faces"] == len(mesh.faces)


@pytest.mark.parametrize("binary", [False, True])
@pytest.mark.parametrize("ending", ["ply", "obj", "stl"])
@pytest.mark.parametrize("cells", ["triangle", "quad", "both"])
def test_files_of_meshio(cells: str, ending: str, binary: bool, tmp_path: Path) -> None:
    points = np.array([[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0], [2, 0.5, 0]], float)
    blocks = {"triangle": [[0, 1, 2], [1, 4, 2]], "quad": [[0, 1, 2, 3]]}
    used = {"both": {"quad": [[0, 1, 2, 3]], "triangle": [[1, 4, 2]]}}.get(cells) or {cells: blocks[cells]}
    if (ending == "stl" and cells != "triangle") or (ending == "obj" and binary):
        pytest.skip("not in this format")
    path = tmp_path / f"a.{ending}"
    options = {} if ending == "obj" else {"binary": binary}
    meshio.Mesh(points, used).write(path, **options)
    made = read(path.name, path.read_bytes())
    assert made.counts["faces"] == sum(len(rows) for rows in used.values())


def test_edges_of_a_ply_become_curves(tmp_path: Path) -> None:
    path = trimesh.load_path(np.array([[0, 0, 0], [1, 0, 0], [1, 1, 0], [1, 2, 1]], float))
    lines = "".join(f"{a} {b}\n" for a, b in itertools.pairwise(range(4)))
    text = (
        "ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\n"
        "element edge 3\nproperty int vertex1\nproperty int vertex2\nend_header\n"
        + "".join(f"{x} {y} {z}\n" for x, y, z in path.vertices)
        + lines
    )
    made = read("a.ply", text.encode())
    assert made.counts["curves"] == 1
    assert ops.measure(made, what="length").attribute("curve", "length").sum() == pytest.approx(path.length)


def every_kind() -> Geo:
    geo = ops.join(ops.grid(cells=(2, 2)), ops.circle(segments=5))
    for kind in ("edge", "corner", "face", "curve", "whole", "point"):
        count = geo.topology.count(kind)  # type: ignore[arg-type]
        geo = geo.with_attribute(kind, f"{kind}_number", np.arange(count) + 0.5)  # type: ignore[arg-type]
        geo = geo.with_attribute(kind, f"{kind}_text", np.array([f"t{n}" for n in range(count)]))  # type: ignore[arg-type]
    return geo


@pytest.mark.parametrize("encoding", ["ascii", "binary"])
def test_ours_with_values_of_every_kind_is_read_by_others(encoding: str, tmp_path: Path) -> None:
    """Elements and lists that they do not know come after those that they do."""
    with collecting():
        plain = write_bytes(ops.triangulate(every_kind()), "a.ply", encoding=encoding)
    loaded = trimesh.load(io.BytesIO(plain), file_type="ply", process=False)
    assert len(loaded.faces) == 8
    names = [line.split()[1] for line in plain.split(b"end_header")[0].splitlines() if line.startswith(b"element")]
    assert names[:3] == [b"vertex", b"face", b"edge"]
    again = read("a.ply", plain)
    before = ops.triangulate(every_kind())
    assert again.attribute("edge", "edge_text").tolist() == before.attribute("edge", "edge_text").tolist()
    sheet = ops.triangulate(ops.grid(cells=(2, 2)))
    lean = Geo.of(sheet.positions, sheet.topology)
    with collecting():
        (tmp_path / "b.ply").write_bytes(write_bytes(lean, "b.ply", encoding=encoding))
    assert len(meshio.read(tmp_path / "b.ply").cells_dict["triangle"]) == 8


@pytest.mark.parametrize("ending", ["obj", "stl", "ply"])
@pytest.mark.parametrize("shape", ["box", "sphere", "torus"])
def test_ours_are_read_by_trimesh(shape: str, ending: str) -> None:
    geo = ops.triangulate(getattr(ops, shape)())
    with collecting():
        data = write_bytes(geo, f"a.{ending}")
    loaded = trimesh.load(io.BytesIO(data), file_type=ending, process=False)
    assert len(loaded.faces) == geo.topology.face_count
    assert loaded.area == pytest.approx(area(geo), rel=1e-5)


def test_names_and_colours_of_an_obj() -> None:
    text = b"""o Reef wall
v 0 0 0 1 0.5 0 0.25
v 1 0 0 1 0.5 0 1
v 1 1 0 1 0.5 0 1
v 0 1 0 1 0.5 0 1
vt 0.25
vt 0.5 1
g upper lower#both
f 1/1 2/2 3/1
g
f 1 3 4
o second
f 1 2 4
"""
    made = read("a.obj", text)
    assert made.attribute("face", "object").tolist() == ["Reef wall", "Reef wall", "second"]
    assert made.group("face", "upper").tolist() == [True, False, False]
    assert made.group("face", "lower").tolist() == [True, False, False]
    assert made.attribute("point", "color")[0].tolist() == [1, 0.5, 0, 0.25]
    assert made.attribute("corner", "uv")[:2].tolist() == [[0.25, 0], [0.5, 1]]
    with collecting():
        again = read("b.obj", write_bytes(made, "b.obj"))
    assert again.attribute("face", "object").tolist() == made.attribute("face", "object").tolist()


@pytest.mark.parametrize("value", ["nan", "inf", "1e308", "-1e200"])
@pytest.mark.parametrize("ending", ["obj", "ply", "stl"])
def test_places_that_are_none_are_said_with_their_place(ending: str, value: str) -> None:
    texts = {
        "obj": f"v 0 0 0\nv 1 {value} 0\nv 1 1 0\nf 1 2 3\n",
        "ply": "ply\nformat ascii 1.0\nelement vertex 2\nproperty double x\nproperty double y\nproperty double z\n"
        f"end_header\n0 0 0\n1 {value} 0\n",
        "stl": f"solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 {value} 0\nvertex 1 1 0\nendloop\n"
        "endfacet\nendsolid\n",
    }
    with pytest.raises(FormatError, match=r"line|vertex 1"):
        read(f"a.{ending}", texts[ending].encode())


def test_many_groups_take_no_time_each() -> None:
    """5,000 groups of 50,000 faces; it took 28 s when every group was looked for in all faces (no time is tested)."""
    faces = "".join(f"g part{n}\n" + "f 1 2 3\n" * 10 for n in range(5000))
    made = read("a.obj", ("v 0 0 0\nv 1 0 0\nv 0 1 0\n" + faces).encode())
    assert len(made.groups("face")) == 5000
    assert made.group("face", "part17").sum() == 10
