"""Raycast: what lies in a direction."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import (
    AttributeName,
    Choice,
    Handle,
    KindChoice,
    Number,
    Parameter,
    PerElement,
    Selection,
    Space,
    Text,
)
from reticula.core.operators.shared.name_patterns import matching
from reticula.core.operators.shared.reach import limited_reach
from reticula.core.rows import nonzero_rows
from reticula.core.spatial.sampling import SAMPLED, Sample, sample_hits, sample_ray

__all__ = ["LIMITS", "RAYS", "raycast", "read_names", "tell_of_hits"]


RAYS: tuple[Parameter, ...] = (
    KindChoice.of(("point", "face", "corner", "edge", "curve"), "point", "what sends the rays"),
    Selection("where", "", "which elements send one; empty means all", on="kind"),
    PerElement("origin", {"formula": "position"}, "where each ray begins", on="kind", type="vec3"),
    PerElement(
        "direction",
        [0.0, -1.0, 0.0],
        "which way; the length does not matter",
        on="kind",
        type="vec3",
        soft=(-1, 1),
        handle=Handle("direction"),
    ),
)
"""Where rays begin and which way they go."""
LIMITS: tuple[Parameter, ...] = (
    *limited_reach("0.6", "largest distance", switch="ignore what is farther away than the reach", most=10),
    Number(
        "offset",
        {"formula": "0.00005 * extent"},
        "start this far along the ray, so that a surface does not hit itself",
        unit="m",
        soft=(0, 0.1),
        low=0.0,
        step=0.0001,
    ),
)
"""How near and how far they are followed."""


@operator(
    "raycast",
    family="attributes",
    inputs=(Input("geo", "geometry whose elements send the rays"), Input("target", "mesh that the rays may hit")),
    keywords=("ray", "shoot", "project", "hit", "shadow", "exposure", "distance", "occlusion"),
    sections={
        "rays": ("ways", "hits", "limit_reach", "reach", "offset"),
        "what is kept": ("name", "read", "values"),
        "space": ("space",),
    },
    carries=(
        "Carries all; adds or replaces the groups hit and hit_missed and the attributes hit_position, hit_normal, "
        "hit_distance and hit_face, the read attributes with hit_ before their names, and with all "
        "hits hit_count and hit_distances."
    ),
    example="""
        stone = transform(geodesic_sphere(radius=0.3, frequency=10), move=[0, 0.5, 0])
        seabed = grid(cells=[60, 60])
        looked = raycast(seabed, stone, direction=[0, 1, 0], name="shaded")
        shade = set_attribute(looked, name="color", where="shaded", value=WATER)
        join(shade, stone)
    """,
    related=("ray_hits", "ray_value", "drape"),
    parameters=(
        *RAYS,
        Choice(
            "ways",
            "forwards",
            "along the direction only, or against it too",
            options={
                "forwards": "along the direction",
                "both": "both ways, the nearer hit counts",
            },
        ),
        Choice("hits", "first", "which hits", options={"first": "the first one", "all": "all along the ray"}),
        *LIMITS,
        AttributeName("name", "hit", "group of the elements that hit; the other attributes begin with it", new=True),
        Text("read", "", "attributes of what was hit to bring along, with spaces between; * for all", most=500),
        Choice(
            "values",
            "interpolated",
            "how they are read",
            options={
                "interpolated": "blended at the place",
                "nearest": "of the nearest corner",
            },
        ),
        Space.choice(),
    ),
)
def raycast(
    geo: Geo,
    target: Geo,
    *,
    kind: str,
    where: Flags,
    origin: Floats,
    direction: Floats,
    ways: str,
    hits: str,
    limit_reach: bool,
    reach: float,
    offset: float,
    name: str,
    read: str,
    values: str,
    space: str,
) -> Geo:
    """Send a ray from each element and tell what it hits.

    Makes the groups ``hit`` and ``hit_missed`` and the attributes ``hit_position`` (m), ``hit_normal`` (unit, of the
    face that was hit), ``hit_distance`` (m) and ``hit_face`` (its number). Where nothing is hit, the position is where
    the ray begins, the normal is 0, and distance and face are -1, which no hit has. Elements that send no ray are in
    neither group.
    """
    on = cast(Kind, kind)
    chosen = None if where.all() else np.flatnonzero(where)
    o, d = (origin, direction) if chosen is None else (origin[chosen], direction[chosen])
    far = reach if limit_reach else np.inf
    first = sample_ray(target, o, d, far, offset, both=ways == "both")
    tell_of_hits(len(o), int(first.found.sum()), not nonzero_rows(d).all(), on)
    names = read_names(target, read) if read.strip() else {}
    made = geo
    for suffix, value in _found(first, o).items():
        spread = value if chosen is None else _spread(value, suffix, chosen, origin)
        made = made.with_attribute(on, name + suffix, spread)
    for called, source_kind in names.items():
        brought = first.attribute(source_kind, called, corner=values == "nearest")
        rows = np.full(len(where), -1)
        rows[where] = np.arange(len(o))
        made = made.with_attribute(on, f"{name}_{called}", brought.take(rows))
    if hits == "all":
        start, points = sample_hits(target, o, d, far, offset, both=ways == "both")
        sizes = np.zeros(len(where), np.int64)
        sizes[where] = np.diff(start)
        made = made.with_attribute(on, f"{name}_count", sizes)
        lists = Attribute(
            "number list",
            as_readonly(points.distance),
            as_readonly(np.concatenate([[0], np.cumsum(sizes)]).astype(np.int32)),
        )
        made = made.with_attribute(on, f"{name}_distances", lists)
        note(f"{len(points.distance):,} hits in all, {sizes.max(initial=0):,} at most on one ray.")
    return made


def _found(sample: Sample, origin: Floats) -> dict[str, AnyArray]:
    return {
        "": sample.found,
        "_missed": ~sample.found,
        "_position": np.where(sample.found[:, None], sample.position, origin),
        "_normal": sample.normal,
        "_distance": sample.distance,
        "_face": sample.face.astype(np.int64),
    }


def _spread(values: AnyArray, suffix: str, chosen: AnyArray, origin: Floats) -> AnyArray:
    """Values of the senders among all elements."""
    out = np.zeros((len(origin), *values.shape[1:]), values.dtype)
    if suffix == "_position":
        out[...] = origin
    elif suffix in ("_distance", "_face"):
        out[...] = -1
    out[chosen] = values
    return out


def read_names(target: Geo, patterns: str) -> dict[str, Kind]:
    """Return the attributes of a target that patterns name, each with the kind it is read from."""
    there: dict[str, Kind] = {}
    for kind in SAMPLED:
        for name in target.attributes[kind]:
            if name != "position":
                there.setdefault(name, kind)
    return {name: there[name] for name in matching("read", patterns, there, "target")}


def tell_of_hits(sent: int, struck: int, without_direction: bool, kind: Kind) -> None:
    """Say how many rays hit; warn if none did."""
    if without_direction:
        warn("Some directions are 0; their rays hit nothing.")
    if sent and not struck:
        warn("Every ray missed. Check the direction, the reach, and whether both meshes lie where you expect.")
    else:
        note(f"{struck:,} of {sent:,} {PLURAL[kind]} hit something ({struck / max(sent, 1):.1%}).")
