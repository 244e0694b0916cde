"""Scatter in region: random points inside of flat closed curves."""

from __future__ import annotations

import numpy as np

from reticula.core.geometry import Geo
from reticula.core.notes import warn
from reticula.core.operators.declare import operator
from reticula.core.operators.parameters import Choice, Integer, Number
from reticula.core.operators.scattering.scatter import CARRIES, nothing, scatter
from reticula.core.operators.solids.fill import fill

__all__ = ["scatter_in_region"]


@operator(
    "scatter_in_region",
    family="scattering",
    keywords=("random", "points", "outline", "curve", "flat", "plan", "polygon", "area"),
    carries=CARRIES + " A closed curve is filled first.",
    parameters=(
        Choice("amount", "total", "how many points", options={
            "total": "a number in all", "per area": "a number per square metre", "spacing": "as many as fit with a distance between them",
        }),
        Number("total", 200, "points in all", soft=(0, 5000), low=0.0, step=1, shown_when=("amount", "total")),
        Number("per_area", 500.0, "points per square metre", unit="1/m²", soft=(0, 5000), low=0.0, shown_when=("amount", "per area")),
        Number("spacing", 0.05, "least distance between points", unit="m", soft=(0, 1), low=1e-9, shown_when=("amount", "spacing")),
        Choice("arrangement", "even", "how they lie", options={
            "random": "each by itself", "even": "evenly spaced, without clumps and gaps",
        }, shown_when=("amount", ["total", "per area"])),
        Integer("seed", 0, "another number gives other places", soft=(0, 100)),
    ),
)  # fmt: skip
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
            geo, what="curve", where=every, using="triangles", across=12.0, keep_curves=False, fill_group="region"
        )
        flat = flat.without_attribute("face", "region")
    return scatter(
        flat, where=np.ones(flat.topology.face_count, bool), amount=amount, total=total, per_area=per_area, relative=0.0,
        spacing=spacing, arrangement=arrangement, density=np.ones(flat.topology.point_count), seed=seed,
    )  # fmt: skip
