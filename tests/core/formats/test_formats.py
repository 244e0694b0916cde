"""OBJ, PLY and STL: round trips, what other programs write, and broken files."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes
from reticula.core.geometry import KINDS, TYPES, Attribute

LISTS = {
    "number list": [[1.5], [], [2, 3]],
    "integer list": [[2**40], [-1, 5], []],
    "text list": [["a b", "ü"], [], ["\\n"]],
}


def with_every_attribute(geo: Geo) -> Geo:
    rng = np.random.default_rng(3)
    for kind in (kind for kind in KINDS if kind != "instance"):
        count = geo.topology.count(kind)
        for name, info in TYPES.items():
            if info.is_list:
                value = Attribute.of([LISTS[name][i % 3] for i in range(count)], name)
            elif name == "text":
                value = Attribute.of(np.array([f"tïle {i}" for i in range(count)] or np.zeros(0, "U1")))
            elif name == "integer":
                value = Attribute.of(rng.integers(-(2**62), 2**62, count))
            elif name == "flag":
                value = Attribute.of(rng.random(count) < 0.5)
            else:
                value = Attribute.of(rng.normal(size=(count, *info.shape)), name)
            geo = geo.with_attribute(kind, f"my_{name}".replace(" ", "_"), value)
    geo = geo.with_attribute("point", "color", rng.random((geo.topology.point_count, 4)))
    geo = geo.with_attribute("point", "normal", rng.random((geo.topology.point_count, 3)))
    return geo.with_attribute("point", "x", rng.random(geo.topology.point_count)).with_attribute(
        "face", "vertex_indices", rng.random(geo.topology.face_count)
    )


@pytest.mark.parametrize("shape", ["mixed", "no curves", "one point", "empty"])
@pytest.mark.parametrize("encoding", ["binary", "ascii"])
def test_ply_keeps_every_attribute_of_every_kind(mixed: Geo, shape: str, encoding: str, notes: list[Note]) -> None:
    bare = {"mixed": mixed, "no curves": ops.box(), "one point": Geo.of([[1, 2, 3]]), "empty": Geo.empty()}[shape]
    full = with_every_attribute(bare)
    again = read_bytes("a.ply", write_bytes(full, "a.ply", encoding=encoding))
    for kind in KINDS:
        assert again.attributes[kind].keys() == full.attributes[kind].keys()
        for name, attribute in full.attributes[kind].items():
            assert again.find(kind, name).type == attribute.type
            assert np.array_equal(again.find(kind, name).values, attribute.values), (kind, name)
    assert again.digest == full.digest
    assert not notes


@given(st.integers(0, 40), st.integers(0, 12))
def test_ply_of_any_size(points: int, faces: int) -> None:
    rng = np.random.default_rng(points * 100 + faces)
    sizes = rng.integers(3, 9, faces if points >= 9 else 0)
    geo = Geo.from_faces(rng.normal(size=(points, 3)), [rng.permutation(points)[:size].tolist() for size in sizes])
    for encoding in ("binary", "ascii"):
        assert read_bytes("a.ply", write_bytes(geo, "a.ply", encoding=encoding)).digest == geo.digest


def test_ply_as_others_write_it() -> None:
    text = (
        "ply\nformat ascii 1.0\ncomment made elsewhere\nelement vertex 3\nproperty float x\nproperty "
        "float y\nproperty float z\n"
        "property uchar red\nproperty uchar green\nproperty uchar blue\nproperty int class\nproperty "
        "list uchar int seen\n"
        "element face 1\nproperty list uchar int vertex_index\nproperty list uchar float texcoord\nend_header\n"
        "0 0 0 255 128 0 7 0\n1 0 0 0 0 0 8 2 4 5\n0 1 0 0 0 255 9 1 6\n3 0 1 2 6 0 0 1 0 0 1\n"
    )
    for data in (text.encode(), text.replace("\n", "\r\n").encode()):
        geo = read_bytes("a.ply", data)
        assert geo.attribute("point", "color")[0] == pytest.approx([1, 0.21586, 0, 1], abs=1e-5), "sRGB made linear"
        assert geo.attribute("point", "class").tolist() == [7, 8, 9]
        assert geo.find("point", "seen").row(1) == [4, 5]
        assert geo.attribute("corner", "uv").tolist() == [[0, 0], [1, 0], [0, 1]]


def test_ply_big_endian() -> None:
    head = (
        b"ply\nformat binary_big_endian 1.0\nelement vertex 1\nproperty double x\nproperty double y\n"
        b"property double z\nend_header\n"
    )
    assert read_bytes("a.ply", head + np.array([1, 2, 3], ">f8").tobytes()).positions.tolist() == [[1, 2, 3]]


def test_obj_round_trip(mixed: Geo) -> None:
    geo = ops.group(ops.group(mixed, name="big", where="area > 0.9"), name="first", where="index == 0")
    geo = geo.with_attribute("corner", "uv", np.random.default_rng(0).random((12, 2)))
    geo = geo.with_attribute("point", "color", np.column_stack([np.random.default_rng(1).random((9, 3)), np.ones(9)]))
    again = read_bytes("a.obj", write_bytes(geo, "a.obj"))
    assert again.digest == geo.digest


def test_obj_as_others_write_it(notes: list[Note]) -> None:
    text = b"""# made elsewhere
