"""Scatter in region: random points inside of flat closed curves."""

from __future__ import annotations

import numpy as np

from reticula.core.diagnostics import warn
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.scattering.scatter import CARRIES, nothing, scatter
from reticula.core.operators.shared.scatter_candidates import amounts
from reticula.core.operators.solids.fill import fill

__all__ = ["scatter_in_region"]


@operator(
    "scatter_in_region",
    family="scattering",
    keywords=("random", "points", "outline", "curve", "flat", "plan", "polygon", "area"),
    carries=CARRIES + " A closed curve is filled first.",
    example="""
        star = regular_polygon(sides=5, star=0.5)
        spots = scatter_in_region(star, total=160)
        pearl = geodesic_sphere(radius=0.015, frequency=3)
        pearls = place_instances(spots, pearl)
        join(star, flatten_instances(pearls))
    """,
    related=("scatter", "fill", "scatter_in_volume"),
    parameters=amounts("area", "1/m²", 0.05, "even"),
)
def scatter_in_region(
    geo: Geo, *, amount: str, total: float, per_area: float, spacing: float, arrangement: str, seed: int
) -> Geo:
    """Scatter random points inside of flat closed curves; a curve inside of another one is a hole. Faces count too."""
    flat = geo
    if not geo.topology.face_count:
        if not geo.topology.curve_closed.any():
            warn("There is no closed curve and no face, so there is no region, and the result is empty.")
            return nothing(geo)
        every = np.ones(geo.topology.curve_count, bool)
        flat = fill(
            geo,
            what="curve",
            where=every,
            using="triangles",
            across=12.0,
            rule="even-odd",
            use_points=False,
            keep_curves=False,
            fill_group="region",
        )
        flat = flat.without_attribute("face", "region")
    return scatter(
        flat,
        where=np.ones(flat.topology.face_count, bool),
        amount=amount,
        total=total,
        per_area=per_area,
        relative=0.0,
        spacing=spacing,
        arrangement=arrangement,
        density=np.ones(flat.topology.point_count),
        seed=seed,
    )
