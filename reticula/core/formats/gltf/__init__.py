"""glTF 2.0, as one file of bytes (GLB) or of text (glTF): what pages, viewers and renderers read.

After the Khronos Group, "glTF 2.0 Specification" (ISO/IEC 12113:2022), and the extension EXT_mesh_gpu_instancing.
``container`` knows the file, ``accessors`` its arrays, ``reading`` and ``writing`` what stands in them.
"""

from __future__ import annotations

from functools import partial

from reticula.core.formats.format import Format
from reticula.core.formats.gltf.frames import write_frames
from reticula.core.formats.gltf.reading import read
from reticula.core.formats.gltf.writing import write

__all__ = ["FORMATS", "read", "write"]

KEEPS = "faces, curves, points, instances and their values; all the rest in a part of our own"
OPTIONS = {"values": ("all", "plain"), "instances": ("nodes", "arrays")}
ABOUT = {
    "values": "all: what only we read stands beside the mesh, so that nothing is lost; plain: a smaller file",
    "instances": "nodes: every viewer shows them, with all their values; arrays: smaller where there are thousands",
}

FORMATS = tuple(
    Format(
        ending,
        name,
        read,
        partial(write, text=text),
        KEEPS,
        OPTIONS,
        ABOUT,
        instances=True,
        parts=True,
        frames=partial(write_frames, text=text),
    )
    for ending, name, text in (("glb", "GLB", False), ("gltf", "glTF", True))
)
