"""Wavefront OBJ: polygons, uv, normals, face groups, materials, polylines, and colours after the place of a vertex.

After "Object Files (.obj)", appendix B1 of the Advanced Visualizer manual, and its ".mtl" of materials. The colour
extension (``v x y z r g b`` and ``a``) is common practice; its values, like those of materials, are taken as linear.
"""

from reticula.core.formats.format import Format
from reticula.core.formats.obj.reading import read
from reticula.core.formats.obj.writing import write

__all__ = ["FORMAT"]

FORMAT = Format(
    "obj", "OBJ", read, write, "faces, curves, uv, normals, point colours, face groups, names of materials", parts=True
)
