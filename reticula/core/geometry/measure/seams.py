"""Seams: edges across which the values of corners do not go on, and the charts of faces between them."""

from __future__ import annotations

import numpy as np
import scipy

from reticula.core.arrays import AnyArray, Flags, Ints, as_rows, ragged_index
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.geo import Geo

__all__ = ["charts", "corner_seams", "equal_values", "joined_elements"]


def equal_values(attribute: Attribute, a: AnyArray, b: AnyArray) -> Flags:
    """Return whether the values of elements ``a (N,)`` and ``b (N,)`` are the same ``(N,)``."""
    if attribute.start is None:
        same = as_rows(np.asarray(attribute.values[a] == attribute.values[b]))
        return np.asarray(same.all(axis=1))
    sizes = np.diff(attribute.start)
    out = sizes[a] == sizes[b]
    rows = np.flatnonzero(out & (sizes[a] > 0))
    if len(rows):
        first, start = ragged_index(attribute.start, a[rows])
        second, _ = ragged_index(attribute.start, b[rows])
        out[rows] = np.logical_and.reduceat(attribute.values[first] == attribute.values[second], start[:-1])
    return out


def corner_seams(geo: Geo) -> Flags:
    """Return the edges between two faces at whose ends any value of corners differs from one side to the other
    ``(E,)``.
    """
    shape = geo.topology
    out = np.zeros(shape.edge_count, bool)
    corner = np.flatnonzero(shape.corner_across >= 0)
    across = shape.corner_across[corner]
    edge = shape.corner_edge[corner]
    for attribute in geo.attributes["corner"].values():
        out[edge[~equal_values(attribute, corner, shape.corner_next[across])]] = True
        out[edge[~equal_values(attribute, shape.corner_next[corner], across)]] = True
    return out


def joined_elements(count: int, first: AnyArray, second: AnyArray) -> Ints:
    """Return for each of ``count`` elements the lowest one with which it hangs together through pairs ``first (N,)``,
    ``second (N,)``.
    """
    graph = scipy.sparse.coo_matrix((np.ones(len(first), bool), (first, second)), shape=(count, count))
    label = scipy.sparse.csgraph.connected_components(graph, directed=False)[1]
    lowest = np.full(int(label.max(initial=-1)) + 1, count)
    np.minimum.at(lowest, label, np.arange(count))
    return lowest[label]


def charts(geo: Geo, seams: Flags) -> Ints:
    """Return a number for each face ``(F,)``: faces that hang together across edges that are no seam have the same."""
    shape = geo.topology
    corner = np.flatnonzero((shape.corner_across >= 0) & ~seams[shape.corner_edge])
    joined = joined_elements(
        shape.face_count, shape.corner_face[corner], shape.corner_face[shape.corner_across[corner]]
    )
    return np.unique(joined, return_inverse=True)[1].reshape(-1)
