"""Scatter in volume: random points inside of a mesh."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.remesh.scattering import sample_box
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.shared.new_points import beside_whole, tell_left_behind
from reticula.core.operators.shared.scatter_candidates import (
    CANDIDATES,
    Spacing,
    amounts,
    bare_places,
    evenly,
    require,
    spaced,
)
from reticula.core.operators.shared.volume_gaps import filled_volume
from reticula.core.spatial.winding import winding_numbers

__all__ = ["scatter_in_volume"]

PROBE = 4096
"""Places that tell how much of the box the mesh fills."""
FULL = 3.0


@operator(
    "scatter_in_volume",
    family="scattering",
    keywords=("random", "points", "fill", "inside", "cloud", "poisson", "centres", "solid"),
    carries="Makes points; carries only the values of the whole, since a mesh has none inside. Transfer attribute "
    "brings the nearest ones.",
    example="""
        body = geodesic_sphere(frequency=6)
        spots = scatter_in_volume(body, total=260, arrangement="even")
        pearl = geodesic_sphere(radius=0.03, frequency=3)
        pearls = place_instances(spots, pearl)
        flatten_instances(pearls)
    """,
    related=("scatter", "break_into_cells", "group_inside"),
    parameters=amounts("volume", "1/m³", 0.1, "random"),
)
def scatter_in_volume(
    geo: Geo, *, amount: str, total: float, per_volume: float, spacing: float, arrangement: str, seed: int
) -> Geo:
    """Scatter random points inside of a mesh; it may have holes (generalised winding number)."""
    if not geo.topology.face_count:
        warn("There are no faces, so there is no inside, and the result is empty.")
        return beside_whole(Geo.empty(), geo)
    low, high = geo.bounds
    inside = winding_numbers(geo, sample_box(low, high, 0, PROBE, seed)) > 0.5
    volume = float(np.prod(high - low)) * float(inside.mean())
    if volume == 0.0:
        warn("The mesh encloses nothing: it is flat or open, or its faces look inwards (put reverse before this).")
        return beside_whole(Geo.empty(), geo)
    if amount == "spacing":
        made = _places(geo, require(FULL * volume / (spacing**3 / np.sqrt(2.0))), volume, seed)
        places = filled_volume(geo, spaced(bare_places(made), Spacing(spacing, 1.0, False)).position, spacing, seed)
    else:
        wanted = require(total if amount == "total" else per_volume * volume)
        many = require(wanted * CANDIDATES) if arrangement == "even" else wanted
        places = _places(geo, many, volume, seed)
        if arrangement == "even":
            places = evenly(bare_places(places), wanted, volume, False).position
    note(f"{len(places):,} points in about {volume:.3g} m³.")
    tell_left_behind(geo, "points lie inside")
    return beside_whole(Geo.of(places), geo)


def _places(geo: Geo, wanted: int, volume: float, seed: int) -> Floats:
    """Throw places into the box until enough lie inside; the first ones do not depend on how many are wanted."""
    low, high = geo.bounds
    share = volume / float(np.prod(high - low))
    found: list[Floats] = []
    have = begin = 0
    while have < wanted:
        batch = int(min(max((wanted - have) / share * 1.1, 1024), 4_000_000))
        thrown = sample_box(low, high, begin, batch, seed)
        kept = thrown[winding_numbers(geo, thrown) > 0.5]
        found.append(kept)
        have, begin = have + len(kept), begin + batch
    return np.concatenate(found)[:wanted] if found else np.zeros((0, 3))
