"""Shapes from outside: files and the project's own shapes."""

from __future__ import annotations

from reticula.core.diagnostics import note
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Handle, Number, Shape, Vector
from reticula.core.operators.shared.resources import resources
from reticula.core.operators.spaces.set_place import set_place
from reticula.core.operators.spaces.transform import transform

__all__ = ["project_shape", "read_file"]


ERROR = Number(
    "error",
    0.0,
    "how far lines may be from the bows of a drawing; 0 is a thousandth of its size",
    unit="m",
    soft=(0, 0.01),
    low=0.0,
)
IN_SECTIONS = {"drawings": ["error"]}


def _load(parameter: str, name: str, what: str, error: float) -> Geo:
    if not name.strip():
        raise ParameterError(parameter, f"choose a {what}")
    return resources().load(name, error=error)


@operator(
    "read_file",
    family="sources",
    inputs=(),
    keywords=("open", "load", "import", "mesh", "scan", "obj", "ply", "stl"),
    carries="makes whatever attributes the file holds; see the reference of formats",
    example="""
        read_file(file="survey_scan.ply")
    """,
    related=("project_shape", "read_picture", "transform"),
    parameters=(
        Shape("file", "", "mesh, scan, drawing or table; see the reference of formats"),
        Choice("up", "y", "axis that points up in the file", options={"y": "as here", "z": "turned to y"}),
        Number("scale", 1.0, "metres per unit of the file, e.g. 0.001 for millimetres", soft=(0.001, 10), low=1e-12),
        ERROR,
    ),
    sections=IN_SECTIONS,
)
def read_file(*, file: str, up: str, scale: float, error: float) -> Geo:
    """Mesh from a file, turned and scaled to metres with y up."""
    geo = _load("file", file, "file", error)
    note(repr(geo)[5:-1])
    if up == "y" and scale == 1.0:
        return geo
    import numpy as np

    every = np.ones(geo.topology.point_count, bool)
    turn = [-90.0 if up == "z" else 0.0, 0.0, 0.0]
    return transform(geo, where=every, move=[0.0] * 3, turn=turn, scale=[scale] * 3, around=[0.0] * 3)


@operator(
    "project_shape",
    family="sources",
    inputs=(),
    keywords=("mesh", "scan", "asset", "stored", "upload", "input"),
    carries="makes whatever attributes the shape holds, and with a place the attribute 'place' of the whole",
    example="""
        scan = project_shape(shape="survey_scan")
        remap(scan, value="position.y", name="color", through="gradient")
    """,
    related=("read_file", "read_picture", "set_place"),
    parameters=(
        Shape("shape", "", "shape of this project, or a name given with --in"),
        Vector(
            "stands_at",
            [0.0, 0.0, 0.0],
            "where its origin stands in the world; its points keep their numbers",
            unit="m",
            soft=(-5, 5),
            handle=Handle("place", space="world"),
        ),
        Vector(
            "turned",
            [0.0, 0.0, 0.0],
            "angles about x, then y, then z",
            unit="°",
            soft=(-180, 180),
            step=1,
            handle=Handle("turn", ("stands_at",), "world"),
        ),
        Number("scaled", 1.0, "size in the world", soft=(0.01, 10), low=1e-9),
        ERROR,
    ),
    sections=IN_SECTIONS,
)
def project_shape(*, shape: str, stands_at: list[float], turned: list[float], scaled: float, error: float) -> Geo:
    """Shape that is stored with the project, as it is, standing at a place of its own.

    Other shapes see it at its place: in nearness, rays, transfers and joins. Apply place makes the place part of its
    points.
    """
    geo = _load("shape", shape, "shape of the project", error)
    if not any((*stands_at, *turned)) and scaled == 1.0:
        return geo
    return set_place(geo, move=stands_at, turn=turned, scale=[scaled] * 3, combine="add")
