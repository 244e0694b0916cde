"""A shape that moves, in one glTF: morph targets, their times, and what cannot move so."""

from __future__ import annotations

import json

import numpy as np
import pytest
import trimesh

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats import FORMATS, read_bytes
from reticula.core.formats.gltf.frames import write_frames


def waves(count: int) -> list[tuple[float, Geo]]:
    sheet = ops.join(ops.grid(cells=(4, 3)), ops.circle(segments=6))
    lift = [ops.transform(sheet, move=(0, 0.1 * k, 0)) for k in range(count)]
    return [(float(10 + 2 * k), geo) for k, geo in enumerate(lift)]


def told_by(data: bytes) -> dict[str, object]:
    made: dict[str, object] = json.loads(data)
    return made


def accessor(told: dict[str, object], number: int) -> np.ndarray:
    """Return an accessor of a glTF with its buffer inside, by the rules of the specification."""
    import base64

    entry = told["accessors"][number]  # type: ignore[index]
    view = told["bufferViews"][entry["bufferView"]]  # type: ignore[index]
    raw = base64.b64decode(told["buffers"][0]["uri"].partition(",")[2])  # type: ignore[index]
    width = {"SCALAR": 1, "VEC3": 3}[entry["type"]]
    found = np.frombuffer(raw, "<f4", entry["count"] * width, view.get("byteOffset", 0))
    return found.reshape(-1, width)


def test_each_frame_is_a_target_at_its_time() -> None:
    frames = waves(3)
    told = told_by(write_frames(frames, 24.0, text=True))
    mesh = told["meshes"][0]  # type: ignore[index]
    assert [len(one["targets"]) for one in mesh["primitives"]] == [2, 2]
    assert mesh["extras"]["targetNames"] == ["12", "14"]
    shift = accessor(told, mesh["primitives"][0]["targets"][1]["POSITION"])
    assert np.allclose(shift, [0, 0.2, 0])
    sampler = told["animations"][0]["samplers"][0]  # type: ignore[index]
    assert accessor(told, sampler["input"]).reshape(-1) == pytest.approx([0, 2 / 24, 4 / 24])
    assert accessor(told, sampler["output"]).reshape(3, 2).tolist() == [[0, 0], [1, 0], [0, 1]]


def test_what_is_read_again_is_the_first_frame() -> None:
    frames = waves(2)
    made = FORMATS["glb"].frames
    assert made is not None
    data = made(frames, 24.0)
    assert read_bytes("a.glb", data).digest == frames[0][1].digest
    assert trimesh.load(trimesh.util.wrap_as_stream(data), file_type="glb") is not None


def test_one_frame_is_a_plain_mesh() -> None:
    assert "animations" not in told_by(write_frames(waves(1), 24.0, text=True))


def test_other_elements_are_refused_and_other_values_said(notes: list[Note]) -> None:
    box = ops.box()
    with pytest.raises(FormatError, match="frames 1 and 2 are made of different elements"):
        write_frames([(1.0, box), (2.0, ops.split_faces(box))], 24.0, text=False)
    with pytest.raises(FormatError, match="no frames"):
        write_frames([], 24.0, text=False)
    with pytest.raises(FormatError, match="nothing in the first"):
        write_frames([(1.0, Geo.empty())], 24.0, text=False)
    hot = [box.with_attribute("face", "heat", np.full(6, k)) for k in (1.0, 2.0)]
    write_frames([(1.0, hot[0]), (2.0, hot[1])], 24.0, text=False)
    assert notes[-1].text.endswith("those of the first one: heat.")
