"""Proximity deform: points pulled to, pushed from or bulged around what is near."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.measure.areas import point_normals
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import (
    AttributeName,
    Choice,
    Integer,
    Number,
    PerElement,
    Selection,
    Space,
)
from reticula.core.operators.shared.point_moves import AS_ONE, points_of_unit, spread_moves, unit_of_points
from reticula.core.operators.shared.profiles.response_curve import Response, ResponseCurve
from reticula.core.reports.attribute_writing import write_attribute
from reticula.core.rows import unit
from reticula.core.spatial.points import points_of
from reticula.core.spatial.sampling import Sample, sample_closest, sample_points
from reticula.core.spatial.true_size import true_size

__all__ = ["proximity_deform"]


@operator(
    "proximity_deform",
    family="nearness",
    inputs=(Input("geo", "geometry whose points move"), Input("source", "points, curves or mesh that they feel")),
    keywords=("attract", "repel", "attractor", "magnet", "bulge", "falloff", "influence", "near", "distance"),
    sections={
        "what is felt": ("most", "falloff"),
        "names": ("name",),
        "space": ("space",),
    },
    carries="Carries all; adds or replaces the number attribute of strength. Stored normals are left as they are.",
    example="""
        seabed = grid(cells=[60, 60])
        stone = transform(geodesic_sphere(radius=0.12), move=[0.1, 0.1, 0])
        felt = proximity_deform(seabed, stone, effect="bulge", radius=0.35, amount=0.12)
        join(felt, stone)
    """,
    related=("displace", "push", "drape", "group_by_nearness"),
    parameters=(
        Selection.each("point", "points that may move; empty means all"),
        Choice(
            "effect",
            "bulge",
            "what the points do",
            options={
                "pull": "go towards the nearest place",
                "push": "go away from it, as far as the radius",
                "bulge": "go along their normals by the amount",
            },
        ),
        Choice(
            "feel",
            "surface",
            "what is felt",
            options={
                "surface": "the nearest place on faces or curves",
                "points": "the nearest point",
                "count": "how many points are within the radius",
            },
        ),
        Number("radius", {"formula": "0.3 * extent"}, "how far it is felt", unit="m", soft=(0, 3), low=1e-9),
        Integer(
            "most",
            10,
            "number of points that counts as full strength",
            soft=(1, 100),
            low=1,
            shown_when=("feel", "count"),
        ),
        ResponseCurve(
            "falloff",
            [[0.0, 1.0], [0.5, 0.5], [1.0, 0.0]],
            "strength (up) by distance as a share of the radius (along)",
            soft=(0.0, 1.0),
        ),
        PerElement("strength", 1.0, "factor of each point", on="point"),
        Number(
            "amount",
            {"formula": "0.06 * extent"},
            "how far a bulge goes at full strength",
            unit="m",
            soft=(-1, 1),
            shown_when=("effect", "bulge"),
        ),
        AS_ONE,
        AttributeName("name", "near", "attribute of each point that keeps its strength", new=True),
        Space.choice(),
    ),
)
def proximity_deform(
    geo: Geo,
    source: Geo,
    *,
    where: Flags,
    effect: str,
    feel: str,
    radius: float,
    most: int,
    falloff: Response,
    strength: Floats,
    amount: float,
    move: str,
    name: str,
    space: str,
) -> Geo:
    """Move points by how near they are to points, curves or a mesh."""
    if not source.topology.point_count:
        warn("There is nothing on 'source' to feel, so nothing moves.")
        return write_attribute(geo, "point", name, np.zeros(geo.topology.point_count))
    places = unit_of_points(geo, move, geo.positions)
    found = (sample_closest if feel == "surface" else sample_points)(source, places, radius)
    if feel == "count":
        counts = points_of(source).count(places, radius, most)
        felt = falloff(1.0 - counts / most) * (counts > 0)
    else:
        felt = np.where(found.found, falloff(np.clip(found.distance / radius, 0.0, 1.0)), 0.0)
    weight = felt * unit_of_points(geo, move, np.where(where, strength, 0.0))
    if geo.topology.point_count and not felt.any():
        warn(f"Nothing lies within {radius:g} m, so nothing moves; make the radius larger, or check where both stand.")
    else:
        note(f"{int((weight != 0).sum()):,} of {len(weight):,} {move} are moved.")
    moves = _moves(geo, found, places, effect, radius, amount, move) * weight[:, None]
    return write_attribute(spread_moves(geo, move, moves), "point", name, points_of_unit(geo, move, weight))


def _moves(geo: Geo, found: Sample, places: Floats, effect: str, radius: float, amount: float, move: str) -> Floats:
    """The move at full strength."""
    if effect == "bulge":
        return amount * unit(unit_of_points(geo, move, point_normals(geo)))
    away = np.where(found.found[:, None], places - found.position, 0.0)
    if effect == "pull":
        return -away
    way = unit(away)
    still = found.found & ~way.any(axis=1)
    way[still] = unit(unit_of_points(geo, move, point_normals(geo)))[still]
    short = np.where(found.found, radius - found.distance, 0.0) / true_size(found.source).stretch(way)
    return way * short[:, None]
