"""glTF as others write it: scenes of several objects, shared shapes, materials, and what is broken."""

import base64
import json
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.diagnostics import Note, collecting
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes

PLACES = np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0]], "<f4")


def document(**changed: Any) -> dict[str, Any]:
    """Return a glTF of one triangle, with entries changed."""
    uri = "data:application/octet-stream;base64," + base64.b64encode(PLACES.tobytes()).decode()
    told: dict[str, Any] = {
        "asset": {"version": "2.0"},
        "scenes": [{"nodes": [0]}],
        "nodes": [{"mesh": 0}],
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0}}]}],
        "accessors": [{"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3"}],
        "bufferViews": [{"buffer": 0, "byteLength": 36}],
        "buffers": [{"byteLength": 36, "uri": uri}],
    }
    return {**told, **changed}


def read(told: dict[str, Any], **parts: bytes) -> Any:
    return read_bytes("a.gltf", json.dumps(told).encode(), parts)


def test_objects_are_moved_to_the_world_and_named_on_their_faces(notes: list[Note]) -> None:
    nodes = [
        {"children": [1, 2], "translation": [0, 0, 5]},
        {"mesh": 0, "name": "left", "scale": [2, 2, 2]},
        {"mesh": 1, "name": "right", "rotation": [0, 0, 1, 0]},
    ]
    primitives = [{"attributes": {"POSITION": 0}}]
    geo = read(document(nodes=nodes, meshes=[{"primitives": primitives}, {"primitives": primitives}]))
    assert geo.attribute("face", "object").tolist() == ["left", "right"]
    assert geo.positions.round(9).tolist() == [
        [0, 0, 5], [2, 0, 5], [0, 2, 5], [0, 0, 5], [-1, 0, 5], [0, -1, 5],
    ]  # fmt: skip


def test_a_shape_that_is_placed_twice_becomes_instances(notes: list[Note]) -> None:
    nodes = [{"mesh": 0}, {"mesh": 0, "translation": [3, 0, 0]}]
    geo = read(document(nodes=nodes, scenes=[{"nodes": [0, 1]}]))
    assert geo.counts["instances"] == 2
    assert geo.attribute("instance", "transform")[1, :3, 3].tolist() == [3, 0, 0]


def test_vertices_at_one_place_are_joined_and_their_uv_stay_on_corners(notes: list[Note]) -> None:
    places = np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 0], [0, 1, 0], [-1, 0, 0]], "<f4")
    uv = np.arange(12, dtype="<f4").reshape(6, 2) / 12
    data = places.tobytes() + uv.tobytes()
    geo = read(
        document(
            buffers=[{"byteLength": len(data), "uri": "sheet.bin"}],
            bufferViews=[{"buffer": 0, "byteLength": 72}, {"buffer": 0, "byteOffset": 72, "byteLength": 48}],
            accessors=[
                {"bufferView": 0, "componentType": 5126, "count": 6, "type": "VEC3"},
                {"bufferView": 1, "componentType": 5126, "count": 6, "type": "VEC2"},
            ],
            meshes=[{"primitives": [{"attributes": {"POSITION": 0, "TEXCOORD_0": 1}}]}],
        ),
        **{"sheet.bin": data},
    )
    assert (geo.counts["points"], geo.counts["faces"]) == (4, 2)
    assert geo.attribute("corner", "uv")[:, 0] == pytest.approx(uv[:, 0])
    assert geo.attribute("corner", "uv")[:, 1] == pytest.approx(1 - uv[:, 1])


