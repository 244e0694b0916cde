"""Raycast: what lies in a direction."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.kinds import PLURAL
from reticula.core.language.scope import Scope
from reticula.core.notes import note, warn
from reticula.core.operators.declare import Input, operator
from reticula.core.operators.parameters import AttributeName, KindChoice, Number, Toggle, Varying, Where
from reticula.core.spatial import surface_of

__all__ = ["raycast"]

NO_HIT = -1.0


@operator(
    "raycast",
    family="attributes",
    inputs=(Input("geo", "geometry whose elements send the rays"), Input("target", "mesh that the rays may hit")),
    keywords=("ray", "shoot", "project", "hit", "shadow", "exposure", "distance"),
    carries="Carries all; adds or replaces the attributes hit, hit_position, hit_normal and hit_distance.",
    parameters=(
        KindChoice.of(("point", "face", "corner"), "point", "what sends the rays"),
        Where("where", "", "which elements send one; empty means all", on="kind"),
        Varying("direction", [0.0, -1.0, 0.0], "which way; the length does not matter", on="kind", type="vec3", soft=(-1, 1)),
        Toggle("limit_reach", False, "ignore what is farther away than the reach"),
        Number("reach", 1.0, "largest distance", unit="m", soft=(0, 10), low=0.0, shown_when=("limit_reach", True)),
        Number("offset", 0.0001, "start this far along the ray, so that a surface does not hit itself", unit="m", soft=(0, 0.1), low=0.0, step=0.0001),
        AttributeName("name", "hit", "group of the elements that hit; the other attributes begin with it", new=True),
    ),
)  # fmt: skip
def raycast(
    geo: Geo, target: Geo, *, kind: str, where: Flags, direction: Floats,
    limit_reach: bool, reach: float, offset: float, name: str,
) -> Geo:  # fmt: skip
    """Send a ray from each element and tell what it hits first.

    Makes the group ``hit`` and the attributes ``hit_position`` (m), ``hit_normal`` (unit, of the face that was hit)
    and ``hit_distance`` (m). Where nothing is hit, the position is the element's own, the normal is 0 and the
    distance is -1, which no hit has.
    """
    on = cast(Kind, kind)
    origin = np.array(Scope(geo, on).values(on, "position"))
    chosen = np.flatnonzero(where)
    surface = surface_of(target)
    places = surface.ray(origin[chosen], direction[chosen], reach if limit_reach else np.inf, offset)
    struck = chosen[places.found]
    hit, normal, distance = np.zeros(len(origin), bool), np.zeros_like(origin), np.full(len(origin), NO_HIT)
    hit[struck] = True
    origin[struck] = places.position[places.found]
    normal[struck] = surface.normals(places)[places.found]
    distance[struck] = places.distance[places.found]
    _tell(len(chosen), len(struck), bool((direction[chosen] == 0).all(axis=1).any()), on)
    for suffix, values in (("", hit), ("_position", origin), ("_normal", normal), ("_distance", distance)):
        geo = geo.with_attribute(on, name + suffix, values)
    return geo


def _tell(sent: int, struck: int, without_direction: bool, kind: Kind) -> None:
    if without_direction:
        warn("Some directions are 0; their rays hit nothing.")
    if sent and not struck:
        warn("Every ray missed. Check the direction, the reach, and whether both meshes lie where you expect.")
    else:
        note(f"{struck:,} of {sent:,} {PLURAL[kind]} hit something ({struck / max(sent, 1):.1%}).")
