"""Group by nearness: elements near another geometry, or nearest to one of its points."""

from __future__ import annotations

import numpy as np

from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Choice, Number, Space, Toggle
from reticula.core.operators.shared.group_marking import COMBINE, MADE, centers_of, marked, naming
from reticula.core.spatial.points import NearestPoints
from reticula.core.spatial.sampling import sample_closest, sample_points

__all__ = ["group_by_nearness"]


@operator(
    "group_by_nearness",
    family="groups",
    inputs=(Input(), Input("source", "geometry to be near to")),
    keywords=("close", "distance", "proximity", "radius", "membership", "reverse", "lookup"),
    sections={
        "reach": ("limit_reach", "reach"),
        "what counts": ("combine", "space"),
    },
    carries=MADE,
    example="""
        tile = grid(cells=[40, 40])
        way = curve_through(
            places=[[-0.5, 0, -0.2], [0, 0, 0.2], [0.5, 0, -0.1]], between="smooth", segments=20
        )
        near = group_by_nearness(tile, way, kind="face", name="near", reach=0.12)
        set_attribute(near, kind="face", name="color", where="near", value=CORAL)
    """,
    related=("group_inside", "proximity_deform", "nearest_value"),
    parameters=(
        *naming("near", ("point", "face", "edge", "corner", "curve")),
        Choice(
            "which",
            "within reach",
            "which elements",
            options={
                "within reach": "all that are near enough",
                "nearest": "those that are the nearest element of some point of the source",
            },
        ),
        Choice(
            "to",
            "surface",
            "measured to",
            options={"surface": "faces and curves of the source", "points": "its points"},
            shown_when=("which", "within reach"),
        ),
        Toggle("limit_reach", True, "ignore what is farther away than the reach", shown_when=("which", "nearest")),
        Number(
            "reach",
            {"formula": "0.25 * extent"},
            "largest distance",
            unit="m",
            soft=(0, 2),
            low=0.0,
        ),
        COMBINE,
        Space.choice(),
    ),
)
def group_by_nearness(
    geo: Geo,
    source: Geo,
    *,
    name: str,
    kind: str,
    which: str,
    to: str,
    limit_reach: bool,
    reach: float,
    combine: str,
    space: str,
) -> Geo:
    """Name the elements near another geometry, or look up which elements its points are nearest to."""
    places = centers_of(geo, kind)
    if not len(places) or not source.topology.point_count:
        warn(f"{'The source' if len(places) else 'This geometry'} holds no elements to measure, so the group is empty.")
        return marked(geo, kind, name, np.zeros(len(places), bool), combine)
    if which == "nearest":
        index, _ = NearestPoints(places, source).nearest(source.positions, reach if limit_reach else np.inf)
        members = np.zeros(len(places), bool)
        members[index[index >= 0]] = True
        note(f"{int((index >= 0).sum()):,} of {len(index):,} source points found one.")
        return marked(geo, kind, name, members, combine, "Make the reach larger." if limit_reach else "")
    sample = sample_closest(source, places) if to == "surface" else sample_points(source, places)
    note(f"Distances are {sample.distance.min():.3g} to {sample.distance.max():.3g} m.")
    return marked(geo, kind, name, sample.distance <= reach, combine)
