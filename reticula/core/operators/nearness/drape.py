"""Drape: one shape laid onto another."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.language.scope import Scope
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import (
    Choice,
    GroupName,
    Handle,
    Number,
    PerElement,
    Selection,
    Space,
    Toggle,
    Vector,
)
from reticula.core.operators.shared.reach import limited_reach
from reticula.core.rows import unit
from reticula.core.spatial.sampling import sample_closest, sample_ray
from reticula.core.spatial.true_size import true_size

__all__ = ["drape"]


@operator(
    "drape",
    family="nearness",
    inputs=(Input("geo", "shape that is laid down"), Input("ground", "mesh that it is laid onto")),
    keywords=("project", "snap", "stick", "shrinkwrap", "conform", "lay", "cover", "ground"),
    sections={
        "rays": ("both_ways", "limit_reach", "reach"),
        "names": ("draped",),
        "space": ("space",),
    },
    carries="Carries all; adds or replaces the group of points that found the ground. Stored normals are "
    "left as they are.",
    example="""
        seabed = displace(grid(cells=[60, 60]), amount=0.08, along="direction")
        cloth = transform(disc(radius=0.3, rings=20), move=[0, 0.4, 0])
        lying = drape(cloth, seabed, offset=0.01)
        coloured = set_attribute(lying, name="color", value=CORAL)
        join(seabed, coloured)
    """,
    related=("raycast", "proximity_deform", "push"),
    parameters=(
        Selection.each("point", "points that are laid down; empty means all"),
        Choice(
            "way",
            "direction",
            "which way points go",
            options={
                "direction": "along a fixed direction",
                "normals": "against their own normals",
                "closest": "to the nearest place",
            },
        ),
        Vector(
            "direction",
            [0.0, -1.0, 0.0],
            "which way; the length does not matter",
            shown_when=("way", "direction"),
            handle=Handle("direction"),
        ),
        Toggle(
            "both_ways",
            True,
            "also look the other way, and take what is nearer",
            shown_when=("way", ["direction", "normals"]),
        ),
        *limited_reach("0.6", "largest way", switch="leave points that would go farther than the reach", most=5),
        PerElement("offset", 0.0, "stay this far above the ground, measured along its normal", on="point"),
        Number("share", 1.0, "1 goes all the way, 0 stays", soft=(0, 1)),
        GroupName("draped", "draped", "group of the points that found the ground", kind="point"),
        Space.choice(),
    ),
)
def drape(
    geo: Geo,
    ground: Geo,
    *,
    where: Flags,
    way: str,
    direction: list[float],
    both_ways: bool,
    limit_reach: bool,
    reach: float,
    offset: Floats,
    share: float,
    draped: str,
    space: str,
) -> Geo:
    """Lay points onto a mesh along a direction, along their normals or to the nearest place; the others stay."""
    chosen = np.flatnonzero(where)
    begin, far = geo.positions[chosen], reach if limit_reach else np.inf
    if way == "closest":
        found = sample_closest(ground, begin, far)
    else:
        ways = (
            np.tile(unit(np.array([direction])), (len(chosen), 1))
            if way == "direction"
            else -Scope(geo, "point").values("point", "normal")[chosen]
        )
        found = sample_ray(ground, begin, ways, far, both=both_ways)
    up = found.normal
    if way != "closest":
        up = np.where((np.einsum("ij,ij->i", up, ways) > 0)[:, None], -up, up)
    end = found.position + up * (offset[chosen] / true_size(ground).stretch(up))[:, None]
    positions = np.array(geo.positions)
    rows = chosen[found.found]
    positions[rows] = (begin + share * (end - begin))[found.found]
    missed = len(chosen) - len(rows)
    if len(chosen) and not len(rows):
        warn("No point found the ground. Check the direction, the reach, and whether both shapes lie where you expect.")
    elif missed:
        note(f"{missed:,} of {len(chosen):,} points did not find the ground and stayed.")
    elif len(rows):
        note(
            f"All {len(rows):,} points found the ground; ways are {found.distance.min():.3g} to "
            f"{found.distance.max():.3g} m long."
        )
    members = np.zeros(len(where), bool)
    members[rows] = True
    return geo.with_positions(positions).with_attribute("point", draped, members)