@pytest.mark.parametrize(
    ("mode", "counts"),
    [(0, (5, 0, 0)), (1, (4, 2, 0)), (2, (5, 1, 0)), (3, (5, 1, 0)), (4, (3, 0, 1)), (5, (5, 0, 3)), (6, (5, 0, 3))],
)
def test_every_mode_of_drawing(mode: int, counts: tuple[int, int, int], notes: list[Note]) -> None:
    places = np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0], [1, 1, 0], [0, 2, 1]], "<f4")
    geo = read(
        document(
            buffers=[{"byteLength": 60, "uri": "a.bin"}],
            bufferViews=[{"buffer": 0, "byteLength": 60}],
            accessors=[{"bufferView": 0, "componentType": 5126, "count": 5, "type": "VEC3"}],
            meshes=[{"primitives": [{"attributes": {"POSITION": 0}, "mode": mode}]}],
        ),
        **{"a.bin": places.tobytes()},
    )
    assert (geo.counts["points"], geo.counts["curves"], geo.counts["faces"]) == counts
    if mode == 5:
        assert ops.measure(geo, what="area").attribute("face", "area").min() > 0
    if mode == 2:
        assert geo.topology.curve_closed.all()


def test_names_and_colours_of_materials_lie_on_faces(notes: list[Note]) -> None:
    primitives = [{"attributes": {"POSITION": 0}, "material": number} for number in (0, 1)]
    materials = [
        {"name": "clay", "pbrMetallicRoughness": {"baseColorFactor": [1, 0, 0, 1]}},
        {"name": "steel"},
    ]
    geo = read(document(meshes=[{"primitives": primitives}], materials=materials))
    assert geo.attribute("face", "material").tolist() == ["clay", "steel"]
    assert geo.attribute("face", "color").tolist() == [[1, 0, 0, 1], [1, 1, 1, 1]]


@pytest.mark.parametrize(
    ("changed", "message"),
    [
        ({"asset": {}}, "only glTF 2 is read"),
        ({"asset": {"version": "1.0"}}, "only glTF 2 is read"),
        ({"extensionsRequired": ["KHR_draco_mesh_compression"]}, "compressed with Draco"),
        ({"extensionsRequired": ["VENDOR_other"]}, "needs VENDOR_other"),
        ({"nodes": [{"mesh": 7}]}, "'meshes' has no entry 7"),
        ({"nodes": [{"children": [0]}]}, "hangs below two others, or below itself"),
        ({"nodes": [{"mesh": 0, "matrix": [1, 2]}]}, "the place of node 0"),
        ({"meshes": [{"primitives": [{"attributes": {}}]}]}, "no places"),
        ({"meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "mode": 9}]}]}, "of mode 9"),
        ({"accessors": [{"bufferView": 0, "componentType": 5126, "count": 4, "type": "VEC3"}]}, "too small"),
        ({"accessors": [{"bufferView": 0, "componentType": 1, "count": 3, "type": "VEC3"}]}, "of no type"),
        ({"accessors": [{"bufferView": 0, "componentType": 5126, "count": 10**12, "type": "VEC3"}]}, "the most"),
        ({"bufferViews": [{"buffer": 0, "byteLength": 99}]}, "beyond its buffer"),
        ({"buffers": [{"byteLength": 99, "uri": "data:;base64,AAAA"}]}, "promises 99 bytes"),
        (
            {"buffers": [{"byteLength": 36, "uri": "../secret.bin"}]},
            "'../secret.bin' belongs to this one and is missing",
        ),
        ({"scenes": [{"nodes": []}]}, "no shape in any scene"),
    ],
)
def test_what_is_broken_is_refused_in_words(changed: dict[str, Any], message: str) -> None:
    with pytest.raises(FormatError, match=message):
        read(document(**changed))


def test_a_text_that_is_no_json_is_refused() -> None:
    with pytest.raises(FormatError, match="is JSON, and this is none"):
        read_bytes("a.gltf", b"{" * 50)
    with pytest.raises(FormatError, match="is JSON, and this is none"):
        read_bytes("a.gltf", b"[" * 200_000)


@settings(max_examples=150)
@given(data=st.data())
def test_a_damaged_file_is_read_or_refused(data: st.DataObject) -> None:
    whole = bytearray(write_bytes(ops.grid(cells=(2, 2)), "a.glb"))
    for _ in range(data.draw(st.integers(1, 4))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    cut = bytes(whole[: data.draw(st.integers(0, len(whole)))] if data.draw(st.booleans()) else whole)
    with collecting():
        try:
            assert np.isfinite(read_bytes("a.glb", cut or b"x").positions).all()
        except FormatError:
            pass
