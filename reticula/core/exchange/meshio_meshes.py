"""Geometries as meshes of meshio: faces of any size, curves as lines, values of points, faces and curves."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, starts_from_sizes
from reticula.core.diagnostics import note
from reticula.core.exchange.shared import library, plain_values, say_lost, with_values
from reticula.core.geometry import Geo, Topology
from reticula.core.geometry.edit.instances import flatten
from reticula.core.geometry.edit.placement import to_world

__all__ = ["from_meshio", "to_meshio"]

SIDES = {3: "triangle", 4: "quad"}


def to_meshio(geo: Geo) -> Any:
    """Return a ``meshio.Mesh`` of a geometry in the world; see :meth:`Geo.to_meshio`."""
    meshio = library("meshio")
    geo = flatten(to_world(geo))
    shape = geo.topology
    lost = [f"{kind} {name}" for kind in ("edge", "corner", "whole") for name in geo.attributes[kind]]
    points = {name: _stored(values) for name, values in plain_values(geo, "point", lost).items()}
    values = plain_values(geo, "face", lost)
    lost += [f"curve {name}" for name in geo.attributes["curve"]]
    cells, chosen = [], []
    sizes = np.diff(shape.face_start)
    for size in np.unique(sizes).tolist():
        some = np.flatnonzero(sizes == size)
        rows = shape.corner_point[shape.face_start[some][:, None] + np.arange(size)]
        cells.append((SIDES.get(size, "polygon"), rows))
        chosen.append(some)
    lines = shape.curve_segments[0] if shape.curve_count else np.zeros((0, 2), np.int32)
    data = {name: [_stored(found[some]) for some in chosen] for name, found in values.items()}
    if len(lines):
        cells.append(("line", lines))
        data = {
            name: [*blocks, np.zeros((len(lines), *blocks[0].shape[1:]), blocks[0].dtype)]
            for name, blocks in data.items()
        }
    say_lost("meshio has no place for", lost)
    return meshio.Mesh(np.array(geo.positions), cells, point_data=points, cell_data=data)


def _stored(values: AnyArray) -> AnyArray:
    """Return values as meshio's writers take them: truth as bytes, matrices as rows."""
    made = values.astype(np.uint8) if values.dtype.kind == "b" else values
    return made.reshape(len(made), -1) if made.ndim > 2 else made


def from_meshio(mesh: Any) -> Geo:
    """Return a geometry of a ``meshio.Mesh``; see :meth:`Geo.from_meshio`."""
    places = np.zeros((len(mesh.points), 3))
    places[:, : mesh.points.shape[1]] = mesh.points
    faces: list[AnyArray] = []
    lines: list[AnyArray] = []
    kept: list[int] = []
    passed = []
    for number, block in enumerate(mesh.cells):
        if block.type in ("triangle", "quad", "polygon"):
            faces.append(np.asarray(block.data, np.int64))
            kept.append(number)
        elif block.type == "line":
            lines.append(np.asarray(block.data, np.int64))
        elif block.type != "vertex":
            passed.append(f"{len(block.data):,} {block.type}")
    sizes = np.concatenate([np.full(len(rows), rows.shape[1]) for rows in faces] or [np.zeros(0, np.int64)])
    corner = np.concatenate([rows.reshape(-1) for rows in faces] or [np.zeros(0, np.int64)])
    segments = np.concatenate(lines or [np.zeros((0, 2), np.int64)])
    topology = Topology(
        len(places), starts_from_sizes(sizes), corner, np.arange(len(segments) + 1) * 2, segments.reshape(-1)
    )
    geo = with_values(Geo.of(places, topology), "point", mesh.point_data)
    values = {
        name: np.concatenate([np.asarray(blocks[i]) for i in kept]) for name, blocks in mesh.cell_data.items() if kept
    }
    if passed:
        note(f"Left out: {', '.join(passed)}; only faces, lines and points are taken.")
    return with_values(geo, "face", values)
