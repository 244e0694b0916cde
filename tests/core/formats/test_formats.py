"""Any format: what it cannot hold is said, and broken files are refused with the place."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes


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
        ("a.obj", b"v 1 2 nan\n", "line 1: the place of vertex 0 holds nan"),
        ("a.obj", b"v 0 0 0\nf 1 1\n", "line 2: a face with 2 vertices"),
        ("a.obj", b"v 0 0 0\nf 1 2 3\n", "line 2: 'v' number 2 does not exist; there are 1"),
        ("a.obj", b"v 0 0 0\nf 1 x 3\n", "line 2: 'f 1 x 3' holds something"),
        ("a.obj", b"v 0 0 0\nf -1 -2 -1\n", "line 2: 'v' number -2 does not exist"),
        ("a.obj", b"v 0 0 0\nf 1/1 1/1 1/1\n", None),
        ("a.obj", b"v 0 0 0\nvn 1\n", "line 2: 'vn' has 1 numbers"),
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
        ("a.docx", b"1 2 3", "does not end in a known format; there are .ply, .3mf, .dxf, .glb"),
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
