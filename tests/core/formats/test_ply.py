"""PLY: every attribute comes back, and what other programs write is read."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
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
        assert geo.attribute("point", "class_").tolist() == [7, 8, 9]
        assert geo.find("point", "seen").row(1) == [4, 5]
        assert geo.attribute("corner", "uv").tolist() == [[0, 0], [1, 0], [0, 1]]


def test_ply_big_endian() -> None:
    head = (
        b"ply\nformat binary_big_endian 1.0\nelement vertex 1\nproperty double x\nproperty double y\n"
        b"property double z\nend_header\n"
    )
    assert read_bytes("a.ply", head + np.array([1, 2, 3], ">f8").tobytes()).positions.tolist() == [[1, 2, 3]]
