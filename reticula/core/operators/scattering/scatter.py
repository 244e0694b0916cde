"""Scatter: random points on a surface."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.measure.areas import face_areas
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Integer, Number, PerElement, Selection
from reticula.core.operators.shared.gap_filling import without_gaps
from reticula.core.operators.shared.new_points import beside_whole
from reticula.core.operators.shared.scatter_candidates import (
    CANDIDATES,
    Candidates,
    Spacing,
    carried_points,
    evenly,
    on_surface,
    require,
    spaced,
)

__all__ = ["CARRIES", "nothing", "scatter"]

CARRIES = (
    "Makes points that carry every attribute of the surface: those of points and corners "
    "interpolated, those of faces taken; "
    "adds normal (if there is none), source_face, source_corners and source_weights."
)
FULL = 12.0
"""Candidates per disk of the spacing that even spacing is thrown from; more would find few new places."""


@operator(
    "scatter",
    family="scattering",
    keywords=("random", "points", "sample", "distribute", "poisson", "blue noise", "density", "sprinkle", "seed"),
    carries=CARRIES,
    example="""
        rock = displace(geodesic_sphere(frequency=24), amount=0.15)
        spots = scatter(rock, where="normal.y > 0.2", amount="spacing", spacing=0.05)
        pearl = geodesic_sphere(radius=0.016, frequency=3)
        pearls = flatten_instances(place_instances(spots, pearl))
        coloured = set_attribute(pearls, name="color", value=CORAL)
        join(rock, coloured)
    """,
    related=("scatter_in_region", "scatter_in_volume", "relax", "place_instances"),
    parameters=(
        Selection("where", "", "faces that receive points; empty means all", on="face"),
        Choice(
            "amount",
            "total",
            "how many points",
            options={
                "total": "a number in all",
                "per area": "a number per square metre",
                "relative": "a number for an area as large as the shape's box diagonal squared; scaling keeps "
                "the count",
                "spacing": "as many as fit with a distance between them",
            },
        ),
        Number("total", 500, "points in all", soft=(0, 5000), low=0.0, step=1, shown_when=("amount", "total")),
        Number(
            "per_area",
            500.0,
            "points per square metre",
            unit="1/m²",
            soft=(0, 5000),
            low=0.0,
            shown_when=("amount", "per area"),
        ),
        Number(
            "relative",
            500.0,
            "points for the diagonal squared",
            soft=(0, 5000),
            low=0.0,
            shown_when=("amount", "relative"),
        ),
        Number(
            "spacing",
            {"formula": "0.05 * extent"},
            "least distance between points",
            unit="m",
            soft=(0, 1),
            low=1e-9,
            shown_when=("amount", "spacing"),
        ),
        Choice(
            "arrangement",
            "random",
            "how they lie",
            options={
                "random": "each by itself",
                "even": "evenly spaced, without clumps and gaps",
            },
            shown_when=("amount", ["total", "per area", "relative"]),
        ),
        PerElement(
            "density", 1.0, "how likely places are, relative to each other; 0 keeps them free", on="point", low=0.0
        ),
        Integer("seed", 0, "another number gives other places", soft=(0, 100)),
    ),
)
def scatter(
    geo: Geo,
    *,
    where: Flags,
    amount: str,
    total: float,
    per_area: float,
    relative: float,
    spacing: float,
    arrangement: str,
    density: Floats,
    seed: int,
) -> Geo:
    """Scatter random points on a surface, with all that the surface knows at each place.

    A place hangs on its number and the seed: with 'random', asking for more points keeps those that were there.
    """
    if not where.any():
        warn("There are no faces to scatter on, so the result is empty.")
        return nothing(geo)
    area = float(face_areas(geo)[where].sum())
    diagonal = float(np.linalg.norm(geo.bounds[1] - geo.bounds[0]))

    def thrown(count: float) -> Candidates:
        return on_surface(geo, density, where, require(count), seed)

    if amount == "spacing":
        candidates = thrown(FULL * area / (np.sqrt(3.0) / 2.0 * spacing * spacing))
        apart = Spacing(spacing, float(candidates.density.max(initial=0.0)), True)
        chosen = without_gaps(geo, spaced(candidates, apart), density, where, apart, seed)
    else:
        asked = {"total": total, "per area": per_area * area, "relative": relative * area / max(diagonal**2, 1e-300)}
        wanted = require(asked[amount])
        if arrangement == "even":
            candidates = thrown(wanted * CANDIDATES)
            share = float(candidates.density.mean() / candidates.density.max()) if len(candidates.density) else 1.0
            chosen = evenly(candidates, wanted, area * max(share, 1e-3), True)
        else:
            chosen = thrown(wanted)
    count = len(chosen.position)
    note(f"{count:,} points on {area:.4g} m², {count / max(area, 1e-300):,.4g} per m².")
    return carried_points(geo, chosen)


def nothing(geo: Geo) -> Geo:
    """Return no points, with the attributes of faces, corners and points."""
    made = Geo.empty()
    kind: Kind
    for kind in ("face", "corner", "point"):
        for name, found in geo.attributes[kind].items():
            if name != "position":
                made = made.with_attribute("point", name, found.take(np.zeros(0, np.int64)))
    return beside_whole(made, geo)
