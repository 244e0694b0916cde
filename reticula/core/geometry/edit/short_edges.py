"""Edges too short to matter are drawn together to one point."""

from __future__ import annotations

import numpy as np
import scipy

from reticula.core.arrays import Flags, Indices
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.edit.weld import weld_points
from reticula.core.geometry.mesh.geo import Geo

__all__ = ["without_short_edges"]


def without_short_edges(geo: Geo, fixed: Flags, radius: float) -> Geo:
    """Return the mesh with edges shorter than ``radius`` m drawn together; faces that have no area then go.

    Points that are ``fixed (P,)`` stay where they are, and no two of them become one: where a chain of short edges
    joins several, it is left as it is. Elsewhere the fixed point of a chain is kept, or its first one.
    """
    leader = _leaders(geo, fixed, radius)
    if (leader == np.arange(len(leader))).all():
        return geo
    made = weld_points(geo, leader, average=False)
    if made.topology.used_points.all():
        return made
    return subset(made, np.ones(made.topology.face_count, bool), loose=False)


def _leaders(geo: Geo, fixed: Flags, radius: float) -> Indices:
    count = geo.topology.point_count
    a, b = geo.topology.edges.T
    short = np.linalg.norm(geo.positions[a] - geo.positions[b], axis=1) < radius
    short &= ~(fixed[a] & fixed[b])
    joined = scipy.sparse.coo_array((np.ones(int(short.sum()), np.int8), (a[short], b[short])), shape=(count, count))
    chains, chain = scipy.sparse.csgraph.connected_components(joined, directed=False)
    leader = np.arange(count, dtype=np.int32)
    first = np.full(chains, -1, np.int32)
    first[chain[::-1]] = leader[::-1]
    first[chain[fixed]] = leader[fixed]
    several = np.bincount(chain[fixed], minlength=chains) > 1
    return np.where(several[chain], leader, first[chain]).astype(np.int32)
