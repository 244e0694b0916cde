"""Two results held against each other: counts, attributes, and how far the surface of one is from that of the other."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.contract.answers import AttributeChange, DifferenceLook
from reticula.core.arrays import as_rows
from reticula.core.geometry import KINDS, Geo
from reticula.core.geometry.edit.placement import to_world
from reticula.core.reports.summary import element_counts
from reticula.core.spatial import points_of, surface_of
from reticula.workers.buffers import BufferFiles

__all__ = ["difference"]

SAME = 1e-9


def difference(geo: Geo, other: Geo, buffers: BufferFiles) -> DifferenceLook:
    """Return what differs in ``geo`` from ``other``, with the distance in m of each point to the other one as a
    buffer.
    """
    ours, theirs = element_counts(geo, edges=True), element_counts(other, edges=True)
    attributes: list[AttributeChange] = []
    for kind in KINDS:
        for name in sorted({*geo.attributes[kind], *other.attributes[kind]}):
            a, b = geo.attributes[kind].get(name), other.attributes[kind].get(name)
            if a is None or b is None:
                attributes.append({"kind": kind, "name": name, "what": "new" if b is None else "gone"})
            elif a.type != b.type:
                attributes.append({"kind": kind, "name": name, "what": f"{b.type} before, {a.type} now"})
            elif a is not b and len(a) == len(b) and a.start is None and b.start is None:
                changed = int(as_rows(a.values != b.values).any(axis=1).sum())
                if changed:
                    attributes.append({"kind": kind, "name": name, "what": f"{changed:,} of {len(a):,} changed"})
    far = _distances(to_world(geo), to_world(other))
    return {
        "what": "difference",
        "counts": {kind: (count, count - theirs[kind]) for kind, count in ours.items() if count or theirs[kind]},
        "attributes": attributes,
        "moved": int((far > SAME).sum()),
        "farthest": float(far.max(initial=0.0)),
        "distance": buffers.keep(far.astype("<f4")),
    }


def _distances(geo: Geo, other: Geo) -> np.ndarray[Any, Any]:
    if not geo.topology.point_count or not other.topology.point_count:
        return np.zeros(geo.topology.point_count)
    if other.topology.face_count:
        return np.asarray(surface_of(other).closest(geo.positions).distance)
    return np.asarray(points_of(other).nearest(geo.positions)[1])