mtllib a.mtl
o thing
v 0 0 0
v 1 0 0 1.0
v 1 1 0
 v 0 1 0
vt 0 0
vt 1 0 0
vn 0 0 2
usemtl clay
s off
g front left
f 1/1/1 2/2/1 3//1
g back
f -4 -3 \\
-2 -1
l 1 2 3 1
"""
    geo = read_bytes("a.OBJ", text)
    assert geo.counts["faces"] == 2
    assert geo.topology.corner_point.tolist() == [0, 1, 2, 0, 1, 2, 3]
    assert geo.group("face", "left").tolist() == [True, False]
    assert geo.group("face", "back").tolist() == [False, True]
    assert geo.attribute("corner", "normal")[0].tolist() == [0, 0, 1]
    assert geo.topology.curve_closed.tolist() == [True]
    assert notes[0].text == "Passed over: materials, smoothing groups."


@pytest.mark.parametrize("encoding", ["binary", "ascii"])
def test_stl_shares_equal_points(encoding: str, notes: list[Note]) -> None:
    ball = ops.geodesic_sphere(frequency=3)
    again = read_bytes("a.stl", write_bytes(ball, "a.stl", encoding=encoding))
    assert again.counts["points"] == ball.counts["points"]
    assert not again.topology.border_edges.any()
    assert again.positions.max() == pytest.approx(ball.positions.max(), abs=1e-6)


def test_what_a_format_cannot_hold_is_said(notes: list[Note]) -> None:
    geo = ops.grid(cells=(1, 1)).with_attribute("face", "heat", [1.0])
    write_bytes(geo, "a.obj")
    write_bytes(geo, "a.stl")
    assert [note.text for note in notes] == [
        "OBJ cannot hold face heat; write PLY to keep them.",
        "STL holds triangles only; left out: uv, heat.",
    ]


HEAD = b"ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\n"


@pytest.mark.parametrize(
    ("name", "data", "message"),
    [
        ("a.obj", b"v 1 2\n", "line 1: a vertex has 2 numbers"),
        ("a.obj", b"v 1 2 3\n\nv 1 two 3\n", "line 3: 'two' is not a number"),
        ("a.obj", b"v 1 2 nan\n", "line 1: 'nan' is not a number"),
        ("a.obj", b"v 0 0 0\nf 1 1\n", "line 2: a face with 2 vertices"),
        ("a.obj", b"v 0 0 0\nf 1 2 3\n", "line 2: 'v' number 2 does not exist; there are 1"),
        ("a.obj", b"v 0 0 0\nf 1 x 3\n", "line 2: 'f 1 x 3' holds something"),
        ("a.obj", b"v 0 0 0\nf -1 -2 -1\n", "line 2: 'v' number -2 does not exist"),
        ("a.obj", b"v 0 0 0\nf 1/1 1/1 1/1\n", None),
        ("a.obj", b"v 0 0 0\nvt 1\n", "line 2: 'vt' has 1 numbers"),
        ("a.obj", b"\x89PNG\r\n\x1a\n", "there is no vertex"),
        ("a.ply", b"plyx", "line 1: there is no 'end_header'"),
        ("a.ply", b"solid", "begins with the word 'ply'"),
        ("a.ply", b"ply\nformat ascii 2.0\nend_header\n", "line 2: 'format ascii 2.0' is not understood"),
        ("a.ply", b"ply\nformat ascii 1.0\nelement vertex -3\nend_header\n", "line 3: 'element vertex -3'"),
        ("a.ply", b"ply\nformat ascii 1.0\nproperty float x\nend_header\n", "line 3"),
        ("a.ply", HEAD + b"end_header\n0 0 0\n1 1\n", "promises 3 rows of 'vertex'"),
        ("a.ply", HEAD + b"end_header\n0 0 0\n1 x 1\n0 0 0\n", "line 9: 'x' is not a number"),
        ("a.ply", HEAD.replace(b"3", b"999999999999") + b"end_header\n0 0 0\n", "promises 999,999,999,999 rows"),
        (
            "a.ply",
            HEAD.replace(b"float z", b"float q") + b"end_header\n" + b"0 0 0\n" * 3,
            "no 'vertex' element with x, y and z",
        ),
        (
            "a.ply",
            HEAD
            + b"element face 1\nproperty list uchar int vertex_indices\nend_header\n"
            + b"0 0 0\n" * 3
            + b"3 0 1 9\n",
            "face 0 uses vertex 9",
        ),
        (
            "a.ply",
            HEAD
            + b"element face 1\nproperty list uchar int vertex_indices\nend_header\n"
            + b"0 0 0\n" * 3
            + b"7 0 1\n",
            "row 0 of 'face' is cut short",
        ),
        (
            "a.ply",
            HEAD.replace(b"ascii", b"binary_little_endian")
            + b"element face 9\nproperty list int int v\nend_header\n"
            + b"\xff" * 80,
            None,
        ),
        ("a.stl", b"x" * 50, "byte 50: a binary STL file begins with 84 bytes"),
        ("a.stl", b"\0" * 80 + b"\xff\xff\xff\x7f" + b"\0" * 100, "promises 2,147,483,647 triangles"),
        ("a.stl", b"solid a\nfacet normal 0 0 1\nvertex 0 0\n", "line 3: a vertex needs three numbers"),
        ("a.stl", b"solid a\nfacet normal 0 0 1\nvertex 0 0 0\n", "cut short"),
        ("a.ply", b"", "the file is empty"),
        ("a.xyz", b"1 2 3", "does not end in a known format; there are .ply, .obj, .stl"),
    ],
)
def test_broken_files_are_refused_with_the_place(
    name: str, data: bytes, message: str | None, notes: list[Note]
) -> None:
    if message is None:
        try:
            read_bytes(name, data)
        except FormatError:
            pass
        return
    with pytest.raises(FormatError) as caught:
        read_bytes(name, data)
    assert message in str(caught.value)


@given(st.data())
def test_damaged_files_give_a_mesh_or_a_format_error(data: st.DataObject) -> None:
    """Cut or overwrite a valid file anywhere: never anything but a mesh or a FormatError."""
    from reticula.core.diagnostics import collecting

    name = data.draw(st.sampled_from(["a.ply", "a.obj", "a.stl"]))
    encoding = {} if name == "a.obj" else {"encoding": data.draw(st.sampled_from(["binary", "ascii"]))}
    with collecting():
        whole = bytearray(write_bytes(ops.group(ops.cylinder(segments=4), name="a"), name, **encoding))
        for _ in range(data.draw(st.integers(1, 4))):
            whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
        cut = bytes(whole[: data.draw(st.integers(1, len(whole)))])
        try:
            assert np.isfinite(read_bytes(name, cut).positions).all()
        except FormatError as error:
            assert str(error)


def test_a_file_is_written_whole_or_not_at_all(tmp_path: Path) -> None:
    target = tmp_path / "a.ply"
    ops.box().write(target)
    before = target.read_bytes()
    with pytest.raises(FormatError, match="no option encoding=hex"):
        ops.box().write(target, encoding="hex")
    assert target.read_bytes() == before
    assert Geo.read(target).counts["faces"] == 6
