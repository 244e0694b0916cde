"""Geometries as surfaces of VTK, which PyVista takes as they are: polygons, lines, points and their values."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.diagnostics import note
from reticula.core.exchange.shared import library, plain_values, say_lost, with_values
from reticula.core.geometry import Geo, Topology
from reticula.core.geometry.edit.instances import flatten
from reticula.core.geometry.edit.placement import to_world

__all__ = ["from_vtk", "to_vtk"]


def to_vtk(geo: Geo) -> Any:
    """Return a ``vtkPolyData`` of a geometry in the world; see :meth:`Geo.to_vtk`."""
    data, core = library("vtkmodules.vtkCommonDataModel"), library("vtkmodules.vtkCommonCore")
    to_array = library("vtkmodules.util.numpy_support").numpy_to_vtk
    geo = flatten(to_world(geo))
    shape = geo.topology
    made = data.vtkPolyData()
    points = core.vtkPoints()
    points.SetData(to_array(np.ascontiguousarray(geo.positions), deep=True))
    made.SetPoints(points)
    loose = np.flatnonzero(~shape.used_points)
    start, along = shape.curve_start.astype(np.int64), shape.curve_point.astype(np.int64)
    runs = [
        np.append(along[a:b], along[a : a + 1] if shut else [])
        for a, b, shut in zip(start[:-1], start[1:], shape.curve_closed, strict=True)
    ]
    lines = (np.cumsum([0, *map(len, runs)]), np.concatenate(runs) if runs else np.zeros(0))
    made.SetVerts(_cells(np.arange(len(loose) + 1), loose))
    made.SetLines(_cells(*lines))
    made.SetPolys(_cells(shape.face_start, shape.corner_point))
    lost = [f"{kind} {name}" for kind in ("edge", "corner") for name in geo.attributes[kind]]
    for name, values in plain_values(geo, "point", lost).items():
        made.GetPointData().AddArray(_array(name, values))
    counts = (len(loose), shape.curve_count, shape.face_count)
    named: tuple[dict[str, AnyArray], ...] = ({}, plain_values(geo, "curve", lost), plain_values(geo, "face", lost))
    for name in dict.fromkeys(name for some in named for name in some):
        given = [some[name] for some in named if name in some]
        parts = [
            some[name] if name in some and some[name].shape[1:] == given[-1].shape[1:] else _zeros(count, given[-1])
            for some, count in zip(named, counts, strict=True)
        ]
        made.GetCellData().AddArray(_array(name, np.concatenate(parts)))
    for name, values in plain_values(geo, "whole", lost).items():
        made.GetFieldData().AddArray(_array(name, values))
    say_lost("VTK has no place for", lost)
    return made


def _zeros(count: int, like: AnyArray) -> AnyArray:
    return np.zeros((count, *like.shape[1:]), like.dtype)


def _cells(start: AnyArray, used: AnyArray) -> Any:
    to_ids = library("vtkmodules.util.numpy_support").numpy_to_vtkIdTypeArray
    made = library("vtkmodules.vtkCommonDataModel").vtkCellArray()
    made.SetData(
        to_ids(np.ascontiguousarray(start, np.int64), deep=True),
        to_ids(np.ascontiguousarray(used, np.int64), deep=True),
    )
    return made


def _array(name: str, values: AnyArray) -> Any:
    if values.dtype.kind == "U":
        made = library("vtkmodules.vtkCommonCore").vtkStringArray()
        for text in values.tolist():
            made.InsertNextValue(text)
    else:
        flat = values.astype(np.uint8) if values.dtype.kind == "b" else values
        flat = np.ascontiguousarray(flat.reshape(len(flat), -1) if flat.ndim > 2 else flat)
        made = library("vtkmodules.util.numpy_support").numpy_to_vtk(flat, deep=True)
    made.SetName(name)
    return made


def from_vtk(surface: Any) -> Geo:
    """Return a geometry of a ``vtkPolyData`` or a ``pyvista.PolyData``; see :meth:`Geo.from_vtk`."""
    to_numpy = library("vtkmodules.util.numpy_support").vtk_to_numpy
    points = surface.GetPoints()
    places = np.zeros((0, 3)) if points is None else to_numpy(points.GetData()).astype(np.float64)
    face_start, corner = _rows(surface.GetPolys())
    curve_start, along = _rows(surface.GetLines())
    closed = np.zeros(len(curve_start) - 1, bool)
    if len(closed):
        first, last = curve_start[:-1], curve_start[1:] - 1
        closed = (along[first] == along[last]) & (last - first > 2)
        keep = np.ones(len(along), bool)
        keep[last[closed]] = False
        sizes = np.diff(curve_start) - closed
        along, curve_start = along[keep], np.concatenate([[0], np.cumsum(sizes)])
    if surface.GetNumberOfStrips():
        note("Strips of triangles were left out; vtkTriangleFilter makes triangles of them.")
    geo = Geo.of(places, Topology(len(places), face_start, corner, curve_start, along, closed))
    geo = with_values(geo, "point", _named(surface.GetPointData()))
    before = surface.GetNumberOfVerts()
    cells = _named(surface.GetCellData())
    curves, faces = len(closed), len(face_start) - 1
    geo = with_values(
        geo, "face", {name: values[before + curves : before + curves + faces] for name, values in cells.items()}
    )
    if curves:
        geo = with_values(geo, "curve", {name: values[before : before + curves] for name, values in cells.items()})
    return geo


def _rows(cells: Any) -> tuple[AnyArray, AnyArray]:
    to_numpy = library("vtkmodules.util.numpy_support").vtk_to_numpy
    if cells is None or not cells.GetNumberOfCells():
        return np.zeros(1, np.int64), np.zeros(0, np.int64)
    return to_numpy(cells.GetOffsetsArray()).astype(np.int64), to_numpy(cells.GetConnectivityArray()).astype(np.int64)


def _named(data: Any) -> dict[str, AnyArray]:
    to_numpy = library("vtkmodules.util.numpy_support").vtk_to_numpy
    found = {}
    for number in range(data.GetNumberOfArrays()):
        array = data.GetAbstractArray(number)
        name = array.GetName() or f"value_{number + 1}"
        if array.IsA("vtkStringArray"):
            found[name] = np.array([array.GetValue(i) for i in range(array.GetNumberOfValues())], np.str_)
        else:
            found[name] = to_numpy(array)
    return found
