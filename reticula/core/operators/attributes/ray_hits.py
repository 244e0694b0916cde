"""Ray hits: a point at every place that rays hit."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.geometry import Geo, Kind
from reticula.core.operators.attributes.raycast import LIMITS, RAYS, read_names, tell_of_hits
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Choice, Space, Text
from reticula.core.operators.shared.new_points import beside_whole, tell_left_behind
from reticula.core.spatial.sampling import sample_hits

__all__ = ["ray_hits"]


@operator(
    "ray_hits",
    family="attributes",
    inputs=(Input("geo", "geometry whose elements send the rays"), Input("target", "mesh that the rays may hit")),
    keywords=("ray", "shoot", "project", "intersection", "points", "all hits"),
    brings={"points in one place": None},
    sections={
        "rays": ("ways", "limit_reach", "reach", "offset"),
        "what is kept": ("read",),
        "space": ("space",),
    },
    carries="Makes points with sender, number, distance, normal, face and the attributes that are read; "
    "carries only the values of the whole of the first input.",
    example="""
        stone = torus(radius=0.4, thickness=0.18)
        above = transform(grid(size=[1.2, 1.2], cells=[24, 24]), move=[0, 0.6, 0])
        hits = ray_hits(above, stone)
        join(hits, stone)
    """,
    related=("raycast", "drape", "scatter"),
    parameters=(
        *RAYS,
        Choice(
            "ways",
            "forwards",
            "along the direction only, or against it too",
            options={
                "forwards": "along the direction",
                "both": "both ways",
            },
        ),
        *LIMITS,
        Text("read", "", "attributes of what was hit, with spaces between; * for all", most=500),
        Space.choice(),
    ),
)
def ray_hits(
    geo: Geo,
    target: Geo,
    *,
    kind: str,
    where: Flags,
    origin: Floats,
    direction: Floats,
    ways: str,
    limit_reach: bool,
    reach: float,
    offset: float,
    read: str,
    space: str,
) -> Geo:
    """Send a ray from each element and make a point at every place that it hits, nearest first.

    ``sender`` is the number of the element that sent the ray, ``number`` counts its hits from 0, ``distance`` is in m,
    ``normal`` and ``face`` are those of the target.
    """
    chosen = np.flatnonzero(where)
    o, d = origin[chosen], direction[chosen]
    start, found = sample_hits(target, o, d, reach if limit_reach else np.inf, offset, both=ways == "both")
    sizes = np.diff(start)
    tell_of_hits(len(chosen), int((sizes > 0).sum()), bool((d == 0).all(axis=1).any()), cast(Kind, kind))
    made = Geo.of(found.position)
    values = {
        "normal": found.normal,
        "distance": found.distance,
        "face": found.face.astype(np.int64),
        "sender": np.repeat(chosen, sizes),
        "number": np.arange(start[-1]) - np.repeat(start[:-1], sizes),
    }
    for name, rows in values.items():
        made = made.with_attribute("point", name, rows)
    for name, source_kind in (read_names(target, read) if read.strip() else {}).items():
        made = made.with_attribute("point", name, found.attribute(source_kind, name))
    tell_left_behind(geo, "points lie on the target; 'sender' says whose ray it was")
    return beside_whole(made, geo)
