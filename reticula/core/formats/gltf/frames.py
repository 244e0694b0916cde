"""Frames of one topology as a mesh with morph targets: how far each point is from the first frame, and when.

After glTF 2.0, "3.7.2.2. Morph Targets" and "3.11. Animations": the weights of an animation go from one frame to the
next on straight lines.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np

from reticula.core.diagnostics import note
from reticula.core.errors import FormatError
from reticula.core.formats.gltf.accessors import Arrays
from reticula.core.formats.gltf.vertices import blocks_of
from reticula.core.formats.gltf.writing import document_of, mesh_of_blocks, packed
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.instances import flatten
from reticula.core.geometry.edit.placement import to_world

__all__ = ["write_frames"]

MOST_NUMBERS = 500_000_000
"""Moved vertices of all frames times three."""


def write_frames(frames: Iterable[tuple[float, Geo]], per_second: float, *, text: bool) -> bytes:
    """Return a GLB, or with ``text`` a glTF, whose shape moves; values are those of the first frame.

    Raises FormatError for frames of different topology, which glTF cannot hold.
    """
    listed = [(frame, flatten(to_world(geo))) for frame, geo in frames]
    if not listed:
        raise FormatError("there are no frames to write")
    first_frame, first = listed[0]
    blocks = blocks_of(first)
    if not blocks:
        raise FormatError("there is nothing in the first frame")
    vertices = sum(len(block.places) for block in blocks)
    if 3 * vertices * len(listed) > MOST_NUMBERS:
        raise FormatError(f"{len(listed):,} frames of {vertices:,} vertices are too many for one glTF; write USD")
    arrays = Arrays()
    mesh = mesh_of_blocks(arrays, first, blocks, "all")
    for frame, geo in listed[1:]:
        _check_alike(first_frame, first, frame, geo)
        for primitive, block in zip(mesh["primitives"], blocks, strict=True):
            shift = (geo.positions[block.point] - block.places).astype(np.float32)
            primitive.setdefault("targets", []).append({"POSITION": arrays.add(shift, bounds=True)})
    node: dict[str, Any] = {"mesh": 0, "name": "shape"}
    told = document_of([node], [mesh])
    if len(listed) > 1:
        mesh["weights"] = [0.0] * (len(listed) - 1)
        mesh.setdefault("extras", {})["targetNames"] = [f"{frame:g}" for frame, _ in listed[1:]]
        told["animations"] = [_animation(arrays, [frame for frame, _ in listed], per_second)]
    _say_what_changes([geo for _, geo in listed])
    return packed(told, arrays, text=text)


def _animation(arrays: Arrays, frames: list[float], per_second: float) -> dict[str, Any]:
    times = ((np.array(frames) - frames[0]) / per_second).astype(np.float32)
    weights = np.eye(len(frames), dtype=np.float32)[:, 1:]
    return {
        "name": "frames",
        "samplers": [
            {
                "input": arrays.add(times, None, bounds=True),
                "output": arrays.add(weights.reshape(-1), None),
                "interpolation": "LINEAR",
            }
        ],
        "channels": [{"sampler": 0, "target": {"node": 0, "path": "weights"}}],
    }


def _check_alike(first_frame: float, first: Geo, frame: float, geo: Geo) -> None:
    ours, theirs = first.topology, geo.topology
    if ours is theirs:
        return
    for name in ("face_start", "corner_point", "curve_start", "curve_point", "curve_closed"):
        if ours.point_count != theirs.point_count or not np.array_equal(getattr(ours, name), getattr(theirs, name)):
            raise FormatError(
                f"frames {first_frame:g} and {frame:g} are made of different elements; glTF holds frames that only "
                "move. Write USD, or a file for each frame"
            )


def _say_what_changes(frames: list[Geo]) -> None:
    changed = {
        name
        for geo in frames[1:]
        for kind, named in geo.attributes.items()
        for name, found in named.items()
        if name != "position" and not _same(frames[0].attributes[kind].get(name), found)
    }
    if changed:
        note(f"Values that change from frame to frame are those of the first one: {', '.join(sorted(changed))}.")


def _same(ours: Any, theirs: Any) -> bool:
    return ours is theirs or (
        ours is not None
        and ours.type == theirs.type
        and np.array_equal(ours.values, theirs.values, equal_nan=ours.values.dtype.kind == "f")
    )
