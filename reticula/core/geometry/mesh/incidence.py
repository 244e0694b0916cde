"""Which elements of one kind belong to those of another, and values moved along that."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, as_readonly, ragged_index
from reticula.core.errors import GeometryError
from reticula.core.geometry.mesh.adjacency import group_by
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.attribute_types import list_type
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.words import with_article

__all__ = ["convert_attribute", "convert_flags", "incident", "ragged_reduce"]

REDUCERS = {
    "sum": np.add,
    "mean": np.add,
    "min": np.minimum,
    "max": np.maximum,
    "any": np.logical_or,
    "all": np.logical_and,
}


def incident(geo: Geo, kind: Kind, to: Kind) -> tuple[AnyArray, AnyArray]:
    """Return the elements of ``kind`` that belong to each element of ``to``: starts ``(N+1,)`` and numbers.

    A point has the faces, corners, edges and curves that use it; a face its points, corners and edges; an edge its
    ends, faces and the corners that begin it; a corner its point, face and edge; the whole has everything. Curves meet
    faces and edges through their points. Raises GeometryError for instances, which belong to the whole only.
    """
    shape = geo.topology
    many = np.arange(max(shape.count(to), shape.count(kind)) + 1, dtype=np.int64)
    count = shape.count(to)
    if kind == to:
        return many[: count + 1], many[:count]
    if to == "whole":
        return np.array([0, shape.count(kind)]), many[: shape.count(kind)]
    if kind == "whole":
        return many[: count + 1], np.zeros(count, np.int64)
    match kind, to:
        case "corner", "point":
            return shape.point_corners
        case "face", "point":
            return shape.point_corners[0], shape.corner_face[shape.point_corners[1]]
        case "edge", "point":
            return shape.point_edges
        case "curve", "point":
            start, at = group_by(shape.curve_point, shape.point_count)
            return start, np.repeat(np.arange(shape.curve_count), np.diff(shape.curve_start))[at]
        case "point", "corner":
            return many[: count + 1], shape.corner_point
        case "face", "corner":
            return many[: count + 1], shape.corner_face
        case "edge", "corner":
            return many[: count + 1], shape.corner_edge
        case "point", "face":
            return shape.face_start, shape.corner_point
        case "corner", "face":
            return shape.face_start, np.arange(shape.corner_count)
        case "edge", "face":
            return shape.face_start, shape.corner_edge
        case "point", "edge":
            return many[: count + 1] * 2, shape.edges.reshape(-1)
        case "corner", "edge":
            return shape.edge_corners
        case "face", "edge":
            return shape.edge_corners[0], shape.corner_face[shape.edge_corners[1]]
        case "point", "curve":
            return shape.curve_start, shape.curve_point
    if "instance" in (kind, to):
        raise GeometryError(
            "instances share nothing with points, edges and faces; flatten them first, or use the whole"
        )
    first_start, points = incident(geo, "point", to)
    start, items = incident(geo, kind, "point")
    flat, chain = ragged_index(start, points)
    return chain[first_start], items[flat]


def ragged_reduce(how: str, start: AnyArray, values: AnyArray) -> AnyArray:
    """Return the sum, mean, min, max, any or all of each row of a ragged array: ``start (N+1,)``, ``values (M, ...)``.

    An empty row gives 0, no, or for ``all`` yes.
    """
    sizes = np.diff(start)
    filled = sizes > 0
    dtype = np.int64 if values.dtype.kind == "i" and how == "sum" else values.dtype
    out = np.zeros((len(sizes), *values.shape[1:]), dtype)
    if how == "all":
        out[...] = True
    if filled.any():
        out[filled] = REDUCERS[how].reduceat(values, start[:-1][filled], axis=0)
    if how == "mean":
        return out / np.maximum(sizes, 1).reshape(-1, *([1] * (values.ndim - 1)))
    return out


def convert_flags(geo: Geo, kind: Kind, to: Kind, members: Flags, how: str) -> Flags:
    """Return which elements of ``to`` have any or all of what belongs to them marked; those that have nothing are
    not.
    """
    start, index = incident(geo, kind, to)
    return np.asarray(ragged_reduce(how, start, members[index])) & (np.diff(start) > 0)


def convert_attribute(geo: Geo, kind: Kind, to: Kind, attribute: Attribute, how: str) -> Attribute:
    """Return an attribute of ``kind`` as one of ``to``.

    ``how`` is mean, sum, min, max, first, mode (the most frequent value; of equally frequent ones the first), any, all
    or list. Elements to which nothing belongs get the attribute's default. Raises GeometryError if the type cannot.
    """
    start, index = incident(geo, kind, to)
    values, sizes = attribute.values, np.diff(start)
    if attribute.start is not None and how != "first":
        raise GeometryError(f"{with_article(attribute.type)} can be moved by 'first' only, not by '{how}'")
    if how == "first":
        chosen = np.where(sizes > 0, index[np.minimum(start[:-1], max(len(index) - 1, 0))] if len(index) else -1, -1)
        return attribute.take(chosen)
    if how == "list":
        listed = list_type(attribute.type)
        if listed is None:
            raise GeometryError(f"lists hold numbers, integers or text, not {with_article(attribute.type)}")
        return Attribute(listed.name, as_readonly(values[index]), as_readonly(start.astype(np.int32)))
    if how == "mode":
        return attribute.take(_most_frequent(start, index, values))
    flags = attribute.values.dtype == bool
    if how in ("any", "all") and not flags:
        raise GeometryError(f"'{how}' takes flags, not {with_article(attribute.type)}; use mean, or make a group first")
    if attribute.values.dtype.kind == "U" or (flags and how in ("min", "max")):
        raise GeometryError(f"'{how}' cannot be taken of {with_article(attribute.type)}; use first, mode or list")
    rows = values[index].astype(np.float64) if how == "mean" else values[index]
    if flags and how == "sum":
        rows = rows.astype(np.int64)
    made = ragged_reduce(how, start, rows)
    if (sizes == 0).any() and how not in ("any", "all"):
        made[sizes == 0] = attribute.fill
    default = attribute.default if made.dtype == values.dtype else None
    kept = Attribute.of(made)
    return Attribute(kept.type, kept.values, None, default)


def _most_frequent(start: AnyArray, index: AnyArray, values: AnyArray) -> AnyArray:
    """The element with the most frequent value of each row, -1 for an empty one."""
    sizes = np.diff(start)
    out = np.full(len(sizes), -1, np.int64)
    if not len(index):
        return out
    _, code = np.unique(values, axis=0, return_inverse=True)
    code = code.reshape(-1)[index]
    owner = np.repeat(np.arange(len(sizes)), sizes)
    order = np.lexsort((np.arange(len(index)), code, owner))
    new = np.ones(len(order), bool)
    new[1:] = (owner[order][1:] != owner[order][:-1]) | (code[order][1:] != code[order][:-1])
    head = np.flatnonzero(new)
    length = np.diff(np.append(head, len(order)))
    first = order[head]
    best = np.lexsort((first, -length, owner[first]))
    row = owner[first][best]
    top = np.ones(len(row), bool)
    top[1:] = row[1:] != row[:-1]
    out[row[top]] = index[first[best[top]]]
    return out
